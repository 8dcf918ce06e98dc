import { z } from 'zod';
import { TERMS, type BallLight } from '../core/place/ballLight.ts';

/** What every part of the interface speaks of. */

export const id = z.number().int().positive();
export const idSchema = z.coerce.number().int().positive();
/**
 * When the server read an item: of two readings of one item that with the higher number is the newer. Higher after a
 * restart, too.
 */
export const revision = z.number();
export const share = z.number().min(0).max(1);

/** A number within the range that a table of facts gives. */
export function ranged(facts: { min: number; max: number }): z.ZodNumber {
  return z.number().min(facts.min).max(facts.max);
}

/** One of the keys of a table of facts. */
export function keyOf<T extends string>(facts: Record<T, unknown>): z.ZodEnum<{ [K in T]: K }> {
  return z.enum(Object.keys(facts) as [T, ...T[]]) as never;
}

export const problemSchema = z.object({ reason: z.string(), remedy: z.string() });
export type Problem = z.infer<typeof problemSchema>;

export const MOST_NAME = 255;
export const fileNameSchema = z.object({
  name: z
    .string()
    .min(1, 'the file has no name')
    .refine((name) => name.length <= MOST_NAME, {
      error: (issue) =>
        `“${String(issue.input).slice(0, 40)}…” is a name of ${String(issue.input).length} letters, more than ${MOST_NAME}`,
    }),
});

const terms = z.array(z.number()).length(TERMS);
export const ballLightSchema: z.ZodType<BallLight> = z.object({ red: terms, green: terms, blue: terms });
