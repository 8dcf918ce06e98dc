import { whiteLevel, type EncodedRaster } from '../image/raster.ts';
import { workingTouches, type Path } from '../touch/touch.ts';
import type { Guidance } from './guidance.ts';
import type { Recipe } from './recipe.ts';
import type { StagedCut } from './stagedCut.ts';

/** How much less than 255 a pixel may change, in coverage or in colour as far as it covers, and still be the same. */
const UNSEEN = 3;
/** Pixels that may change more. */
const FEW = 4;

/**
 * Those of some touches without which, one at a time, a cut would look the same: the cut has become good there without
 * it, or another touch does the same.
 * @param staged of the frame or a smaller copy.
 * @param paths of the guidance's touches, by name.
 * @param touchIds that are asked about, all that are switched on if left out.
 */
export function idleTouches(
  staged: StagedCut,
  recipe: Recipe,
  guidance: Guidance,
  paths: ReadonlyMap<string, Path>,
  touchIds: readonly string[] = workingTouches(guidance.touches).map(({ id }) => id),
): string[] {
  const all = touchIds.length ? staged.cut(recipe, guidance, paths) : undefined;
  if (!all) return [];
  return touchIds.filter((touchId) => {
    const without = { ...guidance, touches: guidance.touches.filter(({ id }) => id !== touchId) };
    const other = staged.cut(recipe, without, paths);
    return other !== undefined && looksSame(all, other);
  });
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
