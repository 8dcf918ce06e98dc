import { growMask } from '../image/growMask.ts';
import { fillUnknown } from '../image/fillUnknown.ts';
import { both } from '../image/masks.ts';
import { lengthOf } from '../image/length.ts';
import { createLinear, createMask, type LinearRaster, type Mask } from '../image/raster.ts';
import { nthOf } from './statistics.ts';
import { evaluateSurface, fitSurface, surfaceAlongRow, type Surface } from './polynomial.ts';
import type { Survey } from './survey.ts';

export interface ScreenModel {
  /** The lit screen as the surfaces alone have it, without creases and shadow. */
  base: LinearRaster;
  /** B(x): linear colour of the lit screen at every pixel of the reduced frame, behind the person too. */
  screen: LinearRaster;
  /** 1 where the reduced frame plainly shows the screen. */
  clear: Mask;
  /** Standard deviation of r/(r+g+b) and b/(r+g+b) over clear pixels around the model, at the reduced size. */
  chromaNoise: number;
}

/** Light that the darkest pixel of a frame or plate is taken to have, so that ratios stay numbers. */
const LEAST_LIGHT = 1e-4;

/** How far a pixel may lie from the modelled screen and still be called clear. */
export const bounds = {
  /** Chromaticity distance never asked to be tighter than this, whatever the noise. */
  minChroma: 0.012,
  /** … nor looser than this, however noisy: beyond it lies green clothing. */
  maxChroma: 0.035,
  /** In units of the chroma noise. */
  noiseMultiple: 3.5,
  /** Level relative to the model: wrinkles and cast shadow below, hot spots above (ratios). */
  minLevel: 0.5,
  maxLevel: 1.7,
  /** At most this many points enter a surface fit. */
  fitPoints: 3000,
  /** A side is not thinned below this many pixels. */
  leastThinned: 80,
};

/**
 * The screen's colour at every pixel of a reduced frame (linear RGB), fitted from the frame itself. First a robust
 * cubic surface through the logarithm of each channel, which uneven lamps follow well and a shirt cannot bend; then
 * what the surface leaves (wrinkles, cast shadow) is taken where the screen is plainly seen and carried smoothly behind
 * the person. The surface decides what is clear, never the carried residue: a model that re-learns from its own loose
 * selection takes green clothing for screen. With a plate, the empty screen already laid under the frame, the surface
 * is fitted to what differs from it: a lamp that drifted, and nothing else.
 * @param person 1 where somebody surely is, as large as the frame: no surface is fitted through clothes.
 */
export function fitScreenModel(frame: LinearRaster, survey: Survey, plate?: LinearRaster, person?: Mask): ScreenModel {
  // The surfaces are smooth: every few pixels are enough to find them.
  const few = thinned(frame);
  const empty = plate && thinned(plate);
  const nobody = person && nobodyIn(person, few);
  const unhidden = (mask: Mask): Mask => (nobody ? both(mask, nobody) : mask);
  let clear = unhidden(seedMask(few, survey));
  let surfaces = fitChannels(few, clear, survey, empty);
  for (let pass = 0; pass < 3; pass++) {
    const base = evaluate(surfaces, few.width, few.height, empty);
    clear = unhidden(classifyClear(few, base, measureChromaNoise(few, base, clear)));
    surfaces = fitChannels(few, growMask(clear, -1), survey, empty);
  }
  const base = evaluate(surfaces, frame.width, frame.height, plate);
  const chromaNoise = measureChromaNoise(few, evaluate(surfaces, few.width, few.height, empty), clear);
  clear = classifyClear(frame, base, chromaNoise);
  return { base, screen: carryResidue(frame, base, growMask(clear, -2)), clear, chromaNoise };
}

/** 1 where nobody is, for the thinned frame. */
function nobodyIn(person: Mask, few: LinearRaster): Mask {
  const out = createMask(few.width, few.height);
  const step = few.width === person.width ? 1 : 3;
  for (let y = 0; y < few.height; y++)
    for (let x = 0; x < few.width; x++)
      out.data[y * few.width + x] = 1 - person.data[(y * step + (step >> 1)) * person.width + x * step + (step >> 1)];
  return out;
}

/** Every third pixel each way of what is not small; picked, not averaged, so that noise stays what it is. */
function thinned(frame: LinearRaster): LinearRaster {
  const { width, height, data } = frame;
  const step = Math.min(width, height) >= 3 * bounds.leastThinned ? 3 : 1;
  if (step === 1) return frame;
  const out = createLinear(Math.floor(width / step), Math.floor(height / step));
  for (let y = 0, o = 0; y < out.height; y++) {
    for (let x = 0; x < out.width; x++, o += 3) {
      const i = ((y * step + 1) * width + x * step + 1) * 3;
      out.data[o] = data[i];
      out.data[o + 1] = data[i + 1];
      out.data[o + 2] = data[i + 2];
    }
  }
  return out;
}

function seedMask(frame: LinearRaster, survey: Survey): Mask {
  const mask = createMask(frame.width, frame.height);
  const { data } = frame;
  const typical = survey.colour[survey.channel];
  for (let p = 0, i = 0; p < mask.data.length; p++, i += 3) {
    const level = data[i + survey.channel];
    if (level < typical * 0.2 || level > typical * 3) continue;
    const sum = data[i] + data[i + 1] + data[i + 2];
    if (lengthOf(data[i] / sum - survey.chroma[0], data[i + 2] / sum - survey.chroma[1]) < 0.05) mask.data[p] = 1;
  }
  const eroded = growMask(mask, -1);
  return eroded.data.includes(1) ? eroded : mask;
}

function fitChannels(
  frame: LinearRaster,
  clear: Mask,
  survey: Survey,
  plate?: LinearRaster,
): [Surface, Surface, Surface] {
  const { width, height, data } = frame;
  const chosen: number[] = [];
  let total = 0;
  for (const flag of clear.data) total += flag;
  const step = Math.max(1, Math.floor(total / bounds.fitPoints));
  for (let p = 0, seen = 0; p < clear.data.length; p++) if (clear.data[p] && seen++ % step === 0) chosen.push(p);
  const fit = (channel: number): Surface => {
    if (chosen.length < 30)
      return new Float64Array([
        plate ? 0 : Math.log(Math.max(LEAST_LIGHT, survey.colour[channel])),
        0,
        0,
        0,
        0,
        0,
        0,
        0,
        0,
        0,
      ]);
    const points = new Float64Array(chosen.length * 4);
    chosen.forEach((p, k) => {
      points[k * 4] = unit(p % width, width);
      points[k * 4 + 1] = unit((p / width) | 0, height);
      points[k * 4 + 2] =
        Math.log(Math.max(LEAST_LIGHT, data[p * 3 + channel])) -
        (plate ? Math.log(Math.max(LEAST_LIGHT, plate.data[p * 3 + channel])) : 0);
      points[k * 4 + 3] = 1;
    });
    return robustFit(points);
  };
  return [fit(0), fit(1), fit(2)];
}

/** Iteratively reweighted with Tukey's biweight at 4.7 times the median absolute residual. */
function robustFit(points: Float64Array): Surface {
  let surface = fitSurface(points);
  const residuals = new Float64Array(points.length / 4);
  for (let pass = 0; pass < 3; pass++) {
    for (let k = 0; k < residuals.length; k++) {
      residuals[k] = Math.abs(points[k * 4 + 2] - evaluateSurface(surface, points[k * 4], points[k * 4 + 1]));
    }
    const cut = 4.7 * Math.max(0.01, median(residuals));
    for (let k = 0; k < residuals.length; k++) {
      const u = residuals[k] / cut;
      points[k * 4 + 3] = u < 1 ? (1 - u * u) ** 2 : 0;
    }
    surface = fitSurface(points);
  }
  return surface;
}

/** Pixels between which a smooth surface is straight. */
const STRAIGHT = 8;

function evaluate(
  surfaces: [Surface, Surface, Surface],
  width: number,
  height: number,
  plate?: LinearRaster,
): LinearRaster {
  const out = createLinear(width, height);
  for (let y = 0; y < height; y++) {
    for (let c = 0; c < 3; c++) {
      const [a0, a1, a2, a3] = surfaceAlongRow(surfaces[c], unit(y, height));
      const at = (x: number): number => {
        const u = unit(x, width);
        return Math.exp(Math.max(-9, Math.min(plate ? 2 : 0.3, a0 + u * (a1 + u * (a2 + u * a3)))));
      };
      let left = at(0);
      for (let x0 = 0; x0 < width; x0 += STRAIGHT) {
        const right = at(x0 + STRAIGHT);
        const slope = (right - left) / STRAIGHT;
        const end = Math.min(width, x0 + STRAIGHT);
        for (let x = x0, o = (y * width + x0) * 3 + c; x < end; x++, o += 3) out.data[o] = left + slope * (x - x0);
        left = right;
      }
    }
  }
  if (plate) for (let i = 0; i < out.data.length; i++) out.data[i] *= Math.max(LEAST_LIGHT, plate.data[i]);
  return out;
}

function classifyClear(frame: LinearRaster, base: LinearRaster, chromaNoise: number): Mask {
  const mask = createMask(frame.width, frame.height);
  const limit = Math.min(bounds.maxChroma, Math.max(bounds.minChroma, bounds.noiseMultiple * chromaNoise));
  const f = frame.data;
  const b = base.data;
  for (let p = 0, i = 0; p < mask.data.length; p++, i += 3) {
    const level = f[i] + f[i + 1] + f[i + 2];
    const expected = b[i] + b[i + 1] + b[i + 2];
    if (level < bounds.minLevel * expected || level > bounds.maxLevel * expected) continue;
    const dr = f[i] / level - b[i] / expected;
    const db = f[i + 2] / level - b[i + 2] / expected;
    if (dr * dr + db * db < limit * limit) mask.data[p] = 1;
  }
  return mask;
}

function measureChromaNoise(frame: LinearRaster, base: LinearRaster, clear: Mask): number {
  const f = frame.data;
  const b = base.data;
  const sample: number[] = [];
  const step = Math.max(1, Math.floor(clear.data.length / 12000));
  for (let p = 0; p < clear.data.length; p += step) {
    if (!clear.data[p]) continue;
    const i = p * 3;
    const level = f[i] + f[i + 1] + f[i + 2];
    const expected = b[i] + b[i + 1] + b[i + 2];
    sample.push(Math.abs(f[i] / level - b[i] / expected), Math.abs(f[i + 2] / level - b[i + 2] / expected));
  }
  return sample.length ? 1.4826 * median(Float64Array.from(sample)) : 0;
}

/** base × (what sure pixels show relative to base, carried into the gaps). */
export function carryResidue(frame: LinearRaster, base: LinearRaster, sure: Mask): LinearRaster {
  const ratio = createLinear(frame.width, frame.height);
  for (let p = 0, i = 0; p < sure.data.length; p++, i += 3) {
    if (!sure.data[p]) continue;
    for (let c = 0; c < 3; c++) ratio.data[i + c] = Math.max(LEAST_LIGHT, frame.data[i + c]) / base.data[i + c];
  }
  const filled = fillUnknown(ratio, sure);
  for (let i = 0; i < filled.data.length; i++) filled.data[i] *= base.data[i];
  return filled;
}

function unit(position: number, size: number): number {
  return size < 2 ? 0 : (2 * position) / (size - 1) - 1;
}

function median(values: Float64Array): number {
  if (!values.length) return 0;
  return nthOf(values.slice(), values.length >> 1);
}
