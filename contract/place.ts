import { z } from 'zod';
import { lookFacts, lookSettings, type Look, type LookSetting } from '../core/place/look.ts';
import { placementFacts, type Placement } from '../core/place/placement.ts';
import type { Tones } from '../core/place/tones.ts';
import { id, ranged, revision } from './basics.ts';

/** Backgrounds, and where cuts stand on them. */

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

/** How all people of a shoot who stand on one background are made to agree with it. */
export const styleSchema = z.object({ id, revision, backgroundId: id, look: lookSchema });
export type Style = z.infer<typeof styleSchema>;
/** `seen` is what the change was made on; without it the settings are simply set. */
export const styleChangeSchema = z.object({ look: lookPartSchema, seen: lookPartSchema.optional() }).strict();

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
/** Null where nothing is solid. */
export const tonesSchema = z.object({ tones: tones.nullable() });

export const placementSchema = z
  .object({
    backgroundId: id,
    x: ranged(placementFacts.x),
    y: ranged(placementFacts.y),
    height: ranged(placementFacts.height),
    /** Where this frame differs from its background's style. */
    look: lookPartSchema.default({}),
  })
  .strict();
export type PlacedOn = z.infer<typeof placementSchema> & Placement;

export const backgroundSchema = z.object({
  id,
  name: z.string(),
  width: z.number(),
  height: z.number(),
  /** First digits of its file's hash. */ picture: z.string(),
});
export type Background = z.infer<typeof backgroundSchema>;

export const backgroundResultSchema = z.discriminatedUnion('outcome', [
  z.object({ outcome: z.literal('stored'), name: z.string(), background: backgroundSchema }),
  z.object({ outcome: z.literal('duplicate'), name: z.string(), of: z.string() }),
  z.object({ outcome: z.literal('refused'), name: z.string(), reason: z.string(), remedy: z.string() }),
]);
export type BackgroundResult = z.infer<typeof backgroundResultSchema>;

const own = { x: ranged(placementFacts.x), y: ranged(placementFacts.y), height: ranged(placementFacts.height) };
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

/** Where single frames stand, when not where the others do. */
export const ownPlacesSchema = z.array(z.object({ id, ...own }).strict()).max(5000);
export type OwnPlace = z.infer<typeof ownPlacesSchema>[number];

/** A finished picture, small: on which background, where and how; as JSON in the address, so that the address names the picture. */
export const finishedSchema = z.object({ on: fromJson(placementSchema), look: fromJson(lookSchema) });

/** A placement of null takes the frames off their background. */
export const placeRequestSchema = z
  .object({
    frameIds: z.array(id).max(5000).optional(),
    placement: placementSchema.nullable(),
    places: ownPlacesSchema.default([]),
  })
  .strict();
