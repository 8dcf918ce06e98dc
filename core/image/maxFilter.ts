import type { Plane } from './raster.ts';

/** Greatest value in a (2·radius+1)² square, along rows and then columns (van Herk 1992); the outside of the picture counts for nothing. */
export function maxFilter({ width, height, data }: Plane, radius: number): Plane {
  const across = transposed(maxRows(data, width, height, radius), width, height);
  return { width, height, data: transposed(maxRows(across, height, width, radius), height, width) };
}

/** Running maxima of blocks from both sides: each window is the end of one block and the beginning of the next. */
function maxRows(source: Float32Array, width: number, height: number, radius: number): Float32Array {
  const size = 2 * radius + 1;
  const padded = width + 2 * radius;
  const line = new Float32Array(padded).fill(-Infinity);
  const forward = new Float32Array(padded);
  const backward = new Float32Array(padded);
  const out = new Float32Array(source.length);
  for (let y = 0; y < height; y++) {
    line.set(source.subarray(y * width, (y + 1) * width), radius);
    for (let i = 0, left = 0; i < padded; i++, left = left + 1 === size ? 0 : left + 1) {
      const v = line[i];
      forward[i] = left > 0 && forward[i - 1] > v ? forward[i - 1] : v;
    }
    for (let i = padded - 1, next = padded % size; i >= 0; i--, next = next === 0 ? size - 1 : next - 1) {
      const v = line[i];
      backward[i] = i < padded - 1 && next > 0 && backward[i + 1] > v ? backward[i + 1] : v;
    }
    for (let x = 0, o = y * width; x < width; x++, o++) out[o] = backward[x] > forward[x + size - 1] ? backward[x] : forward[x + size - 1];
  }
  return out;
}

function transposed(source: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(source.length);
  for (let y = 0; y < height; y++) for (let x = 0, o = y; x < width; x++, o += height) out[o] = source[y * width + x];
  return out;
}
