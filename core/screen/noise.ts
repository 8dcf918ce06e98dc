import { linearTable } from '../colour/transfer.ts';
import { type EncodedRaster, type Mask, whiteLevel } from '../image/raster.ts';
import { medianOf } from './statistics.ts';

/** Noise of the lit screen at full size. */
export interface ScreenNoise {
  /** Standard deviations in 8-bit units of the encoded picture: of luma and of the two chroma channels together. */
  luma: number;
  chroma: number;
  /** Level of the screen's primary over its noise, in linear light. */
  signalToNoise: number;
}

const BLOCK = 16;
const MOST_BLOCKS = 900;
/**
 * Halved colour spreads part of the noise over whole blocks, where it looks like light: noise ÷ what is read, green
 * and blue; found on simulated frames.
 */
const SPREAD_BY_HALVING = { 1: 1.06, 2: 1.21 } as const;

/**
 * Noise from blocks of 16 × 16 full-size pixels inside the screen, each around a plane of its own: light and creases
 * are smooth at that size, and JPEG with halved chroma keeps what such a block varies by.
 * @param halved whether the file stores colour at half the resolution.
 * @param clear 1 where the screen is plainly seen, reduced by `factor`.
 */
export function noiseOf(
  frame: EncodedRaster,
  clear: Mask,
  factor: number,
  channel: 1 | 2,
  halved = false,
): ScreenNoise | undefined {
  const white = whiteLevel(frame) / 255;
  const table = linearTable(frame.data);
  const places: [number, number][] = [];
  const span = Math.max(1, Math.ceil(BLOCK / factor));
  for (let y = 1; y + span < clear.height - 1; y += span) {
    for (let x = 1; x + span < clear.width - 1; x += span) {
      let all = true;
      for (let dy = -1; dy <= span && all; dy++)
        for (let dx = -1; dx <= span && all; dx++) all = clear.data[(y + dy) * clear.width + x + dx] === 1;
      if (all && x * factor + BLOCK <= frame.width && y * factor + BLOCK <= frame.height)
        places.push([x * factor, y * factor]);
    }
  }
  if (places.length < 4) return undefined;
  const every = Math.max(1, Math.floor(places.length / MOST_BLOCKS));
  const luma: number[] = [];
  const chroma: number[] = [];
  const own: { variance: number; level: number }[] = [];
  const values = [0, 1, 2, 3].map(() => new Float64Array(BLOCK * BLOCK));
  for (let n = 0; n < places.length; n += every) {
    const [x0, y0] = places[n];
    let mean = 0;
    for (let y = 0; y < BLOCK; y++) {
      for (let x = 0; x < BLOCK; x++) {
        const i = ((y0 + y) * frame.width + x0 + x) * frame.channels;
        const r = frame.data[i] / white;
        const g = frame.data[i + 1] / white;
        const b = frame.data[i + 2] / white;
        const k = y * BLOCK + x;
        const l = 0.299 * r + 0.587 * g + 0.114 * b;
        values[0][k] = l;
        values[1][k] = 0.564 * (b - l);
        values[2][k] = 0.713 * (r - l);
        values[3][k] = table[frame.data[i + channel]];
        mean += values[3][k] / (BLOCK * BLOCK);
      }
    }
    const [l, cb, cr, primary] = values.map(aroundPlane);
    luma.push(l);
    chroma.push((cb + cr) / 2);
    own.push({ variance: primary, level: mean });
  }
  // A tenth of the blocks may hold creases or a stand; the others count together, as their noise does.
  own.sort((a, b) => a.variance - b.variance);
  own.length = Math.ceil(own.length * 0.9);
  const sum = (of: (block: (typeof own)[number]) => number): number =>
    own.reduce((total, block) => total + of(block), 0) / own.length;
  const level = sum((block) => block.level);
  const ratio =
    level > 0 ? ((halved ? SPREAD_BY_HALVING[channel] : 1) * Math.sqrt(sum((block) => block.variance))) / level : 0;
  return {
    luma: Math.sqrt(medianOf(luma)),
    chroma: Math.sqrt(medianOf(chroma)),
    signalToNoise: ratio > 0 ? 1 / ratio : 1e4,
  };
}

/** Variance of a block around the plane that fits it best. */
function aroundPlane(values: Float64Array): number {
  let sum = 0;
  let sx = 0;
  let sy = 0;
  let square = 0;
  const middle = (BLOCK - 1) / 2;
  for (let y = 0; y < BLOCK; y++) {
    for (let x = 0; x < BLOCK; x++) {
      const v = values[y * BLOCK + x];
      sum += v;
      sx += v * (x - middle);
      sy += v * (y - middle);
      square += v * v;
    }
  }
  const count = BLOCK * BLOCK;
  // Σ (x − x̄)² over the block.
  const spread = (count * (BLOCK * BLOCK - 1)) / 12;
  return Math.max(0, (square - (sum * sum) / count - (sx * sx) / spread - (sy * sy) / spread) / (count - 3));
}
