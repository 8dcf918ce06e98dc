import { sameDepth, whiteLevel, type EncodedRaster } from '../image/raster.ts';
import type { Matte } from './coverage.ts';
import { shareOfRow, type Guidance, type HandMask } from './guidance.ts';
import { cutSettings, type Recipe } from './recipe.ts';

/** Regions drawn by hand that are cut with settings of their own. */

/** A region, and the whole recipe that it is cut with. */
export interface SetRegion {
  mask: HandMask;
  recipe: Recipe;
}

/** A cut with the coverage that it was finished from. */
export interface Finished {
  matte: Matte;
  /** Some rows of the frame, straight alpha. */
  cutout: EncodedRaster & { channels: 4 };
}

/** Whether a mask is such a region. */
function isRegion({ effect }: HandMask): boolean {
  return effect === 'own';
}

/** The regions that differ from the recipe around them, in the order in which they lie over each other. Light on the person is the whole person's. */
export function setRegions(recipe: Recipe, { masks }: Pick<Guidance, 'masks'>): SetRegion[] {
  return masks.filter(isRegion).flatMap((mask) => {
    const own = { ...recipe, ...mask.settings };
    return cutSettings.every((name) => own[name] === recipe[name]) ? [] : [{ mask, recipe: own }];
  });
}

/** What a hand says beside its regions. */
export function withoutRegions(guidance: Guidance): Guidance {
  return guidance.masks.some(isRegion)
    ? { ...guidance, masks: guidance.masks.filter((mask) => !isRegion(mask)) }
    : guidance;
}

/**
 * A cut with another one in its place inside a mask; where that fades, coverage goes over evenly and colours by what
 * they cover. Neither is changed.
 * @param from the first row of the frame that the cutouts show.
 */
export function withRegion(around: Finished, inside: Finished, mask: HandMask, from = 0): Finished {
  const { width, height } = around.matte;
  const alpha = around.matte.alpha.slice();
  const data = sameDepth(around.cutout.data, around.cutout.data.length);
  data.set(around.cutout.data);
  const white = whiteLevel(around.cutout);
  const rows = around.cutout.height;
  for (let y = 0; y < height; y++) {
    const shares = shareOfRow(mask, y, width, height);
    if (!shares) continue;
    for (let x = 0, p = y * width; x < width; x++, p++) {
      const share = shares[x];
      if (!share) continue;
      alpha[p] = Math.round(alpha[p] + (inside.matte.alpha[p] - alpha[p]) * share);
      if (y < from || y >= from + rows) continue;
      blend(data, inside.cutout.data, (p - from * width) * 4, share, white);
    }
  }
  return { matte: { ...around.matte, alpha }, cutout: { ...around.cutout, data } };
}

function blend(
  to: Uint8Array | Uint16Array,
  other: Uint8Array | Uint16Array,
  i: number,
  share: number,
  white: number,
): void {
  const own = to[i + 3] * (1 - share);
  const its = other[i + 3] * share;
  const cover = own + its;
  for (let c = i; c < i + 3; c++) to[c] = cover ? Math.round((to[c] * own + other[c] * its) / cover) : 0;
  to[i + 3] = Math.min(white, Math.round(cover));
  if (to[i + 3] === 0) to.fill(0, i, i + 3);
}
