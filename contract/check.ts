import { z } from 'zod';
import { readingFacts, type ReadingId } from '../core/plan/readings.ts';
import { causeFacts, type CauseId } from '../core/screen/causeFacts.ts';
import { demoPeople, type SubjectName } from '../core/studio/cast.ts';
import { ballLightSchema, id, keyOf } from './basics.ts';
import { extentSchema } from './extract.ts';
import { referenceSchema } from './gather.ts';

/** Test frames, and what is read from them. */

export const pictureKinds = ['people', 'plate', 'ball', 'grey card', 'colour chart', 'background'] as const;
export type PictureKind = (typeof pictureKinds)[number];
export const pictureKindSchema = z.enum(pictureKinds);

/** A place may lie a little outside the frame. */
const near = z.number().min(-1).max(2);
const circleSchema = z.object({ x: near, y: z.number().min(-1).max(5), radius: z.number().min(0.002).max(2) }).strict();
const boxSchema = z
  .object({ x: near, y: near, width: z.number().min(0.002).max(2), height: z.number().min(0.002).max(2) })
  .strict();
/** Ball, card and chart as shown by hand, in shares of the frame (circles: of its width). */
export const marksSchema = z
  .object({
    ball: circleSchema.optional(),
    background: circleSchema.optional(),
    card: boxSchema.optional(),
    chart: boxSchema.optional(),
  })
  .strict();
export type MarksGiven = z.infer<typeof marksSchema>;

const evidenceSchema = extentSchema.extend({ words: z.string() });
const angles = { azimuth: z.number(), elevation: z.number() };
const ballSchema = z.object({
  circle: z.object({ x: z.number(), y: z.number(), radius: z.number() }),
  ...angles,
  fill: z.object({ ...angles, share: z.number() }).optional(),
  keyOverFill: z.number(),
  softness: z.number(),
  temperature: z.number(),
  tint: z.number(),
  residual: z.number(),
  light: ballLightSchema.optional(),
});
const mapSchema = z.object({ columns: z.number(), rows: z.number(), stops: z.array(z.number().nullable()) });
const causeSchema = z.object({
  id: keyOf<CauseId>(causeFacts),
  title: z.string(),
  weight: z.number(),
  minutes: z.number(),
  remedy: z.string(),
  evidence: z.array(evidenceSchema),
});
const readingSchema = z.object({
  id: keyOf<ReadingId>(readingFacts),
  value: z.number(),
  verdict: z.enum(['within', 'beyond']),
  reason: z.string(),
  minutes: z.number(),
  evidence: z.array(evidenceSchema),
});

export const findingsSchema = z.object({
  found: z.boolean(),
  colour: z.enum(['green', 'blue']).optional(),
  outline: z.object({ polygon: z.array(z.object({ x: z.number(), y: z.number() })), share: z.number() }).optional(),
  inView: z.array(evidenceSchema),
  lawn: mapSchema.optional(),
  spread: z
    .object({
      spread: z.number(),
      spread90: z.number(),
      hot: z.object({ x: z.number(), y: z.number(), stops: z.number() }),
      dark: z.object({ x: z.number(), y: z.number(), stops: z.number() }),
    })
    .optional(),
  patches: z.array(
    extentSchema.extend({ apart: z.number(), risk: z.number(), share: z.number(), colour: z.array(z.number()) }),
  ),
  ball: ballSchema.optional(),
  background: ballSchema.optional(),
  move: z
    .object({ right: z.number(), up: z.number(), ratio: z.number(), softer: z.number(), warmer: z.number() })
    .optional(),
  balance: z
    .object({
      by: z.enum(['grey card', 'colour chart']),
      gains: z.tuple([z.number().positive(), z.number().positive(), z.number().positive()]),
      stops: z.number(),
    })
    .optional(),
  jpeg: z.object({ quality: z.number(), halvedChroma: z.boolean() }).optional(),
  /** The screen on the test frame, for the frames of its setup to be compared with. */
  reference: referenceSchema.optional(),
  readings: z.array(readingSchema),
  causes: z.array(causeSchema),
  difference: mapSchema
    .extend({ most: z.number(), lamps: z.array(z.object({ name: z.string(), share: z.number() })) })
    .optional(),
  forecast: z
    .object({
      frames: z.number(),
      minutes: z.number(),
      low: z.number(),
      high: z.number(),
      causes: z.array(z.object({ id: z.string(), title: z.string(), minutes: z.number() })),
    })
    .optional(),
  ready: z.boolean(),
});
export type Findings = z.infer<typeof findingsSchema>;

export const testPictureSchema = z.object({
  kind: pictureKindSchema,
  name: z.string(),
  width: z.number(),
  height: z.number(),
  version: z.string(),
});
export type TestPicture = z.infer<typeof testPictureSchema>;

/** One round of test frames of a setup. */
export const checkSchema = z.object({
  id,
  setupId: id,
  createdAt: z.string(),
  pictures: z.array(testPictureSchema),
  marks: marksSchema,
  /** Null while it is being read, or when nothing has been photographed. */
  findings: findingsSchema.nullable(),
  signedAt: z.string().nullable(),
  /** What was out of bounds when it was signed off, in words. */
  openPoints: z.array(z.string()),
  revision: z.number(),
});
export type Check = z.infer<typeof checkSchema>;

/** Without a kind the picture itself tells. */
export const testPictureQuerySchema = z.object({
  name: z.string().min(1).max(255),
  kind: pictureKindSchema.optional(),
});
export const testPictureResultSchema = z.discriminatedUnion('outcome', [
  z.object({ outcome: z.literal('stored'), kind: pictureKindSchema, check: checkSchema }),
  z.object({ outcome: z.literal('refused'), name: z.string(), reason: z.string(), remedy: z.string() }),
]);
export type TestPictureResult = z.infer<typeof testPictureResultSchema>;
export const changeCheckSchema = z.object({ marks: marksSchema }).strict();
export const testShotSchema = z
  .object({
    planId: id,
    kind: z.enum(['people', 'plate', 'ball', 'grey card', 'colour chart']),
    people: z.array(keyOf<SubjectName>(demoPeople)).max(12),
    seed: z.number().int().min(0).max(1e6).default(1),
  })
  .strict();
export type TestShot = z.input<typeof testShotSchema>;
