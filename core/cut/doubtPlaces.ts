import { firstBeside, secondBeside } from '../colour/channels.ts';
import { components } from '../image/components.ts';
import { nearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { both, either } from '../image/masks.ts';
import { createMask, whiteLevel, type EncodedRaster, type Mask, type Plane } from '../image/raster.ts';
import type { Survey } from '../screen/survey.ts';
import type { Analysis } from './analysis.ts';
import { differenceKey } from './byDifference.ts';
import type { Tiles } from './coverage.ts';
import { givenBy } from './guidance.ts';
import { boundsOf, maskOf, pieces, piecesOf, worstTiles, type Place } from './places.ts';
import { Region } from './region.ts';

/** Where a cut is doubtful, each kind by its own signs. */

/**
 * How likely, 0–1, a pixel that a mask clears must be the person to be told; and share of the frame, and likelihood,
 * of the smallest person.
 */
const TAKEN = 0.7;
export const LEAST_PERSON = 0.004;
const SURE_PERSON = 0.5;
/** How far, of 1, the screen's channel stands above the others at the least. */
export const LEAST_PURITY = 0.4;
/** Difference from the screen, as `differenceKey` has it, below which a pixel looks like it. */
const LEAST_APART = 0.4;

/**
 * Farther from anything clear than this share of the height, coverage should be full; what falls short of it; and the
 * coverage to expect of what is no hair.
 */
const DEEP = 0.012;
const FULL = 0.93;
const BODY = 0.95;

/** Where coverage should be full and is not; what the screen is seen through is told by itself. */
export function thinPlaces(
  alpha: { width: number; height: number; data: Float32Array },
  { sorted, sheer }: Pick<Analysis, 'sorted' | 'sheer'>,
): { thin: Mask; area: number; places: Place[] } {
  const open = maskOf(alpha, (p) => alpha.data[p] < 0.1);
  const { distance } = nearestFeature(open);
  const thin = maskOf(
    alpha,
    (p) =>
      alpha.data[p] < FULL &&
      distance[p] > DEEP * alpha.height &&
      sorted.coverage.data[p] > BODY &&
      sheer.data[p] === 0,
  );
  let area = 0;
  for (let p = 0; p < thin.data.length; p++) if (thin.data[p]) area += 1 - alpha.data[p];
  return { thin, area, places: pieces(thin, 6) };
}

/**
 * How far coverage must lie from what was expected, or clear and solid be as likely as each other, to be told; and
 * what lies this near together is one place, share of the height.
 */
const UNSURE = 0.3;
const TOGETHER = 0.006;
/** Reduced pixels of the smallest place. */
const LEAST_UNSURE = 40;
/**
 * Coverage below which something is gone; half the width, share of the height, and least share of the frame, of a part
 * that may be lost.
 */
const GONE = 0.2;
const LOST_WIDTH = 0.012;
const LEAST_LOST = 0.002;

/** Where a mask clears what looks like the person: to the sorter, and to the map of persons if there is one. */
export function takenByMasks({ masks, sorted, persons, regions, outside }: Analysis): Mask {
  const given = givenBy(
    masks.filter(({ effect }) => effect === 'clear' || effect === 'crop'),
    regions.width,
    regions.height,
  );
  return maskOf(
    regions,
    (p) =>
      given.data[p] === 1 &&
      (outside.data[p] === 1 ? (persons?.data[p] ?? 0) : Math.min(sorted.solid.data[p], persons?.data[p] ?? 1)) > TAKEN,
  );
}

export function likelyPixels({ data }: Plane): number {
  return data.reduce((n, v) => n + (v > SURE_PERSON ? 1 : 0), 0);
}

/**
 * How much of the person has the light and colour of a screen that is none of the usual ones, and where: of a green or
 * blue one the sorter and the ledger judge that better.
 */
export function likeScreen(
  { survey, reduced, screen, regions, persons }: Analysis,
  alpha: { data: Float32Array },
): { percent: number; places: Place[] } {
  if (survey.screen !== 'red' && purityOf(survey) >= LEAST_PURITY) return { percent: 0, places: [] };
  const key = differenceKey(reduced, screen);
  let person = 0;
  let alike = 0;
  const mask = maskOf(regions, (p) => {
    if (alpha.data[p] < 0.5 && !(persons && persons.data[p] > TAKEN)) return false;
    person++;
    if (key[p] >= LEAST_APART) return false;
    alike++;
    return true;
  });
  return { percent: (100 * alike) / Math.max(1, person), places: pieces(mask, LEAST_UNSURE) };
}

/** How far the screen's channel stands above the stronger of the others, of 1. */
export function purityOf({ chroma: [red, blue], channel }: Survey): number {
  const shares = [red, 1 - red - blue, blue];
  const other = Math.max(shares[firstBeside[channel]], shares[secondBeside[channel]]);
  return Math.max(0, 1 - other / Math.max(1e-6, shares[channel]));
}

/**
 * Where the cut is not what was expected, or where the screen alone and the person alone are both likely; thin places
 * and what the screen is seen through are told by themselves.
 */
export function unsurePlaces(
  alpha: { width: number; height: number; data: Float32Array },
  { sorted, outside, persons, shadow, sheer }: Analysis,
  thin: Mask,
): { area: number; places: Place[] } {
  const doubt = (p: number): number =>
    Math.max(
      Math.abs(alpha.data[p] - sorted.coverage.data[p]),
      2 * Math.min(sorted.clear.data[p], sorted.solid.data[p]),
    );
  const unsure = maskOf(
    alpha,
    (p) => outside.data[p] === 0 && thin.data[p] === 0 && sheer.data[p] === 0 && doubt(p) > UNSURE,
  );
  if (persons) for (const p of lostParts(alpha, persons, either(either(outside, shadow), sheer))) unsure.data[p] = 1;
  const told = piecesOf(growMask(unsure, Math.max(1, TOGETHER * alpha.height)), LEAST_UNSURE);
  let area = 0;
  for (const { pixels } of told) for (const p of pixels) if (unsure.data[p]) area += Math.max(UNSURE, doubt(p));
  return { area, places: told.map(({ pixels }) => boundsOf(pixels, alpha.width, alpha.height)) };
}

/**
 * Reduced pixels that went though by form they are a person's: cloth of the very screen's colour. A gap is enclosed by
 * what stayed, a lost limb stands on the plain screen; the map's own outline is a little too wide, and it sees a person
 * in a shadow. @param passed 1 where nothing is said: beyond the screen, in its shadow, and seen through cloth.
 */
function lostParts(
  alpha: { width: number; height: number; data: Float32Array },
  persons: Plane,
  passed: Mask,
): number[] {
  const gone = maskOf(alpha, (p) => persons.data[p] > SURE_PERSON && alpha.data[p] < GONE && passed.data[p] === 0);
  const radius = Math.max(2, LOST_WIDTH * alpha.height);
  const wide = both(growMask(growMask(gone, -radius), radius), gone);
  return components(wide).flatMap(({ pixels }) => {
    if (pixels.length < LEAST_LOST * wide.data.length) return [];
    let [open, solid] = [0, 0];
    const around = growMask(partOf(alpha, pixels), radius);
    for (let p = 0; p < around.data.length; p++) {
      if (!around.data[p] || wide.data[p]) continue;
      if (alpha.data[p] > 1 - GONE) solid++;
      else if (alpha.data[p] < GONE) open++;
    }
    return open > solid ? [...pixels] : [];
  });
}

function partOf({ width, height }: { width: number; height: number }, pixels: Int32Array): Mask {
  const mask = createMask(width, height);
  for (const p of pixels) mask.data[p] = 1;
  return mask;
}

/** Pieces beside the largest that are no loose hair: solid somewhere. */
export function piecesApart(alpha: { width: number; height: number; data: Float32Array }): Place[] {
  const all = components(maskOf(alpha, (p) => alpha.data[p] > 0.1)).sort((a, b) => b.pixels.length - a.pixels.length);
  const least = 0.00005 * alpha.data.length;
  return all
    .slice(1)
    .filter(
      ({ pixels }) =>
        pixels.length > least &&
        pixels.reduce((n, p) => n + (alpha.data[p] > 0.8 ? 1 : 0), 0) > 0.4 * pixels.length &&
        pixels.length < 0.2 * all[0].pixels.length,
    )
    .map(({ pixels }) => boundsOf(pixels, alpha.width, alpha.height));
}

/** Lead of the screen's channel, of 1, in a finished outline that shows. */
const GREEN_LEAD = 0.06;

export function greenOutline(
  cutout: EncodedRaster,
  { regions, kept, factor, survey }: Analysis,
  alpha: { data: Float32Array },
): { percent: number; places: Place[] } {
  const white = whiteLevel(cutout);
  const [one, other] = [firstBeside[survey.channel], secondBeside[survey.channel]];
  const { width, height } = regions;
  let outline = 0;
  const green = maskOf(regions, (p) => {
    if (regions.data[p] !== Region.fringe || kept.data[p] || alpha.data[p] < 0.2) return false;
    outline++;
    const x = Math.min(cutout.width - 1, (p % width) * factor + (factor >> 1));
    const y = Math.min(cutout.height - 1, ((p / width) | 0) * factor + (factor >> 1));
    const o = (y * cutout.width + x) * 4;
    return (
      cutout.data[o + survey.channel] - Math.max(cutout.data[o + one], cutout.data[o + other]) > GREEN_LEAD * white
    );
  });
  const n = green.data.reduce((sum, v) => sum + v, 0);
  const tiles: Tiles = {
    across: 16,
    down: 16,
    fringe: new Float64Array(256),
    unexplained: new Float64Array(),
    apart: new Float64Array(),
  };
  for (let p = 0; p < green.data.length; p++)
    if (green.data[p])
      tiles.fringe[(((((p / width) | 0) * 16) / height) | 0) * 16 + ((((p % width) * 16) / width) | 0)]++;
  return { percent: outline ? (100 * n) / outline : 0, places: worstTiles(tiles, tiles.fringe) };
}
