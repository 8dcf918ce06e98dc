import type { Mask } from './raster.ts';

/**
 * Walks from the set pixels of a mask over neighbours to the left, right, above and below. `accept` is asked for each
 * step from a pixel to the next, marks the next as its own if it takes it, and must not take a pixel twice, nor one
 * that was set.
 */
export function spread({ width, height, data }: Mask, accept: (from: number, to: number) => boolean): void {
  const stack = new Int32Array(data.length);
  let top = 0;
  for (let p = 0, x = 0; p < data.length; p++, x = x + 1 === width ? 0 : x + 1) {
    if (!data[p]) continue;
    const inner =
      (x === 0 || data[p - 1]) &&
      (x === width - 1 || data[p + 1]) &&
      (p < width || data[p - width]) &&
      (p >= data.length - width || data[p + width]);
    if (!inner) stack[top++] = p;
  }
  const last = width * (height - 1);
  while (top > 0) {
    const p = stack[--top];
    const x = p % width;
    if (x > 0 && accept(p, p - 1)) stack[top++] = p - 1;
    if (x < width - 1 && accept(p, p + 1)) stack[top++] = p + 1;
    if (p >= width && accept(p, p - width)) stack[top++] = p - width;
    if (p < last && accept(p, p + width)) stack[top++] = p + width;
  }
}
