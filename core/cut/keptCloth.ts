import { nearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { without } from '../image/masks.ts';
import { lengthOf } from '../image/length.ts';
import type { LinearRaster, Mask } from '../image/raster.ts';
import { spread } from '../image/spread.ts';
import type { GreenPatch } from './greenPatch.ts';
import { mostScreenIn } from './mostScreen.ts';
import { Region } from './region.ts';
import { spillLimit } from './spill.ts';
import type { Channel } from '../colour/channels.ts';

/** Values tuned on the bench's tuning frames; see docs/accuracy.md for what they reach. */
export const bounds = {
  /**
   * Dents of a kept patch up to twice this wide, share of the frame's height, are closed where no other hue stands out.
   */
  closing: 0.02,
  closingKey: 1.02,
  /** … and no more of them may be screen, or the screen between hairs beside the patch would close with them. */
  closingScreen: 0.7,
  /**
   * Kept cloth goes on: least level that colour is read at, step of chromaticity between neighbours, from its patch's
   * mean, and least share of the distance from the screen of where it set out.
   */
  flare: 0.01,
  step: 0.025,
  range: 0.07,
  apart: 0.7,
  /**
   * So far beside kept cloth, reduced pixels, what is solid and leads in the screen's channel by this share of it is
   * the cloth's too: dark seams, corners, shadowed folds.
   */
  beside: 12,
  leading: 0.15,
  /** The same beside the pieces of a pattern, between which lie other colours. */
  besidePattern: 3,
  /** In hair it does not go on where it is more uneven than this and nearer to the screen's chromaticity than that. */
  smooth: 0.02,
  far: 0.2,
};

/**
 * What goes on in the colour of a kept patch belongs to it, folds that key like something else included: grows `kept`
 * from neighbour to neighbour of like chromaticity, and nowhere far from its patch's mean or much nearer to the
 * screen's than where it set out; hair before it does not.
 */
export function growKept(
  { data }: LinearRaster,
  screen: LinearRaster,
  kept: Mask,
  labels: Uint16Array,
  patches: GreenPatch[],
  clear: Mask,
  masses: Mask,
  rough: Float32Array,
): void {
  const chroma = (of: Float32Array, p: number, c: 0 | 2): number =>
    (of[p * 3 + c] + bounds.flare) / (of[p * 3] + of[p * 3 + 1] + of[p * 3 + 2] + 3 * bounds.flare);
  const apart = (a: Float32Array, p: number, b: Float32Array, q: number): number =>
    lengthOf(chroma(a, p, 0) - chroma(b, q, 0), chroma(a, p, 2) - chroma(b, q, 2));
  const seeds = new Int32Array(kept.data.length);
  for (let p = 0; p < seeds.length; p++) if (kept.data[p]) seeds[p] = p;
  const visit = (p: number, q: number): boolean => {
    if (
      kept.data[q] ||
      clear.data[q] ||
      (masses.data[q] && rough[q] > bounds.smooth && apart(data, q, screen.data, q) < bounds.far) ||
      apart(data, p, data, q) > bounds.step
    )
      return false;
    const seed = seeds[p];
    const { chroma: own } = patches[labels[seed] - 1];
    // The patch's own colour, read at this place's level; dark hair before it would have that colour too.
    const sum = data[q * 3] + data[q * 3 + 1] + data[q * 3 + 2];
    const flare = masses.data[q] ? 0 : bounds.flare;
    const [red, blue] = own.map((share) => (share * sum + flare) / (sum + 3 * flare + 1e-9));
    if (
      lengthOf(chroma(data, q, 0) - red, chroma(data, q, 2) - blue) > bounds.range ||
      apart(data, q, screen.data, q) < bounds.apart * apart(data, seed, screen.data, seed)
    )
      return false;
    kept.data[q] = 1;
    seeds[q] = seed;
    return true;
  };
  spread(kept, visit);
}

/** Where kept cloth ends at the screen its outline is a mixture, to be solved like any other. Changes `kept`. */
export function leaveOutline(kept: Mask, clear: Mask, edgeCells: number): void {
  if (!kept.data.includes(1)) return;
  const { distance } = nearestFeature(without(clear, kept));
  for (let p = 0; p < kept.data.length; p++) if (distance[p] <= edgeCells) kept.data[p] = 0;
}

/** Dark folds of kept cloth are too dark to be green by themselves; what a kept patch encloses belongs to it. */
export function closeKept(
  { data }: LinearRaster,
  screen: LinearRaster,
  kept: Mask,
  key: Float32Array,
  regions: Mask,
): void {
  if (!kept.data.includes(1)) return;
  const reach = Math.max(1, Math.round(bounds.closing * kept.height));
  const closed = growMask(growMask(kept, reach), -reach);
  for (let p = 0; p < kept.data.length; p++) {
    if (
      closed.data[p] &&
      regions.data[p] === Region.fringe &&
      key[p] < bounds.closingKey &&
      mostScreenIn(data, screen.data, p) < bounds.closingScreen
    )
      kept.data[p] = 1;
  }
}

/**
 * Beside kept cloth what is solid and as green is kept with it, or spill removal would draw a black line there.
 * Changes `kept`. @param reach reduced pixels.
 */
export function keepBeside(
  { data }: LinearRaster,
  kept: Mask,
  regions: Mask,
  channel: Channel,
  reach = bounds.beside,
): void {
  if (!kept.data.includes(1)) return;
  const beside = growMask(kept, reach);
  for (let p = 0; p < kept.data.length; p++) {
    if (
      beside.data[p] &&
      regions.data[p] === Region.core &&
      data[p * 3 + channel] - spillLimit(data, channel, undefined, p * 3) > bounds.leading * data[p * 3 + channel]
    )
      kept.data[p] = 1;
  }
}
