import { whiteLevel, type EncodedRaster } from '../image/raster.ts';
import type { Path } from '../touch/touch.ts';
import type { Guidance } from './guidance.ts';
import type { Recipe } from './recipe.ts';
import type { StagedCut } from './stagedCut.ts';

/** How much less than 255 a pixel may change, in coverage or in colour as far as it covers, and still be the same. */
const UNSEEN = 3;
/** Pixels that may change more. */
const FEW = 4;

/**
 * Whether a cut would look the same without one of its touches: the cut has become good there without it, or another
 * touch does the same.
 * @param paths of the guidance's touches, by name.
 */
export function isIdle(
  staged: StagedCut,
  recipe: Recipe,
  guidance: Guidance,
  touchId: string,
  paths: ReadonlyMap<string, Path>,
): boolean {
  const without = { ...guidance, touches: guidance.touches.filter(({ id }) => id !== touchId) };
  const [one, other] = [staged.cut(recipe, guidance, paths), staged.cut(recipe, without, paths)];
  return one !== undefined && other !== undefined && looksSame(one, other);
}

function looksSame(one: EncodedRaster, other: EncodedRaster): boolean {
  const white = whiteLevel(one);
  const most = (UNSEEN * white) / 255;
  let changed = 0;
  for (let i = 0; i < one.data.length; i += 4) {
    const [a, b] = [one.data[i + 3], other.data[i + 3]];
    let off = Math.abs(a - b);
    for (let c = 0; c < 3; c++) off = Math.max(off, Math.abs(one.data[i + c] * a - other.data[i + c] * b) / white);
    if (off > most && ++changed > FEW) return false;
  }
  return true;
}
