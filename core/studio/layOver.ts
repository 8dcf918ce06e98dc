import type { LinearRaster } from '../image/raster.ts';

/** Lays one premultiplied RGBA picture over another of the same size (Porter & Duff's over), into the lower one. */
export function layOver(below: LinearRaster, above: LinearRaster): void {
  const a = above.data;
  const b = below.data;
  for (let i = 0; i < a.length; i += 4) {
    if (a[i + 3] === 0) continue;
    const keep = 1 - a[i + 3];
    b[i] = b[i] * keep + a[i];
    b[i + 1] = b[i + 1] * keep + a[i + 1];
    b[i + 2] = b[i + 2] * keep + a[i + 2];
    b[i + 3] = b[i + 3] * keep + a[i + 3];
  }
}
