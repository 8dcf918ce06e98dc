import { installedKernels, placesIn, type PlaneKernel } from '../kernels/kernels.ts';
import type { Plane } from './raster.ts';

/**
 * Mean over a (2·radius+1)² square, separable running sums; at the borders the mean of what lies inside.
 * Returns a new plane; `radius` 0 returns a copy.
 */
export function boxBlur(plane: Plane, radius: number): Plane {
  const { width, height } = plane;
  const kernel = installedKernels()?.planes;
  if (kernel && radius >= 1) return blurCompiled(kernel, plane, radius);
  const rows = new Float32Array(width * height);
  const out = new Float32Array(width * height);
  if (radius < 1) {
    out.set(plane.data);
    return { width, height, data: out };
  }
  for (let y = 0; y < height; y++) blurRow(plane.data, rows, y * width, width, radius);
  blurColumns(rows, out, width, height, radius);
  return { width, height, data: out };
}

function blurCompiled(kernel: PlaneKernel, { width, height, data }: Plane, radius: number): Plane {
  const bytes = data.length * 4;
  const [source, rows, sums, out] = placesIn(kernel, bytes, bytes, width * 8, bytes);
  new Float32Array(kernel.memory.buffer, source, data.length).set(data);
  kernel.blur(source, rows, sums, out, width, height, radius);
  return { width, height, data: new Float32Array(kernel.memory.buffer, out, data.length).slice() };
}

function blurRow(source: Float32Array, target: Float32Array, start: number, length: number, radius: number): void {
  let sum = 0;
  let count = Math.min(length, radius + 1);
  let share = 1 / count;
  for (let i = 0; i < count; i++) sum += source[start + i];
  for (let i = 0; i < length; i++) {
    target[start + i] = sum * share;
    const enter = i + radius + 1;
    const leave = i - radius;
    if (enter < length) {
      sum += source[start + enter];
      count++;
    }
    if (leave >= 0) {
      sum -= source[start + leave];
      count--;
    }
    if (enter >= length || leave < 0) share = 1 / count;
  }
}

/** The same along columns, row by row: memory is read in order. */
function blurColumns(source: Float32Array, target: Float32Array, width: number, height: number, radius: number): void {
  const sums = new Float64Array(width);
  let count = Math.min(height, radius + 1);
  for (let i = 0, x = 0; i < count * width; i++, x = x + 1 === width ? 0 : x + 1) sums[x] += source[i];
  for (let y = 0; y < height; y++) {
    const share = 1 / count;
    const enter = y + radius + 1 < height ? (y + radius + 1) * width : -1;
    const leave = y - radius >= 0 ? (y - radius) * width : -1;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const sum = sums[x];
      target[i] = sum * share;
      sums[x] = sum + (enter < 0 ? 0 : source[enter + x]) - (leave < 0 ? 0 : source[leave + x]);
    }
    count += (enter < 0 ? 0 : 1) - (leave < 0 ? 0 : 1);
  }
}

/** Three box passes, close to a Gaussian of standard deviation `sigma` pixels. */
export function gaussianBlur(plane: Plane, sigma: number): Plane {
  const radius = Math.max(0, Math.round((Math.sqrt(4 * sigma * sigma + 1) - 1) / 2));
  if (radius === 0) return boxBlur(plane, 0);
  return boxBlur(boxBlur(boxBlur(plane, radius), radius), radius);
}
