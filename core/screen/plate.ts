import { boxBlur } from '../image/boxBlur.ts';
import { growMask } from '../image/growMask.ts';
import { createLinear, createMask, type LinearRaster, type Plane } from '../image/raster.ts';
import type { Survey } from './survey.ts';
import type { Channel } from '../colour/channels.ts';

/** How far the camera may have been knocked, share of the frame's width. */
const FARTHEST = 0.02;
/** Places compared, and the largest difference of one that counts: the person is everywhere different. */
const PLACES = 8000;
const MOST = 0.06;
/** Distance from the screen's chromaticity up to which a place is compared. */
const LIKE_SCREEN = 0.06;

/** By how many reduced pixels the frame's screen lies to the right of and below the plate's. */
export interface PlateShift {
  x: number;
  y: number;
}

/**
 * Finds how far a plate has to be moved to lie under a frame: creases, seams and stands of both are laid over each
 * other by their fine structure, level and slow trends apart. Both linear, of the same size. A screen without any
 * structure gives no shift, and needs none.
 */
export function findShift(frame: LinearRaster, plate: LinearRaster, survey: Survey): PlateShift {
  const { width, height } = frame;
  const reach = Math.max(1, Math.round(FARTHEST * width));
  const f = fineStructure(frame, survey.channel);
  const p = fineStructure(plate, survey.channel);
  const margin = reach + 2;
  const like = createMask(width, height);
  for (let at = 0; at < like.data.length; at++) {
    const sum = frame.data[at * 3] + frame.data[at * 3 + 1] + frame.data[at * 3 + 2] + 1e-5;
    if (
      Math.hypot(frame.data[at * 3] / sum - survey.chroma[0], frame.data[at * 3 + 2] / sum - survey.chroma[1]) <=
      LIKE_SCREEN
    )
      like.data[at] = 1;
  }
  // Beside the person the surroundings are the person's.
  const plain = growMask(like, -1.5 * aroundOf(width));
  const all: number[] = [];
  for (let y = margin; y < height - margin; y++)
    for (let x = margin; x < width - margin; x++) if (plain.data[y * width + x]) all.push(y * width + x);
  const every = Math.max(1, Math.floor(all.length / PLACES));
  const places = all.filter((_, n) => n % every === 0);
  if (!places.length) return { x: 0, y: 0 };
  const known = new Map<number, number>();
  const cost = (x: number, y: number): number => {
    if (Math.abs(x) > reach || Math.abs(y) > reach) return Infinity;
    const key = (y + reach) * (2 * reach + 1) + x + reach;
    let sum = known.get(key);
    if (sum === undefined) {
      sum = 0;
      for (const at of places) sum += Math.min(MOST * MOST, (f.data[at] - p.data[at - y * width - x]) ** 2);
      known.set(key, sum);
    }
    return sum;
  };
  let best = { x: 0, y: 0 };
  for (let y = -reach; y <= reach; y++)
    for (let x = -reach; x <= reach; x++) if (cost(x, y) < cost(best.x, best.y)) best = { x, y };
  const between = (before: number, at: number, after: number): number =>
    Number.isFinite(before + after) && before + after > 2 * at
      ? (0.5 * (before - after)) / (before + after - 2 * at)
      : 0;
  const { x, y } = best;
  return {
    x: x + between(cost(x - 1, y), cost(x, y), cost(x + 1, y)),
    y: y + between(cost(x, y - 1), cost(x, y), cost(x, y + 1)),
  };
}

/** The plate as the frame's camera would have seen it; beyond its edges it goes on as at the edge. */
export function shifted(plate: LinearRaster, { x: dx, y: dy }: PlateShift): LinearRaster {
  if (dx === 0 && dy === 0) return plate;
  const { width, height, data } = plate;
  const out = createLinear(width, height);
  for (let y = 0; y < height; y++) {
    const sy = Math.max(0, Math.min(height - 1, y - dy));
    const y0 = Math.floor(sy);
    const y1 = Math.min(height - 1, y0 + 1);
    for (let x = 0; x < width; x++) {
      const sx = Math.max(0, Math.min(width - 1, x - dx));
      const x0 = Math.floor(sx);
      const x1 = Math.min(width - 1, x0 + 1);
      for (let c = 0; c < 3; c++) {
        const top = data[(y0 * width + x0) * 3 + c] * (x0 + 1 - sx) + data[(y0 * width + x1) * 3 + c] * (sx - x0);
        const bottom = data[(y1 * width + x0) * 3 + c] * (x0 + 1 - sx) + data[(y1 * width + x1) * 3 + c] * (sx - x0);
        out.data[(y * width + x) * 3 + c] = top * (y0 + 1 - sy) + bottom * (sy - y0);
      }
    }
  }
  return out;
}

/** Half the side of the surroundings that fine structure stands out from, reduced pixels. */
function aroundOf(width: number): number {
  return Math.max(4, Math.round(0.025 * width));
}

/** Logarithm of the screen's channel less its surroundings. */
function fineStructure({ width, height, data }: LinearRaster, channel: Channel): Plane {
  const log: Plane = { width, height, data: new Float32Array(width * height) };
  for (let p = 0; p < log.data.length; p++) log.data[p] = Math.log(data[p * 3 + channel] + 0.01);
  const around = boxBlur(log, aroundOf(width));
  for (let p = 0; p < log.data.length; p++) log.data[p] -= around.data[p];
  return log;
}
