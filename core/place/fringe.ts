import { linearTable } from '../colour/transfer.ts';
import { whiteLevel, type EncodedRaster } from '../image/raster.ts';
import { colourChanger, noColourStep, type ColourStep } from './match.ts';
import { placedRectangle, type Placement, type Size } from './placement.ts';

/** How much of a cut's soft outline will be seen as a fringe on a background, foretold without knowing the truth. */

/** The soft outline of a cut, as samples spread over all of it. */
export interface FringeSamples {
  /** Share of the frame's pixels that are half covered. */
  share: number;
  /** For each: place across and down in ten-thousandths of the frame, coverage and red, green, blue encoded, 0–255. */
  points: number[];
}

/** Coverage between which a pixel is half covered. */
const HALF = { least: 0.02, most: 0.98 };
const MOST_SAMPLES = 1500;
const NUMBERS = 6;
const TEN_THOUSANDTHS = 10_000;

/** @param cutout RGBA, straight alpha. */
export function fringeSamples(cutout: EncodedRaster): FringeSamples {
  const { width, height, data } = cutout;
  const white = whiteLevel(cutout);
  const half: number[] = [];
  for (let p = 0, i = 3; i < data.length; p++, i += 4)
    if (data[i] > HALF.least * white && data[i] < HALF.most * white) half.push(p);
  const step = Math.max(1, half.length / MOST_SAMPLES);
  const points: number[] = [];
  for (let n = 0; n < half.length; n += step) {
    const p = half[Math.floor(n)];
    const x = ((p % width) + 0.5) / width;
    const y = (Math.floor(p / width) + 0.5) / height;
    points.push(Math.round(x * TEN_THOUSANDTHS), Math.round(y * TEN_THOUSANDTHS));
    for (const c of [3, 0, 1, 2]) points.push(Math.round((data[4 * p + c] * 255) / white));
  }
  return { share: half.length / (width * height), points };
}

/** By how much coverage may be wrong: of a pixel half covered, and everywhere. */
const COVERAGE_OFF = { half: 0.1, least: 0.02 };
/** By which part the foreground's colour may be wrong, and how much more that weighs. */
const COLOUR_OFF = { part: 0.1, weight: 2 };
/** Luminance of a screen as it is usually lit and exposed, linear. */
export const USUAL_SCREEN = 0.25;

/** How different two linear colours look, as CIEDE2000 has it. */
export type ColourDifference = (a: ArrayLike<number>, b: ArrayLike<number>) => number;

/** Where the fringe is to be seen. */
export interface FringeScene {
  /** Luminance of the screen behind the person, linear. */
  screen: number;
  cut: Size;
  /** RGB, at any size, framed as it will be; `on` is its full size. */
  background: EncodedRaster;
  on: Size;
  placement: Placement;
  mirrored?: boolean;
  mirrorBackground?: boolean;
  /** How the colours of either are changed. */
  person?: ColourStep;
  behind?: ColourStep;
}

/**
 * What will be seen: where coverage is wrong by δ, the picture is wrong by δ times what lies between the screen, its
 * colour taken out, and the background; where the colour is wrong, by a part of it. CIEDE2000 of both over the soft
 * outline.
 * @returns summed over the outline, as thousandths of the frame; 0 is nothing. See fringeWords.ts.
 */
export function fringeOn(
  { share, points }: FringeSamples,
  { screen, cut, background, on, placement, mirrored, mirrorBackground, person, behind }: FringeScene,
  difference: ColourDifference,
): number {
  const changePerson = colourChanger(person ?? noColourStep);
  const changeBehind = colourChanger(behind ?? noColourStep);
  const { left, top, width, height } = placedRectangle(cut, on, placement);
  const table = linearTable(background.data);
  const own = linearTable(new Uint8Array());
  const [there, colour, remains] = [0, 1, 2].map(() => new Float32Array(3));
  const [mixed, thinner, tinted] = [0, 1, 2].map(() => new Float32Array(3));
  let sum = 0;
  for (let n = 0; n < points.length; n += NUMBERS) {
    const across = points[n] / TEN_THOUSANDTHS;
    const placed = (left + (mirrored ? 1 - across : across) * width) / on.width;
    const x = Math.floor((mirrorBackground ? 1 - placed : placed) * background.width);
    const y = Math.floor(((top + (points[n + 1] / TEN_THOUSANDTHS) * height) / on.height) * background.height);
    // What lies outside of the picture is not seen.
    if (x < 0 || y < 0 || x >= background.width || y >= background.height) continue;
    const a = points[n + 2] / 255;
    const i = (y * background.width + x) * background.channels;
    const off = 4 * COVERAGE_OFF.half * a * (1 - a) + COVERAGE_OFF.least;
    for (let c = 0; c < 3; c++) {
      there[c] = table[background.data[i + c]];
      colour[c] = own[points[n + 3 + c]];
      // What is left of the screen goes with the person.
      remains[c] = (colour[c] + screen) / 2;
    }
    changeBehind(there);
    changePerson(colour);
    changePerson(remains);
    for (let c = 0; c < 3; c++) {
      mixed[c] = a * colour[c] + (1 - a) * there[c];
      thinner[c] = mixed[c] + off * (remains[c] - there[c]);
      tinted[c] = mixed[c] + COLOUR_OFF.part * a * colour[c];
    }
    sum += Math.hypot(difference(mixed, thinner), COLOUR_OFF.weight * difference(mixed, tinted));
  }
  return points.length ? (1000 * share * sum * NUMBERS) / points.length : 0;
}
