import { z } from 'zod';
import { doubtFacts } from '../core/cut/doubts.ts';
import {
  doubtKinds,
  factorRange,
  forecastCauses,
  workPlaces,
  type Factors,
  type Foreseen,
  type LogEvent,
  type LoggedSetup,
  type ShootCosts,
  type WorkPlace,
  type WorkTime,
} from '../core/log/index.ts';
import { readingFacts } from '../core/plan/readings.ts';
import { id, keyOf, ranged } from './basics.ts';

/** The log of a shoot: what was planned, measured, done, spent, and what was written down. */

const place = keyOf<WorkPlace>(workPlaces);
const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/);
const amount = z.number().min(0).max(1_000_000);

export const costsSchema: z.ZodType<ShootCosts> = z
  .object({
    hour: amount,
    hoursThere: z.number().min(0).max(1000),
    other: amount,
    otherWhat: z.string().trim().max(120),
  })
  .strict();

/** Seconds that somebody really worked at a station; sent by pages every minute or so. */
export const MOST_AT_ONCE = 600;
export const activitySchema = z.object({ place, day, seconds: z.number().int().min(1).max(MOST_AT_ONCE) }).strict();
export type Activity = z.infer<typeof activitySchema>;
/** Sets a time right; null takes it back to what was measured. */
export const correctionSchema = z
  .object({ place, day, seconds: z.number().int().min(0).max(86_400).nullable() })
  .strict();

export const workTimeSchema: z.ZodType<WorkTime> = z.object({
  place,
  day,
  seconds: z.number(),
  corrected: z.number().nullable(),
});

export const noteKinds = ['note', 'camera', 'background', 'erased'] as const;
export type NoteKind = (typeof noteKinds)[number];
const number = (min: number, max: number) => z.number().min(min).max(max).nullable();
/** What a picture was taken with: of a setup’s camera, or of a background. */
export const cameraNoteSchema = z
  .object({
    camera: z.string().trim().max(120),
    lens: z.string().trim().max(120),
    /** mm, f-number, seconds, ISO */
    focal: number(1, 2000),
    aperture: number(0.7, 64),
    shutter: number(0.00001, 3600),
    iso: number(1, 1_000_000),
    /** m, degrees up, m */
    height: number(0, 100),
    tilt: number(-90, 90),
    distance: number(0, 1000),
  })
  .strict();
export type CameraNote = z.infer<typeof cameraNoteSchema>;
const noteFields = {
  kind: z.enum(['note', 'camera', 'background']),
  /** Local time without zone. */
  at: z.string().regex(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2})?$/),
  place,
  setupId: id.nullable(),
  words: z.string().trim().max(4000),
  camera: cameraNoteSchema.nullable(),
};
export const newNoteSchema = z.object(noteFields).strict();
export type NewNote = z.infer<typeof newNoteSchema>;
export const noteChangeSchema = z.object(noteFields).partial().strict();
export const noteSchema = z.object({
  ...noteFields,
  id,
  kind: z.enum(noteKinds),
  /** First digits of its picture’s hash. */
  picture: z.string().nullable(),
});
export type Note = z.infer<typeof noteSchema>;

const byCause = z.partialRecord(z.enum(forecastCauses as [string, ...string[]]), z.number());
const foreseenSchema = z.object({ frames: z.number(), causes: byCause }) as unknown as z.ZodType<Foreseen>;
const byDoubt = z.partialRecord(keyOf(doubtFacts), z.number());
export const loggedSetupSchema = z.object({
  id,
  name: z.string(),
  set: z
    .object({
      material: z.string(),
      colour: z.string(),
      area: z.number(),
      screenCost: z.number(),
      kitCost: z.number(),
      distance: z.number(),
      light: z.string(),
    })
    .nullable(),
  readings: z.partialRecord(keyOf(readingFacts), z.number()),
  measured: z.boolean(),
  plan: foreseenSchema.nullable(),
  check: foreseenSchema.nullable(),
  frames: z.number(),
  cut: z.number(),
  accepted: z.object({ frames: z.number(), foreseen: byDoubt, spent: z.number() }),
  doubts: z.number(),
}) as unknown as z.ZodType<LoggedSetup>;
export const logEventSchema: z.ZodType<LogEvent> = z.object({
  at: z.string(),
  place,
  setup: z.string(),
  words: z.string(),
  details: z.array(z.string()),
});

/** Version of the exported log; programs that read it look here first. */
export const LOG_VERSION = 1;
export const shootLogSchema = z.object({
  format: z.literal('silent-lawn-log'),
  version: z.literal(LOG_VERSION),
  shoot: z.object({ id, name: z.string(), date: z.string(), place: z.string(), sample: z.boolean() }),
  setups: z.array(loggedSetupSchema),
  times: z.array(workTimeSchema),
  costs: costsSchema,
  /** Pictures that are neither plates nor dropped, and hand-overs. */
  pictures: z.number(),
  handedOver: z.number(),
  events: z.array(logEventSchema),
  notes: z.array(noteSchema),
});
export type ShootLog = z.infer<typeof shootLogSchema>;

/** The documented form of an exported log as JSON Schema. */
export function logJsonSchema(): unknown {
  return z.toJSONSchema(shootLogSchema);
}

/** What a shoot takes on the disk. */
export const spaceTakenSchema = z.object({
  what: z.enum(['photographs', 'cuts', 'test frames and notes', 'hand-overs']),
  files: z.number(),
  bytes: z.number(),
});
export type SpaceTaken = z.infer<typeof spaceTakenSchema>;
/** The same of all of it, and the folder that its pictures were moved to, if they were. */
export const spaceSchema = z.object({
  taken: z.array(spaceTakenSchema),
  archive: z.object({ folder: z.string(), there: z.boolean() }).nullable(),
});
export type Space = z.infer<typeof spaceSchema>;
/** Where a shoot’s pictures are to be moved to; null brings them back. */
export const archiveRequestSchema = z
  .object({
    folder: z
      .string()
      .trim()
      .max(400)
      .refine(
        (folder) => folder.startsWith('/') || /^[A-Za-z]:[\\/]/.test(folder),
        'Give the whole path of the folder.',
      )
      .nullable(),
  })
  .strict();

const factor = ranged(factorRange);
export const factorsSchema = z
  .object({
    causes: z.partialRecord(z.enum(forecastCauses as [string, ...string[]]), factor),
    doubts: z.partialRecord(z.enum(doubtKinds as [string, ...string[]]), factor),
  })
  .strict() as unknown as z.ZodType<Factors>;
