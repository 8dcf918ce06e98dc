import { boxBlur } from './boxBlur.ts';
import { createPlane } from './raster.ts';

/** Moves of an outline by parts of a pixel, on coverage 0–65535. Nothing is changed; results are new arrays. */

/** Further out (above 0) or in (below 0), by so many pixels. */
export function movedBy(alpha: Uint16Array, width: number, height: number, pixels: number): Uint16Array {
  let moved = alpha;
  for (let left = Math.abs(pixels); left > 1e-9; left -= 1)
    moved = movedOnce(moved, width, height, Math.sign(pixels), Math.min(1, left));
  return moved;
}

/** By a pixel or a part of one: the largest or smallest of each pixel and its four neighbours. */
function movedOnce(alpha: Uint16Array, width: number, height: number, way: number, part: number): Uint16Array {
  const out = alpha.slice();
  const outwards = way > 0;
  for (let y = 0, p = 0; y < height; y++) {
    const above = y > 0 ? width : 0;
    const below = y < height - 1 ? width : 0;
    for (let x = 0; x < width; x++, p++) {
      const own = alpha[p];
      const left = x > 0 ? alpha[p - 1] : own;
      const right = x < width - 1 ? alpha[p + 1] : own;
      const up = alpha[p - above];
      const down = alpha[p + below];
      if (left === own && right === own && up === own && down === own) continue;
      const extreme = outwards ? Math.max(own, left, right, up, down) : Math.min(own, left, right, up, down);
      if (extreme !== own) out[p] = Math.round(own + part * (extreme - own));
    }
  }
  return out;
}

/** Blurred twice by a box, with the part of a pixel that the radius leaves over mixed in. */
export function softened(alpha: Uint16Array, width: number, height: number, radius: number): Uint16Array {
  const plane = createPlane(width, height);
  for (let p = 0; p < alpha.length; p++) plane.data[p] = alpha[p];
  const whole = Math.floor(radius);
  const blurred = (r: number): Float32Array => (r === 0 ? plane.data : boxBlur(boxBlur(plane, r), r).data);
  const near = blurred(whole);
  const far = radius > whole ? blurred(whole + 1) : near;
  return Uint16Array.from(near, (v, p) =>
    Math.max(0, Math.min(65535, Math.round(v + (radius - whole) * (far[p] - v)))),
  );
}
