import type { EncodedRaster, LinearRaster, Mask, Plane } from '../image/raster.ts';
import { reduceToLinear, reductionFactor } from '../image/reduce.ts';
import { fitScreenModel } from '../screen/screenModel.ts';
import { surveyScreen, type Survey } from '../screen/survey.ts';
import { candidateFields } from './candidates.ts';
import { classifyRegions, type GreenPatch } from './regions.ts';
import type { Recipe } from './recipe.ts';

/** What is decided at reduced size, before any full-size pixel is touched. */
export interface Analysis {
  survey: Survey;
  /** Full-size pixels per reduced pixel, along each side. */
  factor: number;
  /** B(x), reduced size. */
  screen: LinearRaster;
  /** Region.clear, .fringe or .core for each reduced pixel. */
  regions: Mask;
  /** 1 where green is kept and spill removal must not reach. */
  kept: Mask;
  /** Where solved coverage turns into full coverage; see Regions. */
  solidity: Plane;
  lift: Plane;
  /** Patches of screen-like colour inside the person, largest first. */
  patches: GreenPatch[];
  /** Candidate foreground colours, each a field at reduced size. */
  candidates: LinearRaster[];
  /** Noise of the screen's primary channel, standard deviation as a share of its level, full size. */
  noise: number;
}

/** The decisions are taken on about this many pixels, whatever the size of the frame. */
export const ANALYSIS_PIXELS = 500_000;

/**
 * Surveys a frame, models its screen and sorts it into clear, fringe and core.
 * @returns undefined if the frame shows no green or blue screen.
 */
export function analyseFrame(frame: EncodedRaster, recipe: Pick<Recipe, 'hairReach' | 'greenKeep'>): Analysis | undefined {
  const factor = reductionFactor(frame.width, frame.height, ANALYSIS_PIXELS);
  const reduced = reduceToLinear(frame, factor);
  const survey = surveyScreen(reduced);
  if (!survey) return undefined;
  const model = fitScreenModel(reduced, survey);
  const { regions, kept, solidity, lift, patches, solid } = classifyRegions(reduced, model, survey, recipe);
  return {
    survey,
    factor,
    screen: model.screen,
    regions,
    kept,
    solidity,
    lift,
    patches,
    candidates: candidateFields(reduced, solid, regions),
    noise: measureNoise(frame, model.clear, factor, survey.channel),
  };
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
    if (!clear.data[p]) continue;
    const x = (p % clear.width) * factor;
    const y = Math.min(height - 1, ((p / clear.width) | 0) * factor);
    if (x + 2 >= width) continue;
    const a = data[(y * width + x) * channels + c];
    const b = data[(y * width + x + 2) * channels + c];
    if (a + b === 0) continue;
    sum += (2 * Math.abs(a - b)) / (a + b);
    count++;
  }
  return count ? (sum / count) * (Math.sqrt(Math.PI / 2) / Math.SQRT2) : 0;
}
