import { boxBlur } from '../image/boxBlur.ts';
import { components } from '../image/components.ts';
import { growMask } from '../image/growMask.ts';
import { where } from '../image/masks.ts';
import { maxFilter } from '../image/maxFilter.ts';
import { createMask, createPlane, type LinearRaster, type Mask } from '../image/raster.ts';
import type { GreenPatch } from './greenPatch.ts';
import { dyedHair } from './ledger.ts';
import { Region } from './region.ts';

/**
 * What is hair: relative unevenness of neighbours from which something is strands, and half the width of a mass of
 * them, share of the height.
 */
export const hairBounds = { roughness: 0.035, halfWidth: 0.009 };

/** Values tuned on the bench's tuning frames; see docs/accuracy.md for what they reach. */
export const bounds = {
  /** Mean key from which hair leans away from the screen. */
  leaning: 1.1,
  /**
   * How far around the deepest keying of strands is looked for, share of the height; below which shares of it the
   * screen shines through, and the colour is not pure.
   */
  depth: 0.035,
  darkBeside: 0.35,
  shinesThrough: 0.95,
  impure: 0.9,
  /** So far from the screen, share of the height, strands are solved, and are no samples of colour. */
  solved: 0.07,
  pure: 0.04,
  /** How far around dyed hair its strands reach, share of the height. */
  dyedReach: 0.07,
  /**
   * Least share of plain screen in a gap among dyed hair; half the width of ways out that do not count there, share
   * of the height.
   */
  dyedGap: 0.3,
  dyedClosing: 0.006,
};

/** Masses of hair: uneven over more than the width of an outline. */
export function strandMasses(rough: Float32Array, clear: Mask): Mask {
  const { width, height } = clear;
  const uneven = createMask(width, height);
  for (let p = 0; p < rough.length; p++) if (rough[p] >= hairBounds.roughness && !clear.data[p]) uneven.data[p] = 1;
  const radius = hairBounds.halfWidth * height;
  return growMask(growMask(uneven, -radius), radius);
}

/**
 * Strands near the screen: it shines through them even where they look dense, if their own colour leans away from it
 * and so hides it, as fair hair does. They key less there than deeper inside. 2 where coverage has to be solved, 1
 * beyond that where the colour is not pure enough to serve as a sample, 0 elsewhere.
 */
export function hairyOf(
  { data }: LinearRaster,
  rough: Float32Array,
  zone: Mask,
  distance: Float32Array,
  key: Float32Array,
  coreLike: Mask,
  coreKey: number,
): Mask {
  const { width, height } = coreLike;
  const mean = boxBlur({ width, height, data: key }, 2).data;
  const among = createPlane(width, height).data;
  const light = createPlane(width, height).data;
  const leaning = createPlane(width, height).data;
  for (let p = 0; p < among.length; p++) {
    if (!coreLike.data[p] || !zone.data[p] || key[p] < coreKey || rough[p] < hairBounds.roughness) continue;
    among[p] = mean[p];
    light[p] = Math.max(data[p * 3], data[p * 3 + 1], data[p * 3 + 2]);
    if (mean[p] >= bounds.leaning) leaning[p] = light[p];
  }
  const reach = Math.round(bounds.depth * height);
  const deepest = maxFilter({ width, height, data: among }, reach).data;
  const lightest = maxFilter({ width, height, data: leaning }, reach).data;
  const out = createMask(width, height);
  for (let p = 0; p < out.data.length; p++) {
    // Dark hair beside skin keys less than skin does because it is dark.
    if (among[p] === 0 || deepest[p] < bounds.leaning || light[p] < bounds.darkBeside * lightest[p]) continue;
    if (distance[p] < bounds.solved * height && mean[p] < bounds.shinesThrough * deepest[p]) out.data[p] = 2;
    else if (distance[p] < bounds.pure * height && mean[p] < bounds.impure * deepest[p]) out.data[p] = 1;
  }
  return out;
}

/** Hair dyed nearly in the screen's colour, and as far around it as its strands may reach. */
export function dyedOf({ width, height }: Mask, labels: Uint16Array, patches: GreenPatch[]): Mask {
  const dyed = createMask(width, height);
  const numbers = dyedHair(patches);
  if (numbers.size === 0) return dyed;
  for (let p = 0; p < dyed.data.length; p++) if (numbers.has(labels[p])) dyed.data[p] = 1;
  const around = growMask(dyed, bounds.dyedReach * height);
  for (let p = 0; p < dyed.data.length; p++) if (around.data[p] && !dyed.data[p]) dyed.data[p] = 2;
  return dyed;
}

/**
 * Near green hair what the person encloses, but for narrow ways out, is a gap only if much of it is plain screen: the
 * strands themselves look like it.
 */
export function fillAmongDyed(regions: Mask, dyed: Mask): void {
  if (!dyed.data.includes(1)) return;
  const { width, height } = regions;
  const reach = Math.max(1, bounds.dyedClosing * height);
  const core = where(regions, Region.core);
  const closed = growMask(growMask(core, reach), -reach);
  const enclosed = createMask(width, height);
  for (const { pixels } of components(where(closed, 0))) {
    if (!pixels.every((p) => dyed.data[p])) continue;
    const clear = pixels.reduce((sum, p) => sum + (regions.data[p] === Region.clear ? 1 : 0), 0);
    if (clear < bounds.dyedGap * pixels.length) for (const p of pixels) enclosed.data[p] = 1;
  }
  const whole = growMask(enclosed, reach + 1);
  for (let p = 0; p < whole.data.length; p++)
    if (enclosed.data[p] || (whole.data[p] && closed.data[p])) regions.data[p] = Region.core;
}
