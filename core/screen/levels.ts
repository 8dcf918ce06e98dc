import { type EncodedRaster, type LinearRaster, type Mask, whiteLevel } from '../image/raster.ts';
import type { Rgb } from '../plan/exposure.ts';
import type { Box } from './box.ts';
import type { Lawn } from './lawn.ts';
import type { Reduced } from './reduced.ts';
import { medianOf } from './statistics.ts';

/** Difference in % of the screen's hue between the left and the right third. */
export function driftOf({ colour, columns, rows }: Lawn): number {
  const ratios = (from: number, to: number): [number, number] => {
    const red: number[] = [];
    const blue: number[] = [];
    for (let row = 0; row < rows; row++) {
      for (let column = Math.floor(from * columns); column < Math.ceil(to * columns); column++) {
        const o = (row * columns + column) * 3;
        if (!(colour[o + 1] > 0 && colour[o] > 0 && colour[o + 2] > 0)) continue;
        red.push(Math.log(colour[o] / colour[o + 1]));
        blue.push(Math.log(colour[o + 2] / colour[o + 1]));
      }
    }
    return [medianOf(red), medianOf(blue)];
  };
  const left = ratios(0, 1 / 3);
  const right = ratios(2 / 3, 1);
  const worst = Math.max(Math.abs(left[0] - right[0]), Math.abs(left[1] - right[1]));
  return Number.isFinite(worst) ? 100 * worst : 0;
}

/**
 * Root mean square of what is finer than the lawn's trend, as a share of the level; noise, seen between neighbours,
 * taken off.
 */
export function creasesOf(
  { width, height, data }: LinearRaster,
  seen: Mask,
  trend: Float32Array,
  channel: number,
): number {
  let square = 0;
  let grain = 0;
  let count = 0;
  let pairs = 0;
  let level = 0;
  const relative = (p: number): number => data[p * 3 + channel] / trend[p];
  for (let p = 0; p < seen.data.length; p++) {
    if (!seen.data[p]) continue;
    level += relative(p);
    count++;
  }
  if (count < 50) return 0;
  const mean = level / count;
  for (let y = 0; y + 1 < height; y++) {
    for (let x = 0; x + 1 < width; x++) {
      const p = y * width + x;
      if (!seen.data[p]) continue;
      const v = relative(p) / mean - 1;
      square += v * v;
      if (!seen.data[p + 1] || !seen.data[p + width] || !seen.data[p + width + 1]) continue;
      // What is left of a two-by-two block besides its slopes is noise.
      const d = (relative(p) - relative(p + 1) - relative(p + width) + relative(p + width + 1)) / mean;
      grain += (d * d) / 4;
      pairs++;
    }
  }
  return Math.sqrt(Math.max(0, square / count - grain / Math.max(1, pairs)));
}

/** Level of the seen screen, linear. */
export interface Level {
  mean: Rgb;
  /** Shares of the seen screen with a channel at clipping, and just below. */
  clipped: number;
  near: number;
  place?: Box;
}

export function levelOf(full: EncodedRaster, { picture, factor }: Reduced, seen: Mask): Level {
  const mean: Rgb = [0, 0, 0];
  const white = whiteLevel(full);
  let count = 0;
  let clipped = 0;
  let near = 0;
  let box: { left: number; right: number; top: number; bottom: number } | undefined;
  for (let p = 0; p < seen.data.length; p++) {
    if (!seen.data[p]) continue;
    count++;
    for (let c = 0; c < 3; c++) mean[c] += picture.data[p * 3 + c];
    const x = p % seen.width;
    const y = (p / seen.width) | 0;
    const i =
      (Math.min(full.height - 1, y * factor + (factor >> 1)) * full.width +
        Math.min(full.width - 1, x * factor + (factor >> 1))) *
      full.channels;
    const top = Math.max(full.data[i], full.data[i + 1], full.data[i + 2]) / white;
    if (top >= 0.998) {
      clipped++;
      box = box
        ? {
            left: Math.min(box.left, x),
            right: Math.max(box.right, x),
            top: Math.min(box.top, y),
            bottom: Math.max(box.bottom, y),
          }
        : { left: x, right: x, top: y, bottom: y };
    } else if (top >= 0.97) near++;
  }
  const n = Math.max(1, count);
  const share = clipped / n;
  return {
    mean: mean.map((v) => v / n) as Rgb,
    // A few noisy pixels are not a clipped screen.
    clipped: share < 0.001 ? 0 : share,
    near: near / n,
    place:
      box && share >= 0.001
        ? {
            x: box.left / seen.width,
            y: box.top / seen.height,
            width: (box.right - box.left + 1) / seen.width,
            height: (box.bottom - box.top + 1) / seen.height,
          }
        : undefined,
  };
}
