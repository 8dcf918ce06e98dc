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

function hash(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 374761393) + Math.imul(y, 668265263) + Math.imul(seed, 1442695041);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}

/** Smooth value noise, −1…1, period one unit. */
export function noise2(x: number, y: number, seed: number): number {
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  const fx = x - x0;
  const fy = y - y0;
  const u = fx * fx * (3 - 2 * fx);
  const v = fy * fy * (3 - 2 * fy);
  const top = hash(x0, y0, seed) * (1 - u) + hash(x0 + 1, y0, seed) * u;
  const bottom = hash(x0, y0 + 1, seed) * (1 - u) + hash(x0 + 1, y0 + 1, seed) * u;
  return 2 * (top * (1 - v) + bottom * v) - 1;
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
