import { components } from '../image/components.ts';
import { nearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { both, either } from '../image/masks.ts';
import { createMask, whiteLevel, type EncodedRaster, type Mask, type Plane } from '../image/raster.ts';
import type { PointedColour, Survey } from '../screen/survey.ts';
import type { Analysis } from './analysis.ts';
import { differenceKey } from './byDifference.ts';
import { doubtFacts, type DoubtKind } from './doubts.ts';
import { givenBy } from './guidance.ts';
import type { GreenPatch, PatchEvidence } from './greenPatch.ts';
import type { Matte, Tiles } from './coverage.ts';
import {
  boundsOf,
  maskOf,
  outlineIn,
  MOST_PLACES,
  pieces,
  piecesOf,
  placeOf,
  round,
  rounded,
  worstTiles,
  type Place,
} from './places.ts';
import { Region } from './region.ts';
import { spillPlaces } from './spillPlaces.ts';
import { firstBeside, secondBeside } from '../colour/channels.ts';

/** What is doubtful in a cut and what it will cost by hand. */
export interface Quality {
  /** None: it was cut without. */
  screen: PointedColour | 'none';
  /** Share of the frame that plainly shows the screen, 0–1. */
  screenShare: number;
  /** Share of the frame that had to be solved, 0–1. */
  fringeShare: number;
  /** Share of the fringe that unmixing could not explain, 0–1. */
  unexplained: number;
  /** Noise of the screen, % of its level. */
  noisePercent: number;
  /** Green patches kept as clothing, and removed as screen. */
  greenKept: number;
  greenRemoved: number;
  /** The green ledger, largest patches first. */
  ledger: LedgerEntry[];
  doubts: Doubt[];
  /** What the person takes up of the frame. */
  extent: Place;
  /** Sum over the doubts. */
  minutes: number;
  /** Touches without which the cut would look the same, if it was looked at. */
  idle?: string[];
}

export interface LedgerEntry extends Pick<
  GreenPatch,
  'centre' | 'chroma' | 'share' | 'likelihood' | 'verdict' | 'doubtful' | 'byHand'
> {
  place: Place;
  evidence: Pick<PatchEvidence, 'apart' | 'mostScreen' | 'rough' | 'atBorder'>;
}

export interface Doubt {
  kind: DoubtKind;
  /** What was read, in the kind's unit; cuts made before it was kept have none. */
  value?: number;
  minutes: number;
  /** Where to look, worst first. */
  places: Place[];
}

/**
 * How likely, 0–1, a pixel that a mask clears must be the person to be told; and share of the frame, and likelihood,
 * of the smallest person.
 */
const TAKEN = 0.7;
const LEAST_PERSON = 0.004;
const SURE_PERSON = 0.5;
/** How far, of 1, the screen's channel stands above the others at the least. */
const LEAST_PURITY = 0.4;
/** Difference from the screen, as `differenceKey` has it, below which a pixel looks like it. */
const LEAST_APART = 0.4;

/** Entries of the ledger, at most. */
const MOST_ENTRIES = 24;

/**
 * Judges a cut from what its making left behind.
 * @param cutout the finished cut, for its colours; without it the outline is not judged.
 */
export function judgeQuality(analysis: Analysis, matte: Matte, cutout?: EncodedRaster): Quality {
  const { regions, patches, factor } = analysis;
  const count = regions.data.length;
  let clear = 0;
  let fringe = 0;
  for (let p = 0; p < count; p++) {
    if (regions.data[p] === Region.clear) clear++;
    else if (regions.data[p] === Region.fringe) fringe++;
  }
  const alpha = sampled(matte, factor, regions);
  const area = matte.width * matte.height;
  const inside = thinPlaces(alpha, analysis.sorted.coverage);
  const unsure = unsurePlaces(alpha, analysis, inside.thin);
  const apart = piecesApart(alpha);
  const crossing = pieces(
    maskOf(regions, (p) => analysis.outside.data[p] === 1 && analysis.beyond.data[p] > 0.5),
    30,
  );
  // Grey shines no colour on anybody, and people are red by themselves.
  const lit = analysis.survey.channel !== 0 && analysis.survey.screen !== 'grey' ? cutout : undefined;
  const spill = lit && spillPlaces(lit, analysis, alpha);
  const green = lit ? greenOutline(lit, analysis, alpha) : { percent: 0, places: [] };
  const alike = likeScreen(analysis, alpha);
  const doubtful = patches.filter((patch) => patch.doubtful);
  const taken = takenByMasks(analysis);
  const { tiles } = matte;
  const sum = (of: Float64Array): number => of.reduce((total, v) => total + v, 0);
  const readings: Record<DoubtKind, { value: number; places: Place[] }> = {
    strands: { value: (1000 * sum(tiles.apart)) / area, places: worstTiles(tiles, tiles.apart) },
    unexplained: { value: (1000 * sum(tiles.unexplained)) / area, places: worstTiles(tiles, tiles.unexplained) },
    greenClose: { value: doubtful.length, places: placesOfPatches(doubtful, analysis) },
    outlineGreen: { value: green.percent, places: green.places },
    spillLeft: { value: (1000 * (spill?.left.area ?? 0)) / count, places: spill?.left.places ?? [] },
    spillBent: { value: (1000 * (spill?.bent.area ?? 0)) / count, places: spill?.bent.places ?? [] },
    unsure: { value: (1000 * unsure.area) / count, places: unsure.places },
    holes: { value: (1000 * inside.area) / count, places: inside.places },
    residue: { value: apart.length, places: apart },
    atEdge: { value: crossing.length, places: crossing },
    noisy: { value: analysis.noise * 100, places: [] },
    wideFringe: { value: (100 * fringe) / count, places: [] },
    maskedPerson: { value: (1000 * taken.data.reduce((n, v) => n + v, 0)) / count, places: pieces(taken, 12) },
    nobody: { value: analysis.persons && likelyPixels(analysis.persons) < LEAST_PERSON * count ? 1 : 0, places: [] },
    paleScreen: { value: 100 * Math.max(0, LEAST_PURITY - purityOf(analysis.survey)), places: [] },
    likeScreen: { value: alike.percent, places: alike.places },
    plateUnlike: { value: analysis.plateFits ? 0 : 1, places: [] },
  };
  const doubts: Doubt[] = [];
  for (const kind of Object.keys(readings) as DoubtKind[]) {
    const { bound, minutesPerUnit, most } = doubtFacts[kind];
    const { value, places } = readings[kind];
    if (value > bound)
      doubts.push({
        kind,
        value: round(value),
        minutes: round(Math.min(most, (value - bound) * minutesPerUnit)),
        places: places.slice(0, MOST_PLACES).map(rounded),
      });
  }
  doubts.sort((a, b) => b.minutes - a.minutes);
  const greenKept = patches.filter((patch) => patch.verdict === 'keep').length;
  return {
    screen: analysis.survey.screen,
    screenShare: round(clear / count),
    fringeShare: round(fringe / count),
    unexplained: round(matte.unexplained),
    noisePercent: round(analysis.noise * 100),
    greenKept,
    greenRemoved: patches.length - greenKept,
    ledger: patches.slice(0, MOST_ENTRIES).map((patch) => entryOf(patch, analysis)),
    doubts,
    extent: rounded(extentOf(alpha)),
    minutes: round(doubts.reduce((total, doubt) => total + doubt.minutes, 0)),
  };
}

/** Where a patch lies. */
function placeOfPatch(patch: GreenPatch, { labels, patches, regions }: Analysis): Place {
  const { width, height } = regions;
  const [left, top, right, bottom] = patch.box;
  const label = patches.indexOf(patch) + 1;
  const shape = new Uint8Array((right - left) * (bottom - top));
  for (let y = top, k = 0; y < bottom; y++)
    for (let x = left; x < right; x++, k++) if (labels[y * width + x] === label) shape[k] = 1;
  return { ...placeOf(patch.box, regions), outline: outlineIn(patch.box, shape, width, height) };
}

/** Patches nearer to each other than this, share of the height, are pieces of one thing: a net, a plaid. */
const ONE_THING = 0.012;

/** Where patches lie, those that are pieces of one thing as one place, largest first. */
function placesOfPatches(patches: readonly GreenPatch[], analysis: Analysis): Place[] {
  if (patches.length < 2) return patches.map((patch) => placeOfPatch(patch, analysis));
  const { labels, regions } = analysis;
  const meant = new Set(patches.map((patch) => analysis.patches.indexOf(patch) + 1));
  const all = maskOf(regions, (p) => meant.has(labels[p]));
  const reach = Math.max(1, (ONE_THING / 2) * regions.height);
  return pieces(growMask(growMask(all, reach), -reach), 1);
}

function entryOf(patch: GreenPatch, analysis: Analysis): LedgerEntry {
  const { centre, chroma, share, likelihood, verdict, doubtful, byHand, evidence } = patch;
  const { apart, mostScreen, rough, atBorder } = evidence;
  const place = placeOfPatch(patch, analysis);
  return {
    place: rounded(place),
    centre: { x: round(centre.x), y: round(centre.y) },
    chroma: [round(chroma[0]), round(chroma[1])],
    share: Number(share.toPrecision(3)),
    likelihood: round(likelihood),
    verdict,
    doubtful,
    byHand,
    evidence: { apart: round(apart), mostScreen: round(mostScreen), rough: round(rough), atBorder },
  };
}

/** Coverage 0–1 at one pixel of each reduced one. */
export function sampled(
  { alpha, width, height }: Matte,
  factor: number,
  { width: w, height: h }: { width: number; height: number },
): { width: number; height: number; data: Float32Array } {
  const data = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      data[y * w + x] =
        alpha[
          Math.min(height - 1, y * factor + (factor >> 1)) * width + Math.min(width - 1, x * factor + (factor >> 1))
        ] / 65535;
  return { width: w, height: h, data };
}

/**
 * Farther from anything clear than this share of the height, coverage should be full; what falls short of it; and the
 * coverage to expect of what is no hair.
 */
const DEEP = 0.012;
const FULL = 0.93;
const BODY = 0.95;

/** Coverage from which on something counts as seen. */
const SEEN = 0.1;

/** The whole frame if nothing is left of it. */
export function extentOf(alpha: { width: number; height: number; data: Float32Array }): Place {
  let [left, top, right, bottom] = [alpha.width, alpha.height, 0, 0];
  for (let p = 0; p < alpha.data.length; p++) {
    if (alpha.data[p] < SEEN) continue;
    const x = p % alpha.width;
    const y = (p / alpha.width) | 0;
    left = Math.min(left, x);
    right = Math.max(right, x + 1);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y + 1);
  }
  return right > left ? placeOf([left, top, right, bottom], alpha) : { x: 0, y: 0, width: 1, height: 1 };
}

function thinPlaces(
  alpha: { width: number; height: number; data: Float32Array },
  expected: Plane,
): { thin: Mask; area: number; places: Place[] } {
  const open = maskOf(alpha, (p) => alpha.data[p] < 0.1);
  const { distance } = nearestFeature(open);
  const thin = maskOf(
    alpha,
    (p) => alpha.data[p] < FULL && distance[p] > DEEP * alpha.height && expected.data[p] > BODY,
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
function takenByMasks({ masks, sorted, persons, regions, outside }: Analysis): Mask {
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

function likelyPixels({ data }: Plane): number {
  return data.reduce((n, v) => n + (v > SURE_PERSON ? 1 : 0), 0);
}

/**
 * How much of the person has the light and colour of a screen that is none of the usual ones, and where: of a green or
 * blue one the sorter and the ledger judge that better.
 */
function likeScreen(
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
function purityOf({ chroma: [red, blue], channel }: Survey): number {
  const shares = [red, 1 - red - blue, blue];
  const other = Math.max(shares[firstBeside[channel]], shares[secondBeside[channel]]);
  return Math.max(0, 1 - other / Math.max(1e-6, shares[channel]));
}

/**
 * Where the cut is not what was expected, or where the screen alone and the person alone are both likely; thin places
 * are told by themselves.
 */
function unsurePlaces(
  alpha: { width: number; height: number; data: Float32Array },
  { sorted, outside, persons, shadow }: Analysis,
  thin: Mask,
): { area: number; places: Place[] } {
  const doubt = (p: number): number =>
    Math.max(
      Math.abs(alpha.data[p] - sorted.coverage.data[p]),
      2 * Math.min(sorted.clear.data[p], sorted.solid.data[p]),
    );
  const unsure = maskOf(alpha, (p) => outside.data[p] === 0 && thin.data[p] === 0 && doubt(p) > UNSURE);
  if (persons) for (const p of lostParts(alpha, persons, either(outside, shadow))) unsure.data[p] = 1;
  const told = piecesOf(growMask(unsure, Math.max(1, TOGETHER * alpha.height)), LEAST_UNSURE);
  let area = 0;
  for (const { pixels } of told) for (const p of pixels) if (unsure.data[p]) area += Math.max(UNSURE, doubt(p));
  return { area, places: told.map(({ pixels }) => boundsOf(pixels, alpha.width, alpha.height)) };
}

/**
 * Reduced pixels that went though by form they are a person's: cloth of the very screen's colour. A gap is enclosed by
 * what stayed, a lost limb stands on the plain screen; the map's own outline is a little too wide, and it sees a person
 * in a shadow. @param passed 1 where nothing is said: beyond the screen and in its shadow.
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
function piecesApart(alpha: { width: number; height: number; data: Float32Array }): Place[] {
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

function greenOutline(
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
