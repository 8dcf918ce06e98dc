import { growMask } from '../image/growMask.ts';
import type { EncodedRaster } from '../image/raster.ts';
import type { PointedColour } from '../screen/survey.ts';
import type { Analysis } from './analysis.ts';
import type { Matte } from './coverage.ts';
import {
  greenOutline,
  LEAST_PERSON,
  LEAST_PURITY,
  likelyPixels,
  likeScreen,
  piecesApart,
  purityOf,
  takenByMasks,
  thinPlaces,
  unsurePlaces,
} from './doubtPlaces.ts';
import { doubtFacts, type DoubtKind } from './doubts.ts';
import type { GreenPatch, PatchEvidence, PatchVerdict } from './greenPatch.ts';
import { maskOf, MOST_PLACES, outlineIn, pieces, placeOf, round, rounded, worstTiles, type Place } from './places.ts';
import { Region } from './region.ts';
import { spillPlaces } from './spillPlaces.ts';

/** What is doubtful in a cut and what it will cost by hand. */
export interface Quality {
  /** None: it was cut without. */
  screen: PointedColour | 'none';
  /** Share of the frame that plainly shows the screen, 0–1. */
  screenShare: number;
  /** Share of the frame that had to be solved, 0–1, but for what the screen is seen through. */
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
    else if (regions.data[p] === Region.fringe && !analysis.sheer.data[p]) fringe++;
  }
  const alpha = sampled(matte, factor, regions);
  const area = matte.width * matte.height;
  const inside = thinPlaces(alpha, analysis);
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
  const judged = (verdict: PatchVerdict): number => patches.filter((patch) => patch.verdict === verdict).length;
  return {
    screen: analysis.survey.screen,
    screenShare: round(clear / count),
    fringeShare: round(fringe / count),
    unexplained: round(matte.unexplained),
    noisePercent: round(analysis.noise * 100),
    greenKept: judged('keep'),
    greenRemoved: judged('remove'),
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
