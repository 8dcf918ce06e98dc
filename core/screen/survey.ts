import { firstBeside, secondBeside, type Channel } from '../colour/channels.ts';
import { lengthOf } from '../image/length.ts';
import type { LinearRaster, Mask } from '../image/raster.ts';

/** A screen is named by the primary in which it is brightest. */
export type ScreenColour = 'green' | 'blue';
/** Where a hand points at it any even colour serves. */
export type PointedColour = ScreenColour | 'red' | 'grey';

export interface Survey {
  screen: PointedColour;
  /** The screen's own channel: what of it leads over the others tells it from the person; in grey none does. */
  channel: Channel;
  /** Typical chromaticity of the screen: r/(r+g+b) and b/(r+g+b) in linear light. */
  chroma: [number, number];
  /** Typical linear colour of the screen. */
  colour: [number, number, number];
  /** Share of the picture, 0–1, with the screen's chromaticity. */
  share: number;
}

/** A screen that is seen without being pointed at. */
export interface PlainSurvey extends Survey {
  screen: ScreenColour;
  channel: 1 | 2;
}

/** What a survey accepts; the reasons stand beside the values. */
export const surveyBounds = {
  /** Below this purity (how far the primary stands above the others, relative to itself) a pixel cannot vote. */
  minPurity: 0.2,
  /** Darker than this (linear) the chromaticity is mostly noise. */
  minLevel: 0.02,
  /** Less of the frame than this is not a screen but an object. */
  minShare: 0.04,
  /** Half-width in chromaticity of what counts as the screen's colour in the survey. */
  chromaReach: 0.06,
  /** Where a hand points at it a screen may be paler, purity; from there on down it is grey. */
  leastPointed: 0.06,
};

const BINS = 48;
/** A survey looks at every so many-th pixel; a screen is large. */
const STRIDE = 3;

/**
 * Finds the screen in a reduced frame (linear RGB): the commonest chromaticity among plainly green or plainly
 * blue pixels, pixels near the frame's border counting double since the screen surrounds the person.
 * @param person 1 where somebody surely is, as large: a blue jumper before a small green screen has no vote.
 * @param pointed 1 where a hand says that the screen is seen, as large: its colour there is the screen's.
 * @returns undefined when no colour covers enough of the frame.
 */
export function surveyScreen(frame: LinearRaster, person?: Mask): PlainSurvey | undefined;
export function surveyScreen(frame: LinearRaster, person?: Mask, pointed?: Mask): Survey | undefined;
export function surveyScreen(frame: LinearRaster, person?: Mask, pointed?: Mask): Survey | undefined {
  if (pointed) return surveyPointed(frame, pointed);
  const green = surveyChannel(frame, 1, person);
  const blue = surveyChannel(frame, 2, person);
  const best = (green?.share ?? 0) >= (blue?.share ?? 0) ? green : blue;
  return best && best.share >= surveyBounds.minShare ? best : undefined;
}

/** The screen by the middle colour of a place; undefined where there is none, or no light. */
function surveyPointed({ data }: LinearRaster, pointed: Mask): Survey | undefined {
  const seen: number[] = [];
  pointed.data.forEach((flag, p) => flag && seen.push(p * 3));
  if (!seen.length) return undefined;
  const middle = (of: (i: number) => number): number => seen.map(of).sort((a, b) => a - b)[seen.length >> 1];
  const sum = (i: number): number => data[i] + data[i + 1] + data[i + 2] + 1e-6;
  const colour = [0, 1, 2].map((c) => middle((i) => data[i + c])) as Survey['colour'];
  const channel = ([2, 1, 0] as const).reduce((best, c) => (colour[c] >= colour[best] ? c : best));
  if (colour[channel] < surveyBounds.minLevel) return undefined;
  const lead = colour[channel] - Math.max(colour[firstBeside[channel]], colour[secondBeside[channel]]);
  const chroma: Survey['chroma'] = [middle((i) => data[i] / sum(i)), middle((i) => data[i + 2] / sum(i))];
  let count = 0;
  for (let i = 0; i < data.length; i += 3)
    if (lengthOf(data[i] / sum(i) - chroma[0], data[i + 2] / sum(i) - chroma[1]) <= surveyBounds.chromaReach) count++;
  const share = count / (data.length / 3);
  return lead < surveyBounds.leastPointed * colour[channel]
    ? { screen: 'grey', channel: 1, chroma, colour, share }
    : { screen: (['red', 'green', 'blue'] as const)[channel], channel, chroma, colour, share };
}

function surveyChannel(frame: LinearRaster, channel: 1 | 2, person?: Mask): PlainSurvey | undefined {
  const { width, height, data } = frame;
  const votes = new Float32Array(BINS * BINS);
  const border = Math.max(1, Math.round(Math.min(width, height) * 0.12));
  for (let y = 0; y < height; y += STRIDE) {
    const edgeRow = y < border || y >= height - border;
    for (let x = 0; x < width; x += STRIDE) {
      const i = (y * width + x) * 3;
      if (person?.data[y * width + x] || !isPure(data, i, channel)) continue;
      const sum = data[i] + data[i + 1] + data[i + 2];
      const bin =
        Math.min(BINS - 1, ((data[i] / sum) * BINS) | 0) * BINS + Math.min(BINS - 1, ((data[i + 2] / sum) * BINS) | 0);
      votes[bin] += edgeRow || x < border || x >= width - border ? 2 : 1;
    }
  }
  const peak = peakOf(votes);
  if (peak < 0) return undefined;
  let chroma: [number, number] = [(((peak / BINS) | 0) + 0.5) / BINS, ((peak % BINS) + 0.5) / BINS];
  let colour: [number, number, number] = [0, 0, 0];
  let count = 0;
  for (let pass = 0; pass < 3; pass++) {
    count = 0;
    let sr = 0;
    let sb = 0;
    colour = [0, 0, 0];
    for (let i = 0; i < data.length; i += 3 * STRIDE) {
      if (person?.data[i / 3] || !isPure(data, i, channel)) continue;
      const sum = data[i] + data[i + 1] + data[i + 2];
      const r = data[i] / sum;
      const b = data[i + 2] / sum;
      if (lengthOf(r - chroma[0], b - chroma[1]) > surveyBounds.chromaReach) continue;
      count++;
      sr += r;
      sb += b;
      colour[0] += data[i];
      colour[1] += data[i + 1];
      colour[2] += data[i + 2];
    }
    if (!count) return undefined;
    chroma = [sr / count, sb / count];
  }
  return {
    screen: channel === 1 ? 'green' : 'blue',
    channel,
    chroma,
    colour: [colour[0] / count, colour[1] / count, colour[2] / count],
    share: count / Math.ceil((width * height) / STRIDE),
  };
}

function isPure(data: Float32Array, i: number, channel: 1 | 2): boolean {
  const level = data[i + channel];
  if (level < surveyBounds.minLevel) return false;
  const other = Math.max(data[i], data[i + (channel === 1 ? 2 : 1)]);
  return level - other > surveyBounds.minPurity * level;
}

/** The bin whose 3×3 neighbourhood holds most votes; −1 when there are none. */
function peakOf(votes: Float32Array): number {
  let best = 0;
  let peak = -1;
  for (let y = 0; y < BINS; y++) {
    for (let x = 0; x < BINS; x++) {
      let sum = 0;
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          const yy = y + dy;
          const xx = x + dx;
          if (yy >= 0 && yy < BINS && xx >= 0 && xx < BINS) sum += votes[yy * BINS + xx];
        }
      }
      if (sum > best) {
        best = sum;
        peak = y * BINS + x;
      }
    }
  }
  return peak;
}
