import { differenceCiede2000, type Rgb } from 'culori';
import { linearToSrgb, linearTable } from '../core/colour/transfer.ts';
import { gaussianBlur } from '../core/image/boxBlur.ts';
import { components } from '../core/image/components.ts';
import { createMask, type EncodedRaster, type LinearRaster, type Plane } from '../core/image/raster.ts';
import { chromaDistance, wardrobeRisk } from '../core/plan/wardrobe.ts';

/** A rendered frame and all that is true about it. */
export interface Truth {
  frame: EncodedRaster;
  /** True coverage. */
  matte: Plane;
  /** Premultiplied linear RGBA: as photographed, and as without the screen's light on the person. */
  foreground: LinearRaster;
  clean: LinearRaster;
  /** Typical colour of the screen, linear, and its channel. */
  screen: readonly [number, number, number];
  channel: 1 | 2;
  /** 2: green that has to stay, 3: a gap; where they are known otherwise than by colour and form. */
  labels?: Uint8Array;
}

export interface Figures {
  /**
   * Mean squared error of coverage × 1000, summed absolute error / 1000, gradient error / 1000 over the unknown band.
   */
  mse: number;
  sad: number;
  gradient: number;
  /** % of truly solid pixels (> 0.995) cut below 0.97; % of truly clear ones (< 0.005) left above 0.03. */
  holes: number;
  residue: number;
  /**
   * Mean coverage of solid cloth, hair and props near the screen's colour; of enclosed gaps. NaN where there are none.
   */
  kept: number;
  gaps: number;
  /**
   * Mean CIEDE2000 to the true composite: over the fringe, the mean of four tones and each; over kept green; over the
   * body beyond what noise alone gives.
   */
  fringe: number;
  fringeGrey: number;
  fringeRed: number;
  keptColour: number;
  body: number;
  /**
   * Mean excess of the screen's channel over the larger of the others that the true composite has not, of 255, over
   * the fringe on mid-grey.
   */
  excess: number;
}

/** The unknown band: true coverage 0.02–0.98, widened by this many pixels at 1600 pixels height. */
const BAND = 6;
const TONES: Record<'grey' | 'red' | 'navy' | 'teal', readonly [number, number, number]> = {
  grey: [0.18, 0.18, 0.18],
  red: [0.52, 0.009, 0.009],
  navy: [0.004, 0.006, 0.03],
  teal: [0.45, 0.68, 0.66],
};
/** Every so many-th pixel is compared by CIEDE2000, which is slow. */
const STEP = 7;

export function measure(cut: EncodedRaster, truth: Truth): Figures {
  const { matte, clean, foreground, frame, screen, channel, labels } = truth;
  const labelled = labels?.includes(2) || labels?.includes(3) ? labels : undefined;
  const { width, height } = matte;
  const t = matte.data;
  const white = cut.data instanceof Uint16Array ? 65535 : 255;
  const table = linearTable(cut.data);
  const frameTable = linearTable(frame.data);
  const band = unknownBand(matte, Math.max(1, Math.round((BAND * Math.max(width, height)) / 1600)));
  const gap = gapsOf(matte);
  const alpha = Float32Array.from({ length: width * height }, (_, p) => cut.data[p * 4 + 3] / white);
  const count = { band: 0, solid: 0, clear: 0, kept: 0, gap: 0, fringe: 0, keptColour: 0, body: 0 };
  const sum = {
    squares: 0,
    absolute: 0,
    holes: 0,
    residue: 0,
    kept: 0,
    gaps: 0,
    grey: 0,
    red: 0,
    navy: 0,
    teal: 0,
    keptColour: 0,
    body: 0,
    noise: 0,
    excess: 0,
  };
  const own = [0, 0, 0];
  const want = [0, 0, 0];
  for (let p = 0; p < width * height; p++) {
    const a = alpha[p];
    if (t[p] > 0.995) {
      count.solid++;
      if (a < 0.97) sum.holes++;
      const o = p * 4;
      if (labelled ? labelled[p] === 2 : isNear(clean.data, o, screen)) {
        count.kept++;
        sum.kept += a;
        if (count.kept % STEP === 0) {
          count.keptColour++;
          sum.keptColour += differenceOn(cut.data, o, a, table, clean.data, 1, TONES.grey);
        }
      } else if (!band[p] && count.solid % (STEP * 5) === 0) {
        count.body++;
        sum.body += differenceOn(cut.data, o, a, table, clean.data, 1, TONES.grey);
        for (let c = 0; c < 3; c++) {
          own[c] = frameTable[frame.data[p * frame.channels + (frame.channels === 1 ? 0 : c)]];
          want[c] = foreground.data[o + c];
        }
        sum.noise += difference(own, want);
      }
    } else if (t[p] < 0.005) {
      count.clear++;
      if (a > 0.03) sum.residue++;
      if (labelled ? labelled[p] === 3 : gap.data[p]) {
        count.gap++;
        sum.gaps += a;
      }
    }
    if (!band[p]) continue;
    count.band++;
    sum.squares += (a - t[p]) ** 2;
    sum.absolute += Math.abs(a - t[p]);
    if (t[p] <= 0.02 || t[p] >= 0.98 || count.band % STEP) continue;
    count.fringe++;
    for (const name of ['grey', 'red', 'navy', 'teal'] as const)
      sum[name] += differenceOn(cut.data, p * 4, a, table, clean.data, t[p], TONES[name]);
    compose(cut.data, p * 4, a, table, TONES.grey, own);
    for (let c = 0; c < 3; c++) want[c] = clean.data[p * 4 + c] + (1 - t[p]) * TONES.grey[c];
    sum.excess += Math.max(0, excessOf(own, channel) - Math.max(0, excessOf(want, channel)));
  }
  const fringe = Math.max(1, count.fringe);
  return {
    mse: (1000 * sum.squares) / Math.max(1, count.band),
    sad: sum.absolute / 1000,
    gradient: gradientError({ width, height, data: alpha }, matte, band),
    holes: (100 * sum.holes) / Math.max(1, count.solid),
    residue: (100 * sum.residue) / Math.max(1, count.clear),
    kept: count.kept > 200 ? sum.kept / count.kept : NaN,
    gaps: count.gap > 50 ? sum.gaps / count.gap : NaN,
    fringe: (sum.grey + sum.red + sum.navy + sum.teal) / fringe / 4,
    fringeGrey: sum.grey / fringe,
    fringeRed: sum.red / fringe,
    keptColour: count.keptColour > 30 ? sum.keptColour / count.keptColour : NaN,
    body: (sum.body - sum.noise) / Math.max(1, count.body),
    excess: sum.excess / fringe,
  };
}

/** Whether a solid pixel's own colour is one that the screen may take with it. */
function isNear(data: Float32Array, o: number, screen: readonly [number, number, number]): boolean {
  const rgb: [number, number, number] = [data[o], data[o + 1], data[o + 2]];
  return Math.max(...rgb) > 0.02 && chromaDistance(rgb, screen) < wardrobeRisk.middle;
}

function compose(
  cut: Uint8Array | Uint16Array,
  o: number,
  a: number,
  table: Float32Array,
  tone: readonly number[],
  out: number[],
): void {
  for (let c = 0; c < 3; c++) out[c] = a * table[cut[o + c]] + (1 - a) * tone[c];
}

const mixed = [0, 0, 0];
const ideal = [0, 0, 0];
function differenceOn(
  cut: Uint8Array | Uint16Array,
  o: number,
  a: number,
  table: Float32Array,
  clean: Float32Array,
  t: number,
  tone: readonly number[],
): number {
  compose(cut, o, a, table, tone, mixed);
  for (let c = 0; c < 3; c++) ideal[c] = clean[o + c] + (1 - t) * tone[c];
  return difference(mixed, ideal);
}

function excessOf(linear: number[], channel: 1 | 2): number {
  const [r, g, b] = linear.map((v) => 255 * linearToSrgb(v));
  return channel === 1 ? g - Math.max(r, b) : b - Math.max(r, g);
}

/**
 * Mean squared difference of gradient magnitudes after a small blur, summed over the band / 1000 (after Rhemann et
 * al. 2009).
 */
function gradientError(a: Plane, b: Plane, band: Uint8Array): number {
  const slope = (plane: Plane): Float32Array => {
    const { width, height, data } = gaussianBlur(plane, 1);
    const out = new Float32Array(width * height);
    for (let y = 1; y < height - 1; y++)
      for (let x = 1; x < width - 1; x++)
        out[y * width + x] =
          Math.hypot(
            data[y * width + x + 1] - data[y * width + x - 1],
            data[(y + 1) * width + x] - data[(y - 1) * width + x],
          ) / 2;
    return out;
  };
  const p = slope(a);
  const q = slope(b);
  let sum = 0;
  for (let i = 0; i < p.length; i++) if (band[i]) sum += (p[i] - q[i]) ** 2;
  return sum / 1000;
}

function difference(a: number[], b: number[]): number {
  return colourDifference(toRgb(a), toRgb(b));
}

const colourDifference = differenceCiede2000();

function toRgb(linear: number[]): Rgb {
  return { mode: 'rgb', r: linearToSrgb(linear[0]), g: linearToSrgb(linear[1]), b: linearToSrgb(linear[2]) };
}

/** Clear pixels that the person encloses: all clear pieces but those that reach the frame's edge. */
function gapsOf({ width, height, data }: Plane): { data: Uint8Array } {
  const clear = createMask(width, height);
  for (let p = 0; p < data.length; p++) if (data[p] < 0.005) clear.data[p] = 1;
  const gaps = createMask(width, height);
  for (const { pixels, touchesBorder } of components(clear))
    if (!touchesBorder && pixels.length > 12) for (const p of pixels) gaps.data[p] = 1;
  return gaps;
}

function unknownBand(matte: Plane, reach: number): Uint8Array {
  const { width, height, data } = matte;
  const rows = new Uint8Array(data.length);
  const out = new Uint8Array(data.length);
  for (let p = 0; p < data.length; p++) {
    if (data[p] <= 0.02 || data[p] >= 0.98) continue;
    const y = Math.floor(p / width);
    rows.fill(1, Math.max(y * width, p - reach), Math.min((y + 1) * width, p + reach + 1));
  }
  for (let p = 0; p < data.length; p++) {
    if (!rows[p]) continue;
    const y = Math.floor(p / width);
    for (let yy = Math.max(0, y - reach); yy <= Math.min(height - 1, y + reach); yy++)
      out[yy * width + (p % width)] = 1;
  }
  return out;
}
