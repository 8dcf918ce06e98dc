import { z } from 'zod';
import { id, problemSchema, revision, share } from './basics.ts';

/** Everything that takes longer than a second is a job: alone, or one of a batch. */

/**
 * What jobs can be: a cut, the files of one frame to hand over, a hand-over copied to a folder, a shoot’s pictures moved to another folder or back, a shoot that is taken in, an order at the print service, a plate put together, the reading of a round, a frame
 * by the stand-in camera (into Gather, into a round), a set with hidden faults, a picture of the sample shoot, what another
 * recipe would make of a setup, what is found on a frame as it is gathered,
 * a frame developed anew from its raw file.
 */
export const jobKinds = [
  'cut',
  'deliver',
  'copyOut',
  'archive',
  'printOrder',
  'import',
  'plate',
  'reading',
  'shot',
  'testShot',
  'rehearsal',
  'samplePicture',
  'trial',
  'facts',
  'develop',
] as const;
export type JobKind = (typeof jobKinds)[number];
export const batchKinds = ['cut', 'deliver', 'sample'] as const;
export const jobStateSchema = z.enum(['queued', 'running', 'done', 'failed', 'cancelled']);
export type JobState = z.infer<typeof jobStateSchema>;

/** Minutes by hand of a frame by the recipe that holds and by the one that is tried, and how much looks different. */
export const comparedSchema = z.object({ frameId: id, before: z.number(), after: z.number(), changed: share });
export type ComparedFrame = z.infer<typeof comparedSchema>;

/** A job that stands alone. */
export const jobSchema = z.object({
  id,
  kind: z.enum(jobKinds),
  /** Null for what belongs to no shoot. */
  shootId: id.nullable(),
  about: z.object({ setupId: id, checkId: id, planId: id, deliveryId: id }).partial(),
  state: jobStateSchema,
  /** Share of it that is done, where that is known. */
  progress: share.nullable(),
  /** From its progress, or from how long its like took; null until either is known. */
  secondsLeft: z.number().nullable(),
  problem: problemSchema.nullable(),
  /**
   * What it came to: the frame or the shoot that it made, the share of the screen that one of a plate's frames shows, the set to
   * rehearse with, the frames that were tried.
   */
  made: z
    .object({ frameId: id, shootId: id, seen: z.number(), rehearsalId: id, compared: z.array(comparedSchema) })
    .partial()
    .nullable(),
  revision,
});
export type Job = z.infer<typeof jobSchema>;

export const batchSchema = z.object({
  id,
  shootId: id,
  kind: z.enum(batchKinds),
  total: z.number(),
  done: z.number(),
  failed: z.number(),
  cancelled: z.number(),
  /** Jobs waiting or running. */
  open: z.number(),
  /** Estimated from the jobs done so far; null until there is one. */
  secondsLeft: z.number().nullable(),
  revision,
});
export type Batch = z.infer<typeof batchSchema>;
