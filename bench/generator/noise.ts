/** Texture noise of its own: gradient noise on a hashed lattice, and cells. Values about −1…1. */

function hash(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ Math.imul(seed, 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 15), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** A random number 0–1 that belongs to a lattice place. */
export function hashed(x: number, y: number, seed: number): number {
  return hash(x, y, seed) / 4294967296;
}

const GRADIENTS = Float32Array.from({ length: 64 }, (_, n) =>
  (n & 1 ? Math.sin : Math.cos)((2 * Math.PI * (n >> 1)) / 32),
);

function corner(ix: number, iy: number, dx: number, dy: number, seed: number): number {
  const g = (hash(ix, iy, seed) & 31) << 1;
  return GRADIENTS[g] * dx + GRADIENTS[g + 1] * dy;
}

/** Gradient noise, one wave about 1.5 units long. */
export function ripple(x: number, y: number, seed: number): number {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const fx = x - ix;
  const fy = y - iy;
  const u = fx * fx * fx * (fx * (6 * fx - 15) + 10);
  const v = fy * fy * fy * (fy * (6 * fy - 15) + 10);
  const top = corner(ix, iy, fx, fy, seed) * (1 - u) + corner(ix + 1, iy, fx - 1, fy, seed) * u;
  const low = corner(ix, iy + 1, fx, fy - 1, seed) * (1 - u) + corner(ix + 1, iy + 1, fx - 1, fy - 1, seed) * u;
  return 1.5 * (top * (1 - v) + low * v);
}

/** Sum of so many octaves of ripples. */
export function cloudy(x: number, y: number, seed: number, octaves: number): number {
  let sum = 0;
  for (let o = 0, size = 0.6; o < octaves; o++, size *= 0.5) {
    sum += size * ripple(x, y, seed + 31 * o);
    x = 1.97 * x + 3.1;
    y = 1.97 * y - 1.7;
  }
  return sum;
}

/** Which cell of scattered points a place lies in (a number of its own) and how far its centre is, in units. */
export function cellAt(x: number, y: number, seed: number): { id: number; distance: number } {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  let least = Infinity;
  let id = 0;
  for (let dy = -1; dy <= 1; dy++) {
    for (let dx = -1; dx <= 1; dx++) {
      const h = hash(ix + dx, iy + dy, seed);
      const px = ix + dx + (h & 0xffff) / 65536 - x;
      const py = iy + dy + (h >>> 16) / 65536 - y;
      const d = px * px + py * py;
      if (d < least) {
        least = d;
        id = h;
      }
    }
  }
  return { id, distance: Math.sqrt(least) };
}
