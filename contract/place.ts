import { z } from 'zod';
import { placementFacts, type Placement } from '../core/place/placement.ts';
import { id, ranged } from './basics.ts';

/** Backgrounds, and where cuts stand on them. */

export const placementSchema = z
  .object({
    backgroundId: id,
    x: ranged(placementFacts.x),
    y: ranged(placementFacts.y),
    height: ranged(placementFacts.height),
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

/** A placement of null takes the frames off their background. */
export const placeRequestSchema = z
  .object({ frameIds: z.array(id).max(5000).optional(), placement: placementSchema.nullable() })
  .strict();
