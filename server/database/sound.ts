import type { z } from 'zod';
import type { Problem } from '../../contract/index.ts';

/** An item before it is said when it was read. */
export type Unread<T> = Omit<T, 'revision'>;
/** Told what is kept and cannot be shown. */
export type OnBroken = (problem: Problem) => void;

/** Why something that is kept cannot be shown, in words. */
export function flawOf(schema: z.ZodType, item: unknown): string | undefined {
  const result = schema.safeParse(item);
  if (result.success) return undefined;
  const [issue] = result.error.issues;
  return `${issue.path.join('.')}: ${issue.message}`;
}

/**
 * An item as it is if it passes its schema; otherwise the first of its repairs that does. A row that an older version,
 * a fault or a hand in the database spoilt is one broken item and never a dead page.
 * @param repairs from the least loss to the greatest, each given what is wrong.
 * @param broken told of an item that none of them mends.
 */
export function soundOr<T>(
  schema: z.ZodType,
  item: T,
  repairs: ((flaw: string) => T)[],
  broken: OnBroken,
  name: string,
): T[] {
  const flaw = flawOf(schema, item);
  if (flaw === undefined) return [item];
  for (const repair of repairs) {
    const mended = repair(flaw);
    if (flawOf(schema, mended) === undefined) return [mended];
  }
  broken({
    reason: `${name} cannot be read (${flaw})`,
    remedy: 'Everything else is shown without it. If a newer version of the application wrote it, use that one.',
  });
  return [];
}
