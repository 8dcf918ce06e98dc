import { z } from 'zod';
import { id } from './basics.ts';

/** Shoots as the start page shows them. */

export const shootSchema = z.object({
  id,
  name: z.string(),
  date: z.string(),
  place: z.string(),
  /** The sample shoot that comes with the application. */
  sample: z.boolean(),
  /** A few of its frames, spread over the shoot; `cut` names the cut's content. */
  strip: z.array(z.object({ id, picture: z.string(), cut: z.object({ version: z.string() }).nullable() })),
  plans: z.number(),
  rounds: z.number(),
  signed: z.number(),
  frames: z.number(),
  cut: z.number(),
  placed: z.number(),
  handedOver: z.number(),
  /** What the doubts of its cuts will cost by hand. */
  minutes: z.number(),
  /** Pictures of the sample still to be rendered; 0 otherwise. */
  pending: z.number(),
  /** The folder that its pictures were moved to, if they were. */
  archive: z.string().nullable(),
  /** When it was removed; it can be brought back for a while. */
  removedAt: z.string().nullable(),
});
export type Shoot = z.infer<typeof shootSchema>;
/** How long a removed shoot can be brought back, minutes. */
export const BACK_MINUTES = 10;

export const newShootSchema = z
  .object({
    name: z.string().trim().min(1, 'Give the shoot a name.').max(120),
    date: z.iso.date('Give the date as year-month-day.'),
    place: z.string().trim().max(120).default(''),
  })
  .strict();
export type NewShoot = z.input<typeof newShootSchema>;
export const changeShootSchema = newShootSchema
  .extend({ place: z.string().trim().max(120) })
  .partial()
  .strict();
export type ShootChange = z.infer<typeof changeShootSchema>;

/** Every shoot, the removed ones that can be brought back too, and whether the sample is among them. */
export const shootListSchema = z.object({
  shoots: z.array(shootSchema),
  sampleHere: z.boolean(),
  /** Seconds of this machine for one cut; null until there are some. */
  cutSeconds: z.number().nullable(),
});
export type ShootList = z.infer<typeof shootListSchema>;
/** A setup that is the start of another shoot; without one all of them. */
export const copyShootSchema = z.object({ setupId: id.optional() }).strict();
