import type { LinearRaster } from '../image/raster.ts';

/** A premultiplied RGBA picture and where its top left corner lies in a larger one, pixels. */
export interface Layer {
  left: number;
  top: number;
  picture: LinearRaster;
}

/** Lays one premultiplied RGBA picture over another (Porter & Duff's over), into the lower one. */
export function layOver(below: LinearRaster, { left, top, picture }: Layer): void {
  const a = picture.data;
  const b = below.data;
  for (let y = 0; y < picture.height; y++) {
    let o = ((top + y) * below.width + left) * 4;
    const end = (y + 1) * picture.width * 4;
    for (let i = y * picture.width * 4; i < end; i += 4, o += 4) {
      if (a[i + 3] === 0) continue;
      const keep = 1 - a[i + 3];
      b[o] = b[o] * keep + a[i];
      b[o + 1] = b[o + 1] * keep + a[i + 1];
      b[o + 2] = b[o + 2] * keep + a[i + 2];
      b[o + 3] = b[o + 3] * keep + a[i + 3];
    }
  }
}
