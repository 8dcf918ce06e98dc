import { z } from 'zod';
import { consents, MOST_SUBJECTS, subjectFields, type Subject as SubjectFields } from '../core/gather/subject.ts';
import type { FrameFacts } from '../core/gather/facts.ts';
import { developingFacts, type Developing } from '../core/gather/develop.ts';
import type { Camera } from '../core/gather/camera.ts';
import type { Reference } from '../core/gather/setups.ts';
import { fileNameSchema, id, problemSchema, ranged, revision, share } from './basics.ts';
import {
  extentSchema,
  faceSchema,
  guidanceSchema,
  masksSchema,
  qualitySchema,
  recipeSchema,
  reviewSchema,
} from './extract.ts';
import { cropsSchema } from './handOver.ts';
import { jobStateSchema } from './jobs.ts';
import { placementSchema } from './place.ts';

/** Setups, their frames, and who is on them. */

/** What is told of a deletion: the proof in writing, as plain text. */
export const erasureSchema = z.object({ proof: z.string() });
export type Erasure = z.infer<typeof erasureSchema>;

/** How raw files of a setup are developed. */
export const developingSchema: z.ZodType<Developing> = z
  .object({ exposure: ranged(developingFacts.exposure), warmth: ranged(developingFacts.warmth) })
  .strict();

export const setupSchema = z.object({
  id,
  shootId: id,
  name: z.string(),
  recipe: recipeSchema,
  /** Masks for all of its frames. */
  masks: masksSchema,
  develop: developingSchema,
  /** Folder of the server's machine from which frames are taken as they come; null for none. */
  watch: z.string().nullable(),
  /** Whether frames from there are cut as they come. */
  follow: z.boolean(),
  /** What became of the files in that folder. */
  watched: z.object({ taken: z.number(), refused: z.array(problemSchema.extend({ name: z.string() })) }),
  revision,
});
export type Setup = z.infer<typeof setupSchema>;
export const newSetupSchema = z.object({ name: z.string().trim().min(1, 'Give the setup a name.').max(120) }).strict();
const setupFields = {
  name: newSetupSchema.shape.name,
  recipe: recipeSchema,
  masks: masksSchema,
  develop: developingSchema,
  watch: z.string().trim().max(400).nullable(),
  follow: z.boolean(),
};
export type SetupChange = Partial<z.infer<z.ZodObject<typeof setupFields>>>;
/** `seen` is what the change was made on; with it, what another window changed meanwhile stays. */
export const changeSetupSchema = z
  .object({ ...setupFields, seen: z.object(setupFields).partial().strict() })
  .partial()
  .strict();

/** What a hand decided on a frame: it is a picture, it may take a picture's place, it is none. */
export const picks = ['keep', 'reserve', 'drop'] as const;
export type Pick = (typeof picks)[number];

/** What the camera wrote of a frame. */
export const cameraSchema: z.ZodType<Camera> = z.object({
  body: z.string(),
  lens: z.string(),
  focal: z.number().nullable(),
  aperture: z.number().nullable(),
  shutter: z.number().nullable(),
  iso: z.number().nullable(),
  profile: z.string(),
});

const screenSignsSchema = z.object({
  colour: z.enum(['green', 'blue']),
  chroma: z.tuple([z.number(), z.number()]),
  level: z.number(),
  grid: z.array(z.number()),
  missing: z.object({ left: share, right: share, top: share, bottom: share }),
});
/** What the frames of a setup are compared with. */
export const referenceSchema: z.ZodType<Reference> = z.object({
  camera: z.string(),
  upright: z.boolean(),
  exposure: z.number().nullable(),
  focal: z.number().nullable(),
  screen: screenSignsSchema,
});

/** A frame’s file by its name; of one that came in parts, where it lies. */
export const frameFileSchema = fileNameSchema.extend({ upload: z.string().max(64).optional() });

/** What was found on a frame. */
export const frameFactsSchema: z.ZodType<FrameFacts> = z.object({
  kind: z.enum(['people', 'plate', 'ball', 'grey card', 'colour chart', 'slate', 'unknown']),
  slate: z.string().nullable(),
  screen: screenSignsSchema.nullable(),
  person: z.object({ share, looks: z.array(z.number()), beyond: share, near: share }).nullable(),
  faces: z.array(faceSchema),
  sharp: z.number().nullable(),
  clipped: share.nullable(),
  shadow: z.number().nullable(),
  eyes: share.nullable(),
  minutes: z.number().nullable(),
});

export const frameSchema = z.object({
  id,
  setupId: id,
  name: z.string(),
  width: z.number(),
  height: z.number(),
  depth: z.union([z.literal(8), z.literal(16)]),
  bytes: z.number(),
  /** Local time without zone, ISO 8601, its camera's clock set right. */
  takenAt: z.string().nullable(),
  /** Seconds by which its camera's clock was set right. */
  clock: z.number(),
  camera: cameraSchema,
  /** Whether it was developed from a camera's raw file. */
  raw: z.boolean(),
  /** Null until it has been read. */
  facts: frameFactsSchema.nullable(),
  /** Whether it shows the empty screen: laid under the frames of its setup that were taken nearest to it. */
  plate: z.boolean(),
  pick: z.enum(picks).nullable(),
  /** Who is on it; verdicts and masks of a subject go with all of their frames in the setup. Empty: nobody has said. */
  subject: z.string(),
  /** What was said on this frame alone. */
  guidance: guidanceSchema,
  /** What was said of its cut; null while nobody has looked at it. */
  review: reviewSchema.nullable(),
  /**
   * The finished cut, if there is one: `version` changes with every new one, `fingerprint` names what it was made with,
   * `extraction` by which way of extracting (see `EXTRACTION`).
   */
  cut: z
    .object({
      version: z.string(),
      quality: qualitySchema,
      fingerprint: z.string(),
      extraction: z.number().int(),
      faces: z.array(faceSchema),
      hands: z.array(extentSchema),
    })
    .nullable(),
  /** The latest cutting job that is not done: waiting, running or failed. */
  job: z.object({ state: jobStateSchema, problem: problemSchema.nullable() }).nullable(),
  placement: placementSchema.nullable(),
  /** Crops of its finished picture that a hand moved, by the shape. */
  crops: cropsSchema,
  /** First digits of the photograph's hash, for the addresses of its pictures. */
  picture: z.string(),
  revision,
});
export type Frame = z.infer<typeof frameSchema>;

export const importResultSchema = z.discriminatedUnion('outcome', [
  /** `question`: it is here, but something about it is odd. */
  z.object({ outcome: z.literal('stored'), name: z.string(), frame: frameSchema, question: problemSchema.optional() }),
  z.object({ outcome: z.literal('duplicate'), name: z.string(), of: z.string() }),
  z.object({ outcome: z.literal('refused'), name: z.string(), reason: z.string(), remedy: z.string() }),
]);
export type ImportResult = z.infer<typeof importResultSchema>;

const frameFields = { subject: z.string().trim().max(80), guidance: guidanceSchema, review: reviewSchema.nullable() };
export type FrameChange = Partial<z.infer<z.ZodObject<typeof frameFields>>>;
/** Sorts frames: each change is for some of them. */
export const sortingSchema = z
  .object({
    changes: z
      .array(
        z
          .object({
            frameIds: z.array(id).min(1).max(5000),
            subject: frameFields.subject,
            setupId: id,
            pick: z.enum(picks).nullable(),
            plate: z.boolean(),
          })
          .partial({ subject: true, setupId: true, pick: true, plate: true })
          .strict(),
      )
      .min(1)
      .max(MOST_SUBJECTS),
  })
  .strict();
export type SortingChange = z.infer<typeof sortingSchema>['changes'][number];

/** Sets a camera's clock right, for all of its frames in a shoot: these seconds are added to what it wrote. */
export const clockSchema = z
  .object({ body: z.string(), seconds: z.number().int().min(-400_000_000).max(400_000_000) })
  .strict();

const text = (field: keyof SubjectFields): z.ZodString => z.string().trim().max(subjectFields[field].most);
const subjectShape = {
  number: text('number'),
  name: text('name').min(1, 'Give everybody a name.'),
  group: text('group'),
  clothing: text('clothing'),
  consent: z.enum(consents as ['unasked', 'yes', 'prints', 'no']),
  consentBy: text('consentBy'),
  background: text('background'),
  products: text('products'),
  note: text('note'),
};
export const subjectSchema = z.object({ id, shootId: id, ...subjectShape, revision });
export type Subject = z.infer<typeof subjectSchema>;
/** Subjects to be added; who has no number gets the next free one. */
export const newSubjectsSchema = z
  .object({ subjects: z.array(z.object(subjectShape).strict()).min(1).max(MOST_SUBJECTS) })
  .strict();
export type SubjectChange = Partial<SubjectFields>;
export const changeSubjectSchema = z
  .object({ ...subjectShape, seen: z.object(subjectShape).partial().strict() })
  .partial()
  .strict();

/** As with setups. */
export const changeFrameSchema = z
  .object({ ...frameFields, seen: z.object(frameFields).partial().strict() })
  .partial()
  .strict();
