import { z } from 'zod';
import { lookFacts, lookSettings, type Look, type LookSetting } from '../core/place/look.ts';
import { cardFonts, cardPlaces, cardRanges, LONGEST_LINE, MOST_LINES, type Card } from '../core/place/card.ts';
import { layerPlaces, layerWays, MOST_LAYERS, type Extras, type Layer } from '../core/place/extras.ts';
import { MOST_OTHERS, otherPlaces, type Other } from '../core/place/people.ts';
import { placementFacts, type Placement } from '../core/place/placement.ts';
import { curvePoints, type Curves } from '../core/place/curves.ts';
import { hexColour, paintWays } from '../core/place/paint.ts';
import { alikeWays, sceneRanges, waysKnown, type SceneFacts } from '../core/place/scene.ts';
import type { StandingModel } from '../core/place/standing.ts';
import type { Tones } from '../core/place/tones.ts';
import { ballLightSchema, id, ranged, revision, share } from './basics.ts';
import { extentSchema, faceSchema, regionSchema } from './extract.ts';

/** Backgrounds, and where cuts stand on them. */

function namesOf<T extends string>(table: Record<T, unknown>): [T, ...T[]] {
  return Object.keys(table) as [T, ...T[]];
}

function fromJson<T>(schema: z.ZodType<T>) {
  return z
    .string()
    .transform((text, context) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        context.addIssue('is no JSON');
        return z.NEVER;
      }
    })
    .pipe(schema);
}

const lookFields = {
  ...(Object.fromEntries(lookSettings.map((name) => [name, ranged(lookFacts[name])])) as Record<
    LookSetting,
    z.ZodNumber
  >),
  mirrorPerson: z.boolean(),
  mirrorBackground: z.boolean(),
};
export const lookSchema: z.ZodType<Look> = z.object(lookFields).strict();
/** Some settings of a look. */
export const lookPartSchema: z.ZodType<Partial<Look>> = z.object(lookFields).partial().strict();

/** Backgrounds that a fringe is foretold on at once. */
export const MOST_FORETOLD = 40;

const position = { x: ranged(placementFacts.x), y: ranged(placementFacts.y), height: ranged(placementFacts.height) };
const tone = z.string().regex(hexColour, 'is no colour');
const layerSchema: z.ZodType<Layer> = z
  .object({
    id: z.string().min(1).max(40),
    backgroundId: id,
    where: z.enum(namesOf(layerPlaces)),
    way: z.enum(namesOf(layerWays)),
    strength: z.number().min(0).max(1),
    at: z.object(position).strict().nullable().optional(),
  })
  .strict();
const cardSchema: z.ZodType<Card> = z
  .object({
    lines: z
      .array(
        z
          .object({
            id: z.string().min(1).max(40),
            text: z.string().max(LONGEST_LINE),
            at: z.enum(namesOf(cardPlaces)),
            size: ranged(cardRanges.size),
            font: z.enum(namesOf(cardFonts)),
            tone,
            edge: z.boolean(),
          })
          .strict(),
      )
      .max(MOST_LINES),
    margin: ranged(cardRanges.margin),
    border: ranged(cardRanges.border),
    tone,
  })
  .strict();
const curveSchema = z
  .array(z.object({ from: share, to: share }).strict())
  .min(curvePoints.fewest)
  .max(curvePoints.most)
  .refine((points) => points.every(({ from }, n) => n === 0 || from > points[n - 1].from), {
    error: 'has points that do not follow each other',
  });
const curvesSchema: z.ZodType<Curves> = z
  .object({ all: curveSchema, red: curveSchema, green: curveSchema, blue: curveSchema })
  .strict();
const extrasFields = {
  lut: id.nullable(),
  layers: z.array(layerSchema).max(MOST_LAYERS),
  card: cardSchema.nullable(),
  curves: curvesSchema.nullable(),
};
/** What all finished pictures of a style have beside person and background. */
export const extrasSchema: z.ZodType<Extras> = z
  .object({ ...extrasFields, curves: extrasFields.curves.default(null) })
  .strict();
const extrasPartSchema: z.ZodType<Partial<Extras>> = z.object(extrasFields).partial().strict();

/** A look-up table of the library. */
export const lutSchema = z.object({ id, name: z.string(), size: z.number() });
export type Lut = z.infer<typeof lutSchema>;
export const lutResultSchema = z.discriminatedUnion('outcome', [
  z.object({ outcome: z.literal('stored'), lut: lutSchema }),
  z.object({ outcome: z.literal('refused'), name: z.string(), reason: z.string(), remedy: z.string() }),
]);
export type LutResult = z.infer<typeof lutResultSchema>;

/** A card for one frame, as JSON in the address, so that the address names the picture. */
export const cardPictureSchema = z.object({
  card: fromJson(cardSchema),
  /** Its name, for the field. */
  background: z.string().max(255),
  width: z.coerce.number().int().min(1).max(4000),
  height: z.coerce.number().int().min(1).max(4000),
});

/** How people stand on a background: as one of them does. */
export const standingSchema: z.ZodType<StandingModel> = z
  .object({
    way: z.enum(namesOf(alikeWays)),
    placement: z.object(position).strict(),
    cut: z.object({ width: z.number().positive(), height: z.number().positive() }).strict(),
    extent: extentSchema,
    faces: z.array(faceSchema).max(100),
  })
  .strict();

/** How all people of a shoot who stand on one background are made to agree with it; `standing` is null until somebody says it. */
export const styleSchema = z.object({
  id,
  revision,
  backgroundId: id,
  look: lookSchema,
  extras: extrasSchema,
  standing: standingSchema.nullable(),
});
export type Style = z.infer<typeof styleSchema>;
/** `seen` is what the change was made on; without it the settings are simply set. */
const stylePart = z
  .object({ look: lookPartSchema, extras: extrasPartSchema, standing: standingSchema.nullable() })
  .partial()
  .strict();
export const styleChangeSchema = stylePart.extend({ seen: stylePart.optional() }).strict();
export type StyleChange = z.infer<typeof stylePart>;

const rgb = z.tuple([z.number(), z.number(), z.number()]);
const tones: z.ZodType<Tones> = z.object({
  black: rgb,
  middle: rgb,
  white: rgb,
  level: z.number(),
  light: rgb,
  saturation: z.number(),
  blur: z.number(),
  grain: z.number(),
  side: z.number(),
});
/** On which backgrounds somebody might stand, and where; as JSON in the address. */
export const fringeAskedSchema = z.object({
  on: fromJson(z.array(z.object({ backgroundId: id, ...position }).strict()).max(MOST_FORETOLD)),
});
export type FringeAsked = z.infer<typeof fringeAskedSchema>['on'][number];
/** How much of the fringe will be seen on each, in their order; null for a background that is gone. */
export const fringeSchema = z.object({ seen: z.array(z.number().nullable()) });

/** Null where nothing is solid. */
export const tonesSchema = z.object({ tones: tones.nullable() });

export const otherSchema: z.ZodType<Other> = z
  .object({
    frameId: id,
    ...position,
    mirrored: z.boolean(),
    where: z.enum(namesOf(otherPlaces)),
  })
  .strict();

export const placementSchema = z
  .object({
    backgroundId: id,
    ...position,
    /** Who else is in the picture, the farthest first; kept as it is where several frames are placed at once. */
    others: z.array(otherSchema).max(MOST_OTHERS).optional(),
    /** Where this frame differs from its background's style. */
    look: lookPartSchema.default({}),
  })
  .strict();
export type PlacedOn = z.infer<typeof placementSchema> & Placement;
/** Full-size pixels of a frame; for the view on a background maybe on another place than the frame’s own. */
export const regionOnSchema = regionSchema.extend({ on: fromJson(placementSchema.nullable()).optional() });

/** What is known of a scene beside its pixels. */
export const sceneFactsSchema: z.ZodType<SceneFacts> = z
  .object({
    horizon: ranged(sceneRanges.horizon).nullable(),
    cameraHeight: ranged(sceneRanges.cameraHeight).nullable(),
    focal: ranged(sceneRanges.focal).nullable().default(null),
    lightFrom: ranged(sceneRanges.lightFrom).nullable(),
    by: z.partialRecord(z.enum(namesOf(sceneRanges)), z.enum(namesOf(waysKnown))).default({}),
    ball: ballLightSchema.nullable().default(null),
    notes: z.string().max(300, 'is longer than 300 characters').default(''),
  })
  .strict();

export const backgroundSchema = z.object({
  id,
  name: z.string(),
  width: z.number(),
  height: z.number(),
  /** First digits of its file's hash. */ picture: z.string(),
  tags: z.array(z.string()),
  scene: sceneFactsSchema,
  /** No longer offered; whoever stands on it still does. */
  removed: z.boolean(),
});
export type Background = z.infer<typeof backgroundSchema>;

const backgroundFields = {
  name: z.string().trim().min(1, 'a name is missing').max(255, 'is longer than 255 characters'),
  tags: z.array(z.string().trim().min(1).max(40, 'is longer than 40 characters')).max(20, 'are more than 20'),
  scene: sceneFactsSchema,
  removed: z.boolean(),
};
/** `seen` is what the change was made on. */
export const backgroundChangeSchema = z
  .object({ ...backgroundFields, seen: z.object(backgroundFields).partial() })
  .partial()
  .strict();
export type BackgroundChange = Omit<z.infer<typeof backgroundChangeSchema>, 'seen'>;

/** A background that is painted: one tone, or from one tone to the other. */
export const paintRequestSchema = z
  .object({
    name: backgroundFields.name,
    paint: z
      .object({ from: z.string().regex(hexColour), to: z.string().regex(hexColour), way: z.enum(paintWays) })
      .strict(),
    width: z.number().int().min(100).max(12_000),
    height: z.number().int().min(100).max(12_000),
  })
  .strict();
export type PaintRequest = z.infer<typeof paintRequestSchema>;

export const backgroundResultSchema = z.discriminatedUnion('outcome', [
  z.object({ outcome: z.literal('stored'), name: z.string(), background: backgroundSchema }),
  z.object({ outcome: z.literal('duplicate'), name: z.string(), of: z.string() }),
  z.object({ outcome: z.literal('refused'), name: z.string(), reason: z.string(), remedy: z.string() }),
]);
export type BackgroundResult = z.infer<typeof backgroundResultSchema>;

/** Where single frames stand, when not where the others do. */
export const ownPlacesSchema = z.array(z.object({ id, ...position }).strict()).max(5000);
export type OwnPlace = z.infer<typeof ownPlacesSchema>[number];

/** A finished picture, small: on which background, where and how; as JSON in the address, so that the address names the picture. */
export const finishedSchema = z.object({
  on: fromJson(placementSchema),
  look: fromJson(lookSchema),
  extras: fromJson(extrasSchema),
  /** Names what is known of the light on both sides. */
  light: z.string().max(4000),
});

/** A placement of null takes the frames off their background. */
export const placeRequestSchema = z
  .object({
    frameIds: z.array(id).max(5000).optional(),
    placement: placementSchema.nullable(),
    places: ownPlacesSchema.default([]),
  })
  .strict();
