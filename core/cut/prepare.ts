import { growMask } from '../image/growMask.ts';
import { either, likely, where } from '../image/masks.ts';
import {
  createMask,
  RasterError,
  type EncodedRaster,
  type LinearRaster,
  type Mask,
  type Plane,
} from '../image/raster.ts';
import { reduceToLinear, reductionFactor } from '../image/reduce.ts';
import { mapAt, surePerson, type PersonMap } from '../persons/personMap.ts';
import { edgeBlurOf } from '../screen/edges.ts';
import { outlineOf } from '../screen/outline.ts';
import { findShift, shifted } from '../screen/plate.ts';
import { carryResidue, fitScreenModel } from '../screen/screenModel.ts';
import { surveyScreen, type Survey } from '../screen/survey.ts';
import { pointedAt, type HandMask } from './guidance.ts';
import type { OwnCoverage } from './ownMatte.ts';
import { outsideOf } from './beyond.ts';
import { detectHalving, type ChromaHalving } from './chromaRepair.ts';
import { differenceKey, sortByDifference } from './byDifference.ts';
import { evidenceOf, roughNoise } from './evidence.ts';
import { shadedIn } from './shaded.ts';
import { openGaps, shadowedGaps } from './shadowedGaps.ts';
import { sortFrame, type Sorted } from './sorter/sortFrame.ts';
import { traitsOf, type Traits } from './traits.ts';

/** What is found on a frame before any setting or hand has a say. */
export interface Prepared {
  survey: Survey;
  /** False where a plate was given with which hardly any screen is found, so that the frame is cut without it. */
  plateFits: boolean;
  /** Full-size pixels per reduced pixel, along each side. */
  factor: number;
  /** 1 beyond the screen's edge. */
  outside: Mask;
  /** Noise of the screen's primary channel, standard deviation as a share of its level, full size. */
  noise: number;
  /** How the file stores colour. */
  halving: ChromaHalving;
  /** The frame at reduced size. */
  reduced: LinearRaster;
  /** B(x), reduced size. */
  screen: LinearRaster;
  traits: Traits;
  /** 1 where the screen in shadow may be seen. */
  shaded: Mask;
  /** 1 where the screen is seen in shadow. */
  shadow: Mask;
  /** What each reduced pixel is likely to be. */
  sorted: Sorted;
  /** Where persons are, at reduced size. */
  persons?: Plane;
  /** Whether the screen is known from a plate. */
  byPlate: boolean;
  /** Width of the person's sharp outlines in reduced pixels, and a little more. */
  edgeCells: number;
}

export const bounds = {
  /** Likelihood from which a place's colour is taken for the screen's own, shadow and creases included. */
  surelyClear: 0.9,
  /** The same of what has the colour of its shadow, and the coverage to expect there at most. */
  shadedClear: 0.4,
  shadedCover: 0.15,
  /** Share of the frame in which the screen lies in shadow, darker than this part of what it is lit, from which all is sorted again. */
  shadow: 0.0015,
  shadowLevel: 0.75,
  /** So near to plain screen, reduced pixels, what keys no higher than this is the screen too when its border is looked for. */
  besideClear: 4,
  borderKey: 0.3,
  /** Least share of the screen, as surveyed, that is plainly seen with a plate that fits. */
  plateShows: 0.5,
  /** Width of an outline, full-size pixels, where none is sharp enough to tell; and how many of them are solved. */
  usualBlur: 3,
  edgeBlurs: 1.6,
};

/** The decisions are taken on about this many pixels, whatever the size of the frame. */
export const ANALYSIS_PIXELS = 450_000;

/** What is known about a frame beside its pixels. */
export interface KnownBefore {
  /** The empty screen, as large as the frame. */
  plate?: EncodedRaster;
  /** Where persons are. */
  persons?: PersonMap;
  /** A matte made elsewhere. */
  own?: OwnCoverage;
  /** What a hand drew; of it only where it pointed at the screen is asked here. */
  masks?: readonly HandMask[];
}

/**
 * What a frame shows before anything is decided: its screen, and the evidence planes that it is sorted by.
 * @returns undefined if it shows no green or blue screen and a hand points at none.
 */
export function surveyFrame(
  frame: EncodedRaster,
  { plate, persons: map, masks = [] }: KnownBefore = {},
  cells = ANALYSIS_PIXELS,
) {
  const factor = reductionFactor(frame.width, frame.height, cells);
  const reduced = reduceToLinear(frame, factor);
  const persons = map && mapAt(map, reduced.width, reduced.height);
  const person = persons && surePerson(persons);
  const survey = surveyScreen(reduced, person, pointedAt(masks, reduced.width, reduced.height));
  if (!survey) return undefined;
  const byPlate =
    plate && fitScreenModel(reduced, survey, plateUnder(reduced, reduceToLinear(plate, factor), survey), person);
  const plateFits = !byPlate || shareOf(byPlate.clear) >= bounds.plateShows * survey.share;
  const model = byPlate && plateFits ? byPlate : fitScreenModel(reduced, survey, undefined, person);
  const traits = traitsOf(reduced, model.screen, survey.channel);
  if (survey.screen === 'grey') traits.key = differenceKey(reduced, model.screen);
  const outside = outsideOf(outlineOf(model.clear, person, reduced, upToBorder(model.clear, traits)), model.clear);
  const evidence = evidenceOf({
    reduced,
    model,
    traits,
    channel: survey.channel,
    persons,
    outside,
    plate: model === byPlate,
  });
  return { factor, reduced, persons, survey, plateFits, byPlate: model === byPlate, model, traits, outside, evidence };
}

/**
 * Surveys a frame, models its screen and sorts its pixels.
 * @param cells most reduced pixels; fewer are quicker and coarser.
 * @returns undefined if the frame shows no green or blue screen and a hand points at none.
 */
export function prepareFrame(
  frame: EncodedRaster,
  known: KnownBefore = {},
  cells = ANALYSIS_PIXELS,
): Prepared | undefined {
  const seen = surveyFrame(frame, known, cells);
  return seen && prepareSeen(frame, seen);
}

/** What `surveyFrame` found. */
export type Seen = NonNullable<ReturnType<typeof surveyFrame>>;

/** Sorts the pixels of a frame that was surveyed. */
export function prepareSeen(frame: EncodedRaster, seen: Seen): Prepared {
  const { factor, reduced, persons, survey, plateFits, byPlate, model, traits, outside } = seen;
  const { width, height } = reduced;
  const grey = survey.screen === 'grey';
  const shaded = shadedOf(seen);
  let sorted = grey ? sortByDifference(reduced, model, shaded.dark, persons) : sortFrame(seen.evidence, width, height);
  let screen = screenWhere(seen, likely(sorted.clear, bounds.surelyClear));
  const { shadow, evidence } = lookInShadow(seen, sorted, shaded.dark);
  if (evidence) {
    sorted = sortFrame(evidence, width, height);
    screen = screenWhere(seen, shadowSeen(sorted, shaded.dark));
    const gaps = shadowedGaps(reduced, model.base, screen, sorted);
    if (gaps.data.includes(1)) {
      openGaps(sorted, gaps);
      screen = screenWhere(seen, either(shadowSeen(sorted, shaded.dark), gaps));
    }
  }
  return {
    persons,
    byPlate,
    sorted,
    survey,
    plateFits,
    factor,
    reduced,
    screen,
    traits,
    // Before grey, dark hair has the colour of a shadow.
    shaded: grey ? createMask(width, height) : shaded.smooth,
    shadow,
    outside,
    edgeCells: edgeCells(frame, model.clear, factor),
    noise: measureNoise(frame, model.clear, factor, survey.channel),
    halving: detectHalving(frame),
  };
}

/** Where the screen in shadow may be seen. */
export function shadedOf({ reduced, model, traits: { rough } }: Seen): { dark: Mask; smooth: Mask } {
  return shadedIn(reduced, model.screen, rough, roughNoise(rough, model.clear), model.chromaNoise);
}

/** The screen, as lit as it is where it is seen. */
function screenWhere({ reduced, model }: Seen, seen: Mask): LinearRaster {
  return carryResidue(reduced, model.base, growMask(seen, -2));
}

/**
 * Where the screen lies in shadow, and the evidence by the screen as it is lit there: by that, what a shadow made look
 * like a dark thing is none, and what stands in it is.
 * @param dark where a place has the screen's chromaticity and is darker.
 * @returns no evidence where hardly any of the frame lies in shadow, or before grey, which is not sorted by any.
 */
export function lookInShadow(
  seen: Seen,
  sorted: Sorted,
  dark: Mask,
): { shadow: Mask; evidence: Float32Array | undefined } {
  const { reduced, model, byPlate } = seen;
  const { channel, screen: colour } = seen.survey;
  const withShadow = shadowSeen(sorted, dark);
  const shadow = inShadow(reduced, model.base, withShadow);
  if (colour === 'grey' || shareOf(shadow) <= bounds.shadow) return { shadow, evidence: undefined };
  const screen = screenWhere(seen, withShadow);
  const traits = traitsOf(reduced, screen, channel);
  return {
    shadow,
    evidence: evidenceOf({ ...seen, channel, model: { ...model, screen }, traits, plate: byPlate }),
  };
}

/** What is plainly the screen, and beside it what keys as the screen: its last pixels before a rim or wall are no longer plain. */
function upToBorder(clear: Mask, { key }: Traits): Mask {
  const out = growMask(clear, bounds.besideClear);
  for (let p = 0; p < key.length; p++) if (!clear.data[p] && key[p] > bounds.borderKey) out.data[p] = 0;
  return out;
}

/** Where the screen is seen, in shadow too, where that is a little less sure. */
function shadowSeen({ clear, coverage }: Sorted, dark: Mask): Mask {
  const seen = likely(clear, bounds.surelyClear);
  for (let p = 0; p < seen.data.length; p++)
    if (dark.data[p] && clear.data[p] >= bounds.shadedClear && coverage.data[p] < bounds.shadedCover) seen.data[p] = 1;
  return seen;
}

/** 1 where the screen is seen and lies in shadow. */
function inShadow({ data: f }: LinearRaster, { data: lit }: LinearRaster, seen: Mask): Mask {
  const out = createMask(seen.width, seen.height);
  for (let p = 0, i = 0; p < seen.data.length; p++, i += 3) {
    const [here, there] = [f[i] + f[i + 1] + f[i + 2], lit[i] + lit[i + 1] + lit[i + 2]];
    if (seen.data[p] && here < bounds.shadowLevel * there) out.data[p] = 1;
  }
  return out;
}

function shareOf({ data }: Mask): number {
  let count = 0;
  for (const flag of data) count += flag;
  return count / data.length;
}

/** The plate moved to lie under the frame. @throws RasterError if it has another size. */
function plateUnder(frame: LinearRaster, plate: LinearRaster, survey: Survey): LinearRaster {
  if (plate.width !== frame.width || plate.height !== frame.height)
    throw new RasterError(
      `plate: expected the frame's size, ${frame.width}×${frame.height} reduced, received ${plate.width}×${plate.height}`,
    );
  return shifted(plate, findShift(frame, plate, survey));
}

/** Width of the person's sharp outlines in reduced pixels, and a little more. */
function edgeCells(frame: EncodedRaster, clear: Mask, factor: number): number {
  const person = where(clear, 0);
  const blur = edgeBlurOf(frame, person, clear, factor)?.blur ?? bounds.usualBlur;
  return 1.5 + (bounds.edgeBlurs * blur) / factor;
}

/**
 * Noise of the screen, from differences of neighbouring full-size pixels in clear places, where the picture itself
 * hardly changes: σ = mean |difference| × √(π/2) / √2, as a share of the level (of sRGB-encoded values, in which
 * camera noise is about even). The mean, since 8-bit differences are whole numbers and their median often 0.
 */
function measureNoise(frame: EncodedRaster, clear: Mask, factor: number, channel: number): number {
  const { width, height, channels, data } = frame;
  const step = Math.max(1, Math.floor(clear.data.length / 20000));
  const c = channels === 1 ? 0 : channel;
  let sum = 0;
  let count = 0;
  for (let p = 0; p < clear.data.length; p += step) {
    const x = (p % clear.width) * factor;
    const y = Math.min(height - 1, ((p / clear.width) | 0) * factor);
    // Both pixels of a pair on the screen: the step at an outline is no noise.
    if (x + 2 >= width || !clear.data[p] || !clear.data[p + Math.ceil(2 / factor)]) continue;
    const a = data[(y * width + x) * channels + c];
    const b = data[(y * width + x + 2) * channels + c];
    if (a + b === 0) continue;
    sum += (2 * Math.abs(a - b)) / (a + b);
    count++;
  }
  return count ? (sum / count) * (Math.sqrt(Math.PI / 2) / Math.SQRT2) : 0;
}
