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
  for (let y = 0; y < height; y++) growRow(data, rows, y * width, width, reach, target);
  return { width, height, data: growColumns(rows, width, height, reach, target) };
}

/** Writes `target` wherever the window of 2·reach+1 values holds it, the other value elsewhere. */
function growRow(source: Uint8Array, out: Uint8Array, start: number, length: number, reach: number, target: number): void {
  const end = start + length;
  // First what lies behind, then what lies ahead.
  for (let i = start, last = -Infinity; i < end; i++) {
    if (source[i] === target) last = i;
    out[i] = i - last <= reach ? target : 1 - target;
  }
  for (let i = end - 1, next = Infinity; i >= start; i--) {
    if (source[i] === target) next = i;
    if (next - i <= reach) out[i] = target;
  }
}

/** The same along columns, row by row: memory is read in order. */
function growColumns(source: Uint8Array, width: number, height: number, reach: number, target: number): Uint8Array {
  const out = new Uint8Array(source.length);
  const held = new Int32Array(width);
  const count = (y: number, step: number): void => {
    for (let x = 0, i = y * width; x < width; x++, i++) if (source[i] === target) held[x] += step;
  };
  for (let y = 0; y < Math.min(height, reach); y++) count(y, 1);
  for (let y = 0; y < height; y++) {
    if (y + reach < height) count(y + reach, 1);
    if (y - reach - 1 >= 0) count(y - reach - 1, -1);
    for (let x = 0, i = y * width; x < width; x++, i++) out[i] = held[x] > 0 ? target : 1 - target;
  }
  return out;
}
