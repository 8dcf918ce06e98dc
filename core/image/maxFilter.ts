import { installedKernels, placesIn, type PlaneKernel } from '../kernels/kernels.ts';
import type { Plane } from './raster.ts';

/**
 * Greatest value in a (2·radius+1)² square, along rows and then columns (van Herk 1992); the outside of the picture
 * counts for nothing.
 */
export function maxFilter({ width, height, data }: Plane, radius: number): Plane {
  const kernel = installedKernels()?.planes;
  if (kernel) return maxCompiled(kernel, { width, height, data }, radius);
  const across = transposed(maxRows(data, width, height, radius), width, height);
  return { width, height, data: transposed(maxRows(across, height, width, radius), height, width) };
}

function maxCompiled(kernel: PlaneKernel, { width, height, data }: Plane, radius: number): Plane {
  const stride = width + 2 * radius + 4;
  const length = stride * (height + 2 * radius);
  const [padded, out] = placesIn(kernel, length * 4, data.length * 4);
  const floats = new Float32Array(kernel.memory.buffer, padded, length).fill(-Infinity);
  for (let y = 0; y < height; y++)
    floats.set(data.subarray(y * width, (y + 1) * width), (y + radius) * stride + radius);
  kernel.greatest(padded, out, width, height, radius);
  return { width, height, data: new Float32Array(kernel.memory.buffer, out, data.length).slice() };
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
    for (let x = 0, o = y * width; x < width; x++, o++)
      out[o] = backward[x] > forward[x + size - 1] ? backward[x] : forward[x + size - 1];
  }
  return out;
}

function transposed(source: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(source.length);
  for (let y = 0; y < height; y++) for (let x = 0, o = y; x < width; x++, o += height) out[o] = source[y * width + x];
  return out;
}
