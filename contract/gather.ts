import { z } from 'zod';
import { id, problemSchema, revision } from './basics.ts';
import { faceSchema, guidanceSchema, masksSchema, qualitySchema, recipeSchema, reviewSchema } from './extract.ts';
import { jobStateSchema } from './jobs.ts';
import { placementSchema } from './place.ts';

/** Setups and their frames. */

export const setupSchema = z.object({
  id,
  shootId: id,
  name: z.string(),
  recipe: recipeSchema,
  /** Masks for all of its frames. */
  masks: masksSchema,
  /** The frame that shows the empty screen. */
  plateFrameId: id.nullable(),
  revision,
});
export type Setup = z.infer<typeof setupSchema>;
export const newSetupSchema = z.object({ name: z.string().trim().min(1, 'Give the setup a name.').max(120) }).strict();
const setupFields = {
  name: newSetupSchema.shape.name,
  recipe: recipeSchema,
  masks: masksSchema,
  plateFrameId: id.nullable(),
};
export type SetupChange = Partial<z.infer<z.ZodObject<typeof setupFields>>>;
/** `seen` is what the change was made on; with it, what another window changed meanwhile stays. */
export const changeSetupSchema = z
  .object({ ...setupFields, seen: z.object(setupFields).partial().strict() })
  .partial()
  .strict();

export const frameSchema = z.object({
  id,
  setupId: id,
  name: z.string(),
  width: z.number(),
  height: z.number(),
  depth: z.union([z.literal(8), z.literal(16)]),
  bytes: z.number(),
  takenAt: z.string().nullable(),
  /** Who is on it; verdicts and masks of a subject go with all of their frames in the setup. Empty: nobody has said. */
  subject: z.string(),
  /** What was said on this frame alone. */
  guidance: guidanceSchema,
  /** What was said of its cut; null while nobody has looked at it. */
  review: reviewSchema.nullable(),
  /**
   * The finished cut, if there is one: `version` changes with every new one, `fingerprint` names what it was made with.
   */
  cut: z
    .object({ version: z.string(), quality: qualitySchema, fingerprint: z.string(), faces: z.array(faceSchema) })
    .nullable(),
  /** The latest cutting job that is not done: waiting, running or failed. */
  job: z.object({ state: jobStateSchema, problem: problemSchema.nullable() }).nullable(),
  placement: placementSchema.nullable(),
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
/** As with setups. */
export const changeFrameSchema = z
  .object({ ...frameFields, seen: z.object(frameFields).partial().strict() })
  .partial()
  .strict();
