import { z } from 'zod';
import { doubtFacts } from '../core/cut/doubts.ts';
import { maskEffects, maskSoftness, noGuidance, type Guidance } from '../core/cut/guidance.ts';
import {
  defaultRecipe,
  recipeChoices,
  recipeSettings,
  settingNames,
  type Departure,
  type Recipe,
  type SettingName,
} from '../core/cut/recipe.ts';
import { cutViews } from '../core/place/index.ts';
import type { Face } from '../core/persons/faces.ts';
import { ownMatteUses } from '../core/cut/ownMatte.ts';
import { reviewStates, type Review } from '../core/touch/review.ts';
import { touchKinds, touchSettings, type Path, type Touch } from '../core/touch/touch.ts';
import { id, keyOf, ranged, revision, share } from './basics.ts';

/** Settings, masks and verdicts of a cut, and what a cut came to. */

const settings = Object.fromEntries(settingNames.map((name) => [name, ranged(recipeSettings[name])])) as Record<
  SettingName,
  z.ZodNumber
>;
const choices = { method: keyOf(recipeChoices.method.options), spillMethod: keyOf(recipeChoices.spillMethod.options) };

export const recipeSchema: z.ZodType<Recipe> = z.object({ ...settings, ...choices }).strict();

/** Some of a recipe's settings. */
export const someSettingsSchema = z
  .object({ ...settings, ...choices })
  .partial()
  .strict();

const departureFor = <K extends keyof Recipe>(name: K) =>
  z
    .object({ id: z.literal(name), to: { ...settings, ...choices }[name], wholeSubject: z.boolean().optional() })
    .strict();
export const departureSchema = z.union(
  (Object.keys(defaultRecipe) as (keyof Recipe)[]).map(departureFor) as never,
) as unknown as z.ZodType<Departure>;

/**
 * As in a recipe file or an older row: what is left out takes its default. `bounce`, the background’s light, was once a
 * setting here and is one of finished pictures now.
 */
export const recipeFileSchema = z
  .object({ ...settings, ...choices, bounce: z.unknown() })
  .partial()
  .strict()
  .transform(({ bounce: _, ...given }) => ({ ...defaultRecipe, ...given }) as Recipe);

const pointSchema = z.object({ x: share, y: share }).strict();
/** Polygons by hand, in shares of the frame. */
export const handMaskSchema = z
  .object({
    effect: z.enum(maskEffects),
    polygon: z.array(pointSchema).min(3, 'A mask needs three corners or more.').max(200),
    wholeSubject: z.boolean().optional(),
    soft: ranged(maskSoftness).optional(),
    settings: someSettingsSchema.optional(),
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
/** The name of a stored file. */
export const fileHash = z.string().regex(/^[0-9a-f]{64}$/);
const touchFields = z
  .object({
    id: z.string().min(1).max(40),
    at: z.number(),
    kind: keyOf(touchKinds),
    on: z.boolean(),
    size: ranged(touchSettings.size),
    softness: ranged(touchSettings.softness),
    strength: ranged(touchSettings.strength),
  })
  .strict();
export const touchSchema: z.ZodType<Touch> = touchFields.extend({ path: fileHash }).strict();
/** Where a hand went; kept as a file, so that a frame only names it. */
export const pathSchema: z.ZodType<Path> = z
  .object({
    closed: z.boolean(),
    points: z
      .array(z.object({ x: z.number().min(-1).max(2), y: z.number().min(-1).max(2), pressure: share }).strict())
      .min(1)
      .max(4000),
  })
  .strict();
/** A matte made elsewhere, as it is kept. */
export const keptMatteSchema = z.object({ file: fileHash });
export const keptPathSchema = z.object({ path: fileHash });

export const guidanceSchema = z
  .object({
    masks: masksSchema,
    verdicts: z.array(handVerdictSchema).max(60),
    touches: z
      .array(touchSchema)
      .max(400, 'A frame takes 400 touches; remove some that are no longer needed.')
      .default([]),
    departures: z.array(departureSchema).default([]),
    matte: z
      .object({ file: fileHash, use: keyOf(ownMatteUses) })
      .strict()
      .nullish(),
  })
  .strict();
/** All that was said of a frame in one file, the paths of its touches with it; what it leaves out is nothing. */
export const guidanceFileSchema = guidanceSchema
  .omit({ matte: true })
  .extend({ touches: z.array(touchFields.extend({ path: pathSchema }).strict()).max(400) })
  .partial()
  .strict()
  .transform(({ touches = [], ...given }) => ({
    guidance: {
      ...noGuidance,
      ...given,
      touches: touches.map((touch, n) => ({ ...touch, path: `path ${n}` })),
    } as Guidance,
    paths: new Map(touches.map(({ path }, n) => [`path ${n}`, path])),
  }));
export type GuidanceFile = z.input<typeof guidanceFileSchema>;

/** A part of a frame, as shares of it. */
export const extentSchema = z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() });
const placeSchema = extentSchema.extend({ outline: z.array(z.number()).optional() });
export const doubtSchema = z.object({
  kind: keyOf(doubtFacts),
  value: z.number().optional(),
  minutes: z.number(),
  places: z.array(placeSchema),
});
const ledgerEntrySchema = z.object({
  place: placeSchema,
  centre: z.object({ x: z.number(), y: z.number() }),
  chroma: z.tuple([z.number(), z.number()]),
  share: z.number(),
  likelihood: z.number(),
  verdict: z.enum(['keep', 'remove', 'sheer']),
  doubtful: z.boolean(),
  byHand: z.boolean(),
  evidence: z.object({ apart: z.number(), mostScreen: z.number(), rough: z.number(), atBorder: z.boolean() }),
});
export const qualitySchema = z.object({
  screen: z.enum(['green', 'blue', 'red', 'grey', 'none']),
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
  idle: z.array(z.string()).optional(),
});

/** What a hand said of a frame and of its doubtful places. */
export const reviewSchema: z.ZodType<Review> = z
  .object({
    state: z.enum(reviewStates),
    of: z.string().max(32),
    seconds: z.number().min(0),
    settled: z.array(z.object({ kind: keyOf(doubtFacts), x: share, y: share, good: z.boolean() }).strict()).max(200),
  })
  .strict();

/**
 * What a frame is to be cut with now, by its fingerprint; null for a plate, which needs no cut. Its id is the frame's.
 */
export const orderSchema = z.object({ id, wanted: z.string().nullable(), revision });
export type OrderItem = z.infer<typeof orderSchema>;

/** Which frames a batch or a placement is for; all of the shoot (or setup) when left out. */
export const faceSchema: z.ZodType<Face> = z.object({
  x: z.number(),
  y: z.number(),
  width: z.number(),
  height: z.number(),
  eyesX: z.number(),
  eyesY: z.number(),
  sure: z.number(),
});

export const cutRequestSchema = z.object({ frameIds: z.array(id).max(5000).optional() }).strict();

/** A recipe to be tried on all frames of a setup before it is kept. */
export const trialSchema = z.object({ recipe: recipeSchema }).strict();

/** What the full-size pixels of a frame can be shown as. */
export const viewSchema = z.enum(['photograph', ...cutViews, 'background']);
export type View = z.infer<typeof viewSchema>;
/** The outline of a cut, unrolled and wrapped into rows. */
export const ribbonSchema = z.object({
  /** Of the picture, pixels; a row of it with what parts it from the next; rows of it above the outline. */
  width: z.number(),
  height: z.number(),
  row: z.number(),
  outside: z.number(),
  /** Of the outline, pixels; more than the picture holds where that would be too much. */
  length: z.number(),
  /** x and y on the frame, shares, of every so many columns. */
  step: z.number(),
  places: z.array(z.number()),
  /** PNG, as a data address. */
  picture: z.string(),
});
export type RibbonSheet = z.infer<typeof ribbonSchema>;
export const ribbonViewSchema = z.object({
  view: viewSchema,
  across: z.coerce.number().int().min(100).max(4000),
  /** Given if the cut is shown as it is wanted now, though it may not be made yet: names that. */
  wanted: z.string().optional(),
});

const pixel = z.coerce.number().int();
export const regionSchema = z.object({
  view: viewSchema,
  /** Whether the cut is shown as it is wanted now, though it may not be made yet. */
  wanted: z.string().max(32).optional(),
  x: pixel.min(0),
  y: pixel.min(0),
  width: pixel.min(1).max(2400),
  height: pixel.min(1).max(2400),
});
