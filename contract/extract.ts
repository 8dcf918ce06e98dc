import { z } from 'zod';
import { doubtFacts } from '../core/cut/doubts.ts';
import { maskEffects, noGuidance, type Guidance } from '../core/cut/guidance.ts';
import {
  defaultRecipe,
  recipeChoices,
  recipeSettings,
  settingNames,
  type Recipe,
  type SettingName,
} from '../core/cut/recipe.ts';
import { id, keyOf, ranged, revision, share } from './basics.ts';

/** Settings, masks and verdicts of a cut, and what a cut came to. */

const settings = Object.fromEntries(settingNames.map((name) => [name, ranged(recipeSettings[name])])) as Record<
  SettingName,
  z.ZodNumber
>;
const choices = { method: keyOf(recipeChoices.method.options), spillMethod: keyOf(recipeChoices.spillMethod.options) };

export const recipeSchema: z.ZodType<Recipe> = z.object({ ...settings, ...choices }).strict();

/** As in a recipe file or an older row: what is left out takes its default. */
export const recipeFileSchema = z
  .object({ ...settings, ...choices })
  .partial()
  .strict()
  .transform((given) => ({ ...defaultRecipe, ...given }) as Recipe);

const pointSchema = z.object({ x: share, y: share }).strict();
/** Polygons by hand, in shares of the frame. */
export const handMaskSchema = z
  .object({
    effect: z.enum(maskEffects),
    polygon: z.array(pointSchema).min(3, 'A mask needs three corners or more.').max(200),
    wholeSubject: z.boolean().optional(),
  })
  .strict();
export const masksSchema = z.array(handMaskSchema).max(40);
export const handVerdictSchema = z
  .object({
    x: share,
    y: share,
    chroma: z.tuple([share, share]),
    share: z.number().positive().max(1),
    keep: z.boolean(),
  })
  .strict();
export const guidanceSchema = z.object({ masks: masksSchema, verdicts: z.array(handVerdictSchema).max(60) }).strict();
/** For the command line: the same file may leave one of them out. */
export const guidanceFileSchema = guidanceSchema
  .partial()
  .transform((given): Guidance => ({ ...noGuidance, ...given }));

const placeSchema = z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() });
export const doubtSchema = z.object({
  kind: keyOf(doubtFacts),
  minutes: z.number(),
  places: z.array(placeSchema),
});
const ledgerEntrySchema = z.object({
  place: placeSchema,
  centre: z.object({ x: z.number(), y: z.number() }),
  chroma: z.tuple([z.number(), z.number()]),
  share: z.number(),
  likelihood: z.number(),
  verdict: z.enum(['keep', 'remove']),
  doubtful: z.boolean(),
  byHand: z.boolean(),
  evidence: z.object({ apart: z.number(), mostScreen: z.number(), rough: z.number(), atBorder: z.boolean() }),
});
export const qualitySchema = z.object({
  screen: z.enum(['green', 'blue']),
  screenShare: z.number(),
  fringeShare: z.number(),
  unexplained: z.number(),
  noisePercent: z.number(),
  greenKept: z.number(),
  greenRemoved: z.number(),
  ledger: z.array(ledgerEntrySchema),
  doubts: z.array(doubtSchema),
  extent: placeSchema,
  minutes: z.number(),
});

/** What a frame is to be cut with now, by its fingerprint; null for a plate, which needs no cut. Its id is the frame's. */
export const orderSchema = z.object({ id, wanted: z.string().nullable(), revision });
export type OrderItem = z.infer<typeof orderSchema>;

/** Which frames a batch or a placement is for; all of the shoot (or setup) when left out. */
export const cutRequestSchema = z.object({ frameIds: z.array(id).max(5000).optional() }).strict();

export const viewSchema = z.enum(['photograph', 'matte', 'grey', 'white', 'red', 'black']);
export type View = z.infer<typeof viewSchema>;
const pixel = z.coerce.number().int();
export const regionSchema = z.object({
  view: viewSchema,
  x: pixel.min(0),
  y: pixel.min(0),
  width: pixel.min(1).max(2400),
  height: pixel.min(1).max(2400),
});
