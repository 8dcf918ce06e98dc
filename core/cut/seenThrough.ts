import { components, replaceSmall } from '../image/components.ts';
import { growMask } from '../image/growMask.ts';
import { lengthOf } from '../image/length.ts';
import { both, either, without } from '../image/masks.ts';
import { createMask, type LinearRaster, type Mask } from '../image/raster.ts';
import type { GreenPatch } from './greenPatch.ts';

/** Cloth with dots, holes or a weave, through which the screen is seen: told from green cloth by what varies in it. */

export const bounds = {
  /** How light the screen seen behind may be, share of the lit screen: in a person's shadow at least. */
  leastLit: 0.52,
  mostLit: 1.2,
  /** How far the way may pass by the screen's colour, share of the patch's own light. */
  passes: 0.05,
  /** Least variation from neighbours that has a way, share of the patch's light; noise and folds have less. */
  varies: 0.085,
  /** Most variation, share of the way to the screen's colour: of stripes and prints in a like colour some are at its end. */
  reaches: 0.42,
  /** Least distance of the patch's colour from the screen's chromaticity: nearer ones are greens of every kind. */
  apart: 0.2,
  /** The rest of the cloth: how far off its mixtures with the screen, share of its light. */
  offCloth: 0.05,
  /** The same of dots and threads among it, which lie among their like. */
  offThread: 0.12,
  /** Least share of its light that is the screen's, of that share in the patch: less is spill on a person. */
  leastSeen: 0.5,
  /** Half the width of dots and threads in it, share of the height. */
  among: 0.008,
  /** Smallest patch that is looked at, share of the frame, and share of one in the cloth from which it is of it. */
  patchShare: 0.002,
  most: 0.5,
};

/** Cells each way around a place that it is compared with, and how many of them have to be of the patch. */
const AROUND = 2;
const LEAST_AROUND = 15;
/** Cells of the smallest thing that is none of the cloth it lies in; fewer are noise. */
const SPECK = 9;
/** Steps by which the main direction of a covariance is found. */
const STEPS = 40;

/** Where cloth that the screen is seen through may be. */
export interface Where {
  /** 1 where colour leans to the screen's or may be a mixture with it, and no person surely is. */
  open: Mask;
  /** 1 where the screen alone is seen. */
  clear: Mask;
}

/**
 * 1 in cloth that the screen is seen through. A patch that is kept by evidence and lies in it becomes such cloth, and
 * doubtful; one of which a hand says what it is stays that.
 * @param found patches and their pixels; changed.
 */
export function seenThroughIn(
  found: readonly { patch: GreenPatch; pixels: Int32Array }[],
  frame: LinearRaster,
  screen: LinearRaster,
  where: Where,
): Mask {
  let sheer = createMask(frame.width, frame.height);
  const liesIn = (pixels: Int32Array): boolean =>
    pixels.reduce((n, p) => n + sheer.data[p], 0) > bounds.most * pixels.length;
  for (const { patch, pixels } of found) {
    if (patch.byHand || patch.verdict !== 'keep' || patch.share < bounds.patchShare || liesIn(pixels)) continue;
    const way = seenThrough(frame, screen, pixels, patch.evidence.apart);
    if (way) sheer = either(sheer, clothAround(frame, screen, where, pixels, way));
  }
  if (!sheer.data.includes(1)) return sheer;
  for (const { patch, pixels } of found) {
    if (patch.byHand) for (const p of pixels) sheer.data[p] = 0;
    else if (patch.verdict === 'keep' && liesIn(pixels))
      Object.assign(patch, { verdict: 'sheer', doubtful: patch.share >= bounds.patchShare });
  }
  return sheer;
}

/** What the screen is seen through in a patch: direction from the screen's colour to the cloth's, linear, length 1. */
export type Way = readonly number[];

/**
 * Whether the screen is seen through a patch, and on which way. Light and shade vary a cloth's colour c along c itself,
 * towards black; a print varies it towards its other colour; where more or less of the screen B is seen,
 * a·c + (1−a)·B, it varies on a way that leads to B, or to B in shadow, and does not get there. Smooth sheer cloth varies
 * too little to say.
 * @param frame, screen linear, of one size. @param pixels of the patch, in that size. @param apart mean distance of the
 * patch from the screen's chromaticity.
 */
export function seenThrough(
  frame: LinearRaster,
  screen: LinearRaster,
  pixels: Int32Array,
  apart: number,
): Way | undefined {
  if (apart < bounds.apart) return undefined;
  const colour = meanAt(frame.data, pixels);
  const back = meanAt(screen.data, pixels);
  const light = lengthOf3(colour);
  const { direction, amount } = variationIn(frame, pixels);
  if (amount < bounds.varies * light) return undefined;
  // Where the way colour + t·direction comes nearest to the ray s·back.
  const [along, cross] = [dot(direction, back), dot(colour, direction)];
  const lit = (dot(colour, back) - cross * along) / Math.max(1e-9, dot(back, back) - along * along);
  const step = lit * along - cross;
  const off = lengthOf3(colour.map((c, k) => c + step * direction[k] - lit * back[k]));
  if (lit < bounds.leastLit || lit > bounds.mostLit) return undefined;
  if (off > bounds.passes * light || amount > bounds.reaches * Math.abs(step)) return undefined;
  return step < 0 ? direction : direction.map((v) => -v);
}

/**
 * All of the cloth that the screen is seen through, from some of it: what is joined to that and is a mixture of the
 * cloth with the screen, lit or in shadow, and wide; and the dots and threads among it.
 * @param seed pixels of the cloth.
 */
export function clothAround(
  frame: LinearRaster,
  screen: LinearRaster,
  { open, clear }: Where,
  seed: Int32Array,
  way: Way,
): Mask {
  const { width, height } = frame;
  const seen = seedsSeen(frame.data, screen.data, seed, way);
  const like = createMask(width, height);
  for (let p = 0; p < like.data.length; p++)
    if (open.data[p] && seenAt(frame.data, screen.data, p * 3, way) > bounds.leastSeen * seen) like.data[p] = 1;
  for (const p of seed) like.data[p] = 1;
  const reach = bounds.among * height;
  const closed = growMask(growMask(like, reach), -reach);
  for (let p = 0; p < closed.data.length; p++)
    if (closed.data[p] && !like.data[p] && seenAt(frame.data, screen.data, p * 3, way, bounds.offThread) < 0)
      closed.data[p] = 0;
  replaceSmall(closed, 0, 1, SPECK);
  // Outlines of hair and limbs are mixtures with the screen as well, but narrow.
  const cloth = without(closed, clear);
  const wide = both(growMask(growMask(cloth, -reach), reach), cloth);
  const seeded = new Set(seed);
  const out = createMask(width, height);
  for (const { pixels } of components(wide))
    if (pixels.some((p) => seeded.has(p))) for (const p of pixels) out.data[p] = 1;
  return out;
}

/** Share of a patch's light that is the screen's. */
function seedsSeen(f: Float32Array, b: Float32Array, seed: Int32Array, way: Way): number {
  return seed.reduce((sum, p) => sum + Math.max(0, seenAt(f, b, p * 3, way)), 0) / seed.length;
}

/**
 * Share of a pixel's light that is the screen's, cloth over it the rest; −1 if it is no such mixture.
 * @param i index of its red. @param most how far off all mixtures it may be, share of its light.
 */
function seenAt(f: Float32Array, b: Float32Array, i: number, way: Way, most = bounds.offCloth): number {
  let [bb, bw, bf, wf, ff] = [0, 0, 0, 0, 0];
  for (let c = 0; c < 3; c++) {
    bb += b[i + c] * b[i + c];
    bw += b[i + c] * way[c];
    bf += b[i + c] * f[i + c];
    wf += way[c] * f[i + c];
    ff += f[i + c] * f[i + c];
  }
  // The least squares of f = u·b + a·way.
  const u = (bf - bw * wf) / Math.max(1e-9, bb - bw * bw);
  const a = wf - u * bw;
  const off = ff - u * bf - a * wf;
  if (a < 0 || off > most ** 2 * ff) return -1;
  return Math.max(0, u * Math.sqrt(bb)) / Math.max(1e-6, Math.sqrt(ff));
}

/** How colour differs from its nearest surroundings in a patch: the main direction (length 1), and by how much. */
function variationIn({ width, data }: LinearRaster, pixels: Int32Array): { direction: number[]; amount: number } {
  const within = new Set(pixels);
  const covariance = new Float64Array(9);
  let count = 0;
  const difference = [0, 0, 0];
  for (const p of pixels) {
    let around = 0;
    difference.fill(0);
    for (let dy = -AROUND; dy <= AROUND; dy++) {
      for (let dx = -AROUND; dx <= AROUND; dx++) {
        const x = (p % width) + dx;
        const q = p + dy * width + dx;
        if (x < 0 || x >= width || !within.has(q)) continue;
        around++;
        for (let c = 0; c < 3; c++) difference[c] -= data[q * 3 + c];
      }
    }
    if (around < LEAST_AROUND) continue;
    count++;
    for (let c = 0; c < 3; c++) difference[c] = data[p * 3 + c] + difference[c] / around;
    for (let c = 0; c < 3; c++) for (let d = 0; d < 3; d++) covariance[c * 3 + d] += difference[c] * difference[d];
  }
  let direction = [1, 1, 1];
  let length = 0;
  for (let n = 0; n < STEPS; n++) {
    const next = [0, 1, 2].map((c) =>
      dot([covariance[c * 3], covariance[c * 3 + 1], covariance[c * 3 + 2]], direction),
    );
    length = lengthOf3(next);
    if (length === 0) return { direction, amount: 0 };
    direction = next.map((v) => v / length);
  }
  return { direction, amount: Math.sqrt(length / count) };
}

function meanAt(data: Float32Array, pixels: Int32Array): number[] {
  const sum = [0, 0, 0];
  for (const p of pixels) for (let c = 0; c < 3; c++) sum[c] += data[p * 3 + c] / pixels.length;
  return sum;
}

function dot(a: readonly number[], b: readonly number[]): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

function lengthOf3(v: readonly number[]): number {
  return lengthOf(lengthOf(v[0], v[1]), v[2]);
}
