import { components } from '../image/components.ts';
import { movedBy, softened } from '../image/outlineMoves.ts';
import { createMask } from '../image/raster.ts';
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
 * @param scale pixels of this matte to one of the file, for touches.
 * @returns the same matte if nothing is asked for.
 */
export function shapeMatte(
  matte: Matte,
  recipe: Pick<Recipe, 'edge' | 'softness' | 'specks' | 'holes'>,
  masks: readonly HandMask[],
  strokes: readonly Stroke[] = [],
  scale = 1,
): Matte {
  const { edge, softness, specks, holes } = recipe;
  const touches = strokesAbout(strokes, 'matte');
  if (!edge && !softness && !specks && !holes && !masks.length && !touches.length) return matte;
  const { width, height } = matte;
  let alpha: Uint16Array = matte.alpha.slice();
  if (specks) dropSmall(alpha, width, height, specks, (a) => a >= PIECE, 0);
  if (holes) dropSmall(alpha, width, height, holes, (a) => a < OPENING, 65535);
  if (edge) alpha = movedBy(alpha, width, height, edge);
  if (softness) alpha = softened(alpha, width, height, softness);
  applyMasks(masks, alpha, width, height);
  touchMatte(touches, alpha, width, height, scale);
  return { ...matte, alpha, solved: matte.solved ?? matte.alpha };
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
