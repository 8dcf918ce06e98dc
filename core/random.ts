/** A seeded generator of numbers in [0, 1) (mulberry32): the same seed always gives the same picture. */
export type Random = () => number;

export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A normally distributed number, mean 0, standard deviation 1 (Box–Muller). */
export function gaussian(random: Random): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}

const LATTICE = 256;
let lattice: Float32Array | undefined;

/** Random values −1…1 on a lattice that repeats every 256 units, far apart enough not to be seen. */
function latticeValues(): Float32Array {
  const random = seededRandom(20260613);
  return (lattice ??= Float32Array.from({ length: LATTICE * LATTICE }, () => 2 * random() - 1));
}

/** Smooth value noise, −1…1, period of a wave about one unit; each seed reads another part of the lattice. */
export function noise2(x: number, y: number, seed: number): number {
  const values = lattice ?? latticeValues();
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  const fx = x - x0;
  const fy = y - y0;
  const u = fx * fx * (3 - 2 * fx);
  const v = fy * fy * (3 - 2 * fy);
  const left = (x0 + Math.imul(seed, 101)) & 255;
  const right = (left + 1) & 255;
  const top = ((y0 + Math.imul(seed, 59)) & 255) << 8;
  const below = (top + 256) & 65535;
  const above = values[top + left] * (1 - u) + values[top + right] * u;
  return above * (1 - v) + (values[below + left] * (1 - u) + values[below + right] * u) * v;
}

/** Sum of `octaves` of value noise, each half as large and twice as fine; about −1…1. */
export function fractalNoise(x: number, y: number, seed: number, octaves: number): number {
  let sum = 0;
  let amplitude = 0.5;
  for (let o = 0; o < octaves; o++) {
    sum += amplitude * noise2(x, y, seed + o * 17);
    x *= 2.03;
    y *= 2.03;
    amplitude *= 0.5;
  }
  return sum;
}
