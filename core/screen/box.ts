/** A rectangle in shares of the frame from its top left. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Around some pixels of a raster. */
export function boxOf(pixels: Int32Array, width: number, height: number): Box {
  let left = width;
  let right = 0;
  let top = height;
  let bottom = 0;
  for (const p of pixels) {
    const x = p % width;
    const y = (p / width) | 0;
    if (x < left) left = x;
    if (x > right) right = x;
    if (y < top) top = y;
    if (y > bottom) bottom = y;
  }
  return { x: left / width, y: top / height, width: (right - left + 1) / width, height: (bottom - top + 1) / height };
}
