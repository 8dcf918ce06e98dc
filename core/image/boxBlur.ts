import type { Plane } from './raster.ts';

/**
 * Mean over a (2·radius+1)² square, separable running sums; at the borders the mean of what lies inside.
 * Returns a new plane; `radius` 0 returns a copy.
 */
export function boxBlur(plane: Plane, radius: number): Plane {
  const { width, height } = plane;
  const rows = new Float32Array(width * height);
  const out = new Float32Array(width * height);
  if (radius < 1) {
    out.set(plane.data);
    return { width, height, data: out };
  }
  for (let y = 0; y < height; y++) blurLine(plane.data, rows, y * width, 1, width, radius);
  for (let x = 0; x < width; x++) blurLine(rows, out, x, width, height, radius);
  return { width, height, data: out };
}

function blurLine(source: Float32Array, target: Float32Array, start: number, stride: number, length: number, radius: number): void {
  let sum = 0;
  let count = Math.min(length, radius + 1);
  for (let i = 0; i < count; i++) sum += source[start + i * stride];
  for (let i = 0; i < length; i++) {
    target[start + i * stride] = sum / count;
    const enter = i + radius + 1;
    const leave = i - radius;
    if (enter < length) {
      sum += source[start + enter * stride];
      count++;
    }
    if (leave >= 0) {
      sum -= source[start + leave * stride];
      count--;
    }
  }
}

/** Three box passes, close to a Gaussian of standard deviation `sigma` pixels. */
export function gaussianBlur(plane: Plane, sigma: number): Plane {
  const radius = Math.max(0, Math.round((Math.sqrt(4 * sigma * sigma + 1) - 1) / 2));
  if (radius === 0) return boxBlur(plane, 0);
  return boxBlur(boxBlur(boxBlur(plane, radius), radius), radius);
}
