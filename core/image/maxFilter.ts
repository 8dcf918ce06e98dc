import type { Plane } from './raster.ts';

/** Greatest value in a (2·radius+1)² square, along rows and then columns (van Herk 1992); the outside of the picture counts for nothing. */
export function maxFilter({ width, height, data }: Plane, radius: number): Plane {
  const rows = new Float32Array(data.length);
  const out = new Float32Array(data.length);
  for (let y = 0; y < height; y++) maxLine(data, rows, y * width, 1, width, radius);
  for (let x = 0; x < width; x++) maxLine(rows, out, x, width, height, radius);
  return { width, height, data: out };
}

/** Running maxima of blocks from both sides: each window is the end of one block and the beginning of the next. */
function maxLine(source: Float32Array, target: Float32Array, start: number, stride: number, length: number, radius: number): void {
  const size = 2 * radius + 1;
  const padded = length + 2 * radius;
  const forward = new Float32Array(padded);
  const backward = new Float32Array(padded);
  const at = (i: number): number => {
    const k = i - radius;
    return k < 0 || k >= length ? -Infinity : source[start + k * stride];
  };
  for (let i = 0; i < padded; i++) forward[i] = i % size ? Math.max(forward[i - 1], at(i)) : at(i);
  for (let i = padded - 1; i >= 0; i--) backward[i] = i === padded - 1 || (i + 1) % size === 0 ? at(i) : Math.max(backward[i + 1], at(i));
  for (let k = 0; k < length; k++) target[start + k * stride] = Math.max(backward[k], forward[k + size - 1]);
}
