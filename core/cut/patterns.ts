import { components, type Component } from '../image/components.ts';
import { growMask } from '../image/growMask.ts';
import { both, likely } from '../image/masks.ts';
import type { Mask, Plane } from '../image/raster.ts';

/** Likelihood, and distance from what is less likely, reduced pixels, from which green is a thing's, however small it is. */
export const bounds = { solid: 0.8, inset: 2 };

/**
 * Green of checks, stripes and prints, too small to be patches by themselves: what lies so close together is one patch.
 * It is looked for well inside what is surely a thing, where no outline mixes the screen with another colour.
 * @param green 1 where colour leans to the screen's, in no wide patch.
 * @param solid how likely a place is the person alone.
 * @param gap reduced pixels, half of what lies between the pieces of a pattern at most.
 */
export function patternsIn(green: Mask, solid: Plane, gap: number): Component[] {
  const pieces = both(green, growMask(likely(solid, bounds.solid), -bounds.inset));
  return components(growMask(growMask(pieces, gap), -gap)).map(({ pixels, touchesBorder }) => ({
    pixels: pixels.filter((p) => pieces.data[p] === 1),
    touchesBorder,
  }));
}
