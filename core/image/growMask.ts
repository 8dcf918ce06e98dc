import type { Mask } from './raster.ts';

/**
 * Grows (`radius` > 0) or shrinks (`radius` < 0) a mask by a square of 2·|radius|+1 pixels, by running counts, so the
 * cost does not depend on the radius. The outside of the picture neither grows nor shrinks it. Returns a new mask.
 */
export function growMask(mask: Mask, radius: number): Mask {
  const { width, height, data } = mask;
  const reach = Math.abs(Math.round(radius));
  if (reach === 0) return { width, height, data: data.slice() };
  const target = radius > 0 ? 1 : 0;
  const rows = new Uint8Array(data.length);
  const out = new Uint8Array(data.length);
  for (let y = 0; y < height; y++) growLine(data, rows, y * width, 1, width, reach, target);
  for (let x = 0; x < width; x++) growLine(rows, out, x, width, height, reach, target);
  return { width, height, data: out };
}

/** Writes `target` wherever the window of 2·reach+1 values holds it, the other value elsewhere. */
function growLine(source: Uint8Array, out: Uint8Array, start: number, stride: number, length: number, reach: number, target: number): void {
  let held = 0;
  for (let i = 0; i < Math.min(length, reach); i++) if (source[start + i * stride] === target) held++;
  for (let i = 0; i < length; i++) {
    const enter = i + reach;
    const leave = i - reach - 1;
    if (enter < length && source[start + enter * stride] === target) held++;
    if (leave >= 0 && source[start + leave * stride] === target) held--;
    out[start + i * stride] = held > 0 ? target : 1 - target;
  }
}
