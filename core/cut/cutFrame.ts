import { checkRaster, type EncodedRaster } from '../image/raster.ts';
import { strokesOf, type Path } from '../touch/touch.ts';
import { analysePrepared } from './analysis.ts';
import { prepareFrame, type KnownBefore, type Prepared } from './prepare.ts';
import { finishCut } from './finish.ts';
import { solveMatte } from './matte.ts';
import { withPersonLight } from './personLight.ts';
import { judgeQuality, type Quality } from './quality.ts';
import { noGuidance, type Guidance } from './guidance.ts';
import type { Recipe } from './recipe.ts';
import { cutWhole, wholeQuality } from './wholeFrame.ts';
import { setRegions, withoutRegions, withRegion, type Finished } from './setRegions.ts';

export type CutResult =
  | { ok: true; cutout: EncodedRaster & { channels: 4 }; quality: Quality }
  | { ok: false; reason: string; remedy: string };

/** What else a cut may be made with. */
export interface CutAlso extends KnownBefore {
  /** The frame as `prepareFrame` leaves it, where that was done before. */
  prepared?: Prepared;
  /** Paths of the guidance's touches, by name. */
  paths?: ReadonlyMap<string, Path>;
}

export const noScreen = {
  reason: 'no green or blue screen was found in it',
  remedy:
    'Use a frame in which the lit screen fills at least a twentieth of the picture, or draw a mask “Screen here” on it, which makes any even colour serve, a grey wall too; if it has none, choose “Without a screen” as method, for its regions too.',
} as const;

/**
 * From frame to cut. One path for batch, browser preview and command line; the same pixels and recipe always give
 * the same result.
 * @param frame sRGB, upright, 1 or 3 channels, 8 or 16 bit.
 * @param guidance what a hand said; it wins.
 */
export function cutFrame(
  frame: EncodedRaster,
  recipe: Recipe,
  guidance: Guidance = noGuidance,
  { paths = new Map(), ...known }: CutAlso = {},
): CutResult {
  checkRaster(frame);
  const strokes = strokesOf(guidance.touches, paths);
  const said = withoutRegions(guidance);
  const regions = setRegions(recipe, guidance);
  const whole = recipe.method === 'whole';
  const looked = !whole || regions.some((region) => region.recipe.method !== 'whole');
  const prepared = looked ? (known.prepared ?? prepareFrame(frame, { ...known, masks: guidance.masks })) : undefined;
  if (!prepared && looked) return { ok: false, ...noScreen };
  const analysis = prepared && analysePrepared(prepared, recipe, said, strokes);
  const cutBy = (by: Recipe): Finished => {
    if (!analysis || (whole && by.method === 'whole')) return cutWhole(frame, by, said, strokes, known.own);
    const its = sameSorting(by, recipe) ? analysis : analysePrepared(prepared, by, said, strokes);
    const matte = solveMatte(frame, its, by, strokes, known.own);
    return { matte, cutout: finishCut(frame, its, matte, by, { strokes }) };
  };
  const around = cutBy(recipe);
  const made = regions.reduce((laid, { mask, recipe: own }) => withRegion(laid, cutBy(own), mask), around);
  const { matte, cutout } = made;
  const quality = whole || !analysis ? wholeQuality(frame, matte) : judgeQuality(analysis, matte, cutout);
  return { ok: true, cutout: withPersonLight(cutout, recipe), quality };
}

/** Whether two recipes sort a frame alike. */
function sameSorting(a: Recipe, b: Recipe): boolean {
  return a.hairReach === b.hairReach && a.greenKeep === b.greenKeep;
}
