import { z } from 'zod';
import { readingFacts, type ReadingId } from '../core/plan/readings.ts';
import { rehearsedFacts, type RehearsedCause } from '../core/screen/causeFacts.ts';
import { remedies, type RemedyId } from '../core/studio/rehearsal.ts';
import { id, keyOf } from './basics.ts';
import { findingsSchema, testPictureSchema } from './check.ts';

/** Sets with hidden faults, and what was answered. */

export const LEVELS = 5;
export const newRehearsalSchema = z
  .object({ level: z.number().int().min(1).max(LEVELS), seed: z.number().int().min(0).max(1e9).optional() })
  .strict();
/** An empty list says that nothing is wrong. */
export const rehearsalAnswerSchema = z
  .object({
    causes: z.array(keyOf<RehearsedCause>(rehearsedFacts)).max(3),
    remedy: keyOf<RemedyId>(remedies).nullable(),
  })
  .strict();
export type RehearsalAnswer = z.infer<typeof rehearsalAnswerSchema>;
export const rehearsalSchema = z.object({
  id,
  level: z.number(),
  createdAt: z.string(),
  pictures: z.array(testPictureSchema),
  /** Readings without the causes, until it has been answered. */
  findings: findingsSchema,
  answer: rehearsalAnswerSchema.nullable(),
  truth: z
    .object({
      causes: z.array(keyOf<RehearsedCause>(rehearsedFacts)),
      remedies: z.array(keyOf<RemedyId>(remedies)),
      shownBy: z.array(keyOf<ReadingId>(readingFacts)),
      causesRight: z.boolean(),
      remedyRight: z.boolean(),
    })
    .nullable(),
});
export type Rehearsal = z.infer<typeof rehearsalSchema>;
export const rehearsalResultSchema = z.object({
  id,
  level: z.number(),
  createdAt: z.string(),
  answered: z.boolean(),
  causesRight: z.boolean(),
  remedyRight: z.boolean(),
  causes: z.array(z.string()),
});
export type RehearsalResult = z.infer<typeof rehearsalResultSchema>;

/** What was rehearsed, and the jobs that make sets just now. */
export const rehearsalListSchema = z.object({ results: z.array(rehearsalResultSchema), making: z.array(id) });
export type RehearsalList = z.infer<typeof rehearsalListSchema>;
