import { components } from '../image/components.ts';
import { boxBlur } from '../image/boxBlur.ts';
import { createMask, createPlane } from '../image/raster.ts';
import { touchMatte } from '../touch/onMatte.ts';
import { strokesAbout, type Stroke } from '../touch/touch.ts';
import { applyMasks, type HandMask } from './guidance.ts';
import type { Matte } from './coverage.ts';
import type { Recipe } from './recipe.ts';

/** Coverage from which a pixel belongs to a piece, and below which to an opening; 0–65535. */
const PIECE = 0.1 * 65535;
const OPENING = 0.9 * 65535;

/**
 * What the settings do to a solved coverage: small pieces and openings go, the edge moves out or in, softens; masks by
 * hand come then, and touches last.
 * @returns the same matte if nothing is asked for.
 */
export function shapeMatte(
  matte: Matte,
  recipe: Pick<Recipe, 'edge' | 'softness' | 'specks' | 'holes'>,
  masks: readonly HandMask[],
  strokes: readonly Stroke[] = [],
): Matte {
  const { edge, softness, specks, holes } = recipe;
  const touches = strokesAbout(strokes, 'matte');
  if (!edge && !softness && !specks && !holes && !masks.length && !touches.length) return matte;
  const { width, height } = matte;
  let alpha: Uint16Array = matte.alpha.slice();
  if (specks) dropSmall(alpha, width, height, specks, (a) => a >= PIECE, 0);
  if (holes) dropSmall(alpha, width, height, holes, (a) => a < OPENING, 65535);
  for (let left = Math.abs(edge); left > 1e-9; left -= 1)
    alpha = moved(alpha, width, height, Math.sign(edge), Math.min(1, left));
  if (softness) alpha = softened(alpha, width, height, softness);
  applyMasks(masks, alpha, width, height);
  touchMatte(touches, alpha, width, height);
  return { ...matte, alpha, solved: matte.alpha };
}

/** Sets pieces smaller than a square of `across` pixels to `value`. */
function dropSmall(
  alpha: Uint16Array,
  width: number,
  height: number,
  across: number,
  isPiece: (a: number) => boolean,
  value: number,
): void {
  const mask = createMask(width, height);
  for (let p = 0; p < alpha.length; p++) if (isPiece(alpha[p])) mask.data[p] = 1;
  for (const { pixels, touchesBorder } of components(mask))
    if (!touchesBorder && pixels.length < across * across) for (const p of pixels) alpha[p] = value;
}

/**
 * The outline a pixel (or a part of one) further out (+1) or in (−1): the largest or smallest of each pixel and its
 * four neighbours.
 */
function moved(alpha: Uint16Array, width: number, height: number, way: number, part: number): Uint16Array {
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
function softened(alpha: Uint16Array, width: number, height: number, radius: number): Uint16Array {
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
