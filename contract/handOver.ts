import { z } from 'zod';
import { id, problemSchema, revision } from './basics.ts';
import { batchSchema } from './jobs.ts';

/** What is handed over, and how it stands. */

export const deliverySettingsSchema = z
  .object({
    cutout: z.enum(['none', 'png', 'png16']),
    finished: z.enum(['none', 'jpeg', 'png']),
    quality: z.number().int().min(60).max(100),
  })
  .strict()
  .refine((s) => s.cutout !== 'none' || s.finished !== 'none', 'Choose cutouts, finished pictures or both.');
export type DeliverySettings = z.infer<typeof deliverySettingsSchema>;

export const keptBackSchema = z.object({ frame: z.string(), subject: z.string(), reason: z.string() });
export type KeptBack = z.infer<typeof keptBackSchema>;

export const deliverySchema = z.object({
  id,
  shootId: id,
  settings: deliverySettingsSchema,
  createdAt: z.string(),
  batch: batchSchema.omit({ revision: true }),
  files: z.number(),
  bytes: z.number(),
  problems: z.array(problemSchema.extend({ frame: z.string() })),
  /** Frames that have no finished picture because nobody has chosen a background for them. */
  leftOut: z.array(z.string()),
  /** Who was kept out of it, and why. */
  keptBack: z.array(keptBackSchema),
  revision,
});
export type Delivery = z.infer<typeof deliverySchema>;
