import { z } from 'zod';
import { id, problemSchema, revision } from './basics.ts';
import { checkSchema } from './check.ts';
import { orderSchema } from './extract.ts';
import { frameSchema, setupSchema, subjectSchema } from './gather.ts';
import { deliverySchema } from './handOver.ts';
import { batchSchema, jobSchema } from './jobs.ts';
import { styleSchema } from './place.ts';
import { planRowSchema } from './plan.ts';
import { shootSchema } from './shoots.ts';

/** What an open page is told: a shoot as a whole, and what changes in it. */

export const shootDetailSchema = z.object({
  shoot: shootSchema,
  setups: z.array(setupSchema),
  frames: z.array(frameSchema),
  subjects: z.array(subjectSchema),
  batches: z.array(batchSchema),
  deliveries: z.array(deliverySchema),
  plans: z.array(planRowSchema),
  styles: z.array(styleSchema),
  checks: z.array(checkSchema),
  orders: z.array(orderSchema),
  /** Those that stand alone and are open, or failed lately. */
  jobs: z.array(jobSchema),
  /** What is kept and cannot be read; everything else is shown without it. */
  broken: z.array(problemSchema),
  revision,
  /** Seconds of this machine for one frame, measured on the latest cuts; null until there are some. */
  cutSeconds: z.number().nullable(),
});
export type ShootDetail = z.infer<typeof shootDetailSchema>;

export const healthSchema = z.object({
  instance: z.string(),
  /** Pictures of the sample shoot that are there, of all. */
  sample: z.object({ done: z.number(), total: z.number() }),
  /** 503 while it is down. */
  database: z.enum(['up', 'starting']),
});
export type Health = z.infer<typeof healthSchema>;

/** The kinds of items that a shoot has and that pages are told about. */
export const itemSchemas = {
  setups: setupSchema,
  frames: frameSchema,
  subjects: subjectSchema,
  batches: batchSchema,
  deliveries: deliverySchema,
  plans: planRowSchema,
  styles: styleSchema,
  checks: checkSchema,
  orders: orderSchema,
  jobs: jobSchema,
};
export type ItemKind = keyof typeof itemSchemas;
export const itemKinds = Object.keys(itemSchemas) as ItemKind[];
export type Items = { [K in ItemKind]: z.infer<(typeof itemSchemas)[K]>[] };
export const noItems = (): Items => ({
  setups: [],
  frames: [],
  subjects: [],
  batches: [],
  deliveries: [],
  plans: [],
  styles: [],
  checks: [],
  orders: [],
  jobs: [],
});

/** Server-sent events. */
export const eventSchema = z.discriminatedUnion('type', [
  /** Items of a shoot that are new, changed or gone, gathered over a moment. */
  z.object({
    type: z.literal('changed'),
    shootId: id,
    revision,
    items: z.object(
      Object.fromEntries(itemKinds.map((kind) => [kind, z.array(itemSchemas[kind]).optional()])) as unknown as {
        [K in ItemKind]: z.ZodOptional<z.ZodArray<(typeof itemSchemas)[K]>>;
      },
    ),
    gone: z.partialRecord(z.enum(itemKinds as [ItemKind, ...ItemKind[]]), z.array(id)),
  }),
  /** A job that belongs to no shoot. */
  z.object({ type: z.literal('job'), job: jobSchema }),
  z.object({ type: z.literal('backgrounds') }),
  z.object({ type: z.literal('shoots') }),
  /** First on every line: all that was told before has at most this revision. */
  z.object({ type: z.literal('hello'), revision, databaseUp: z.boolean() }),
  /** Whether the database answers; while it is started again, requests wait. */
  z.object({ type: z.literal('database'), up: z.boolean() }),
]);
export type ServerEvent = z.infer<typeof eventSchema>;
