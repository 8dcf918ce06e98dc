import { differenceCiede2000, type Rgb } from 'culori';
import { linearToSrgb, linearTable } from '../core/colour/transfer.ts';
import type { EncodedRaster, LinearRaster, Plane } from '../core/image/raster.ts';

export interface Figures {
  /** Mean squared error of coverage × 1000 and summed absolute error / 1000 over the unknown band. */
  mse: number;
  sad: number;
  /** % of truly solid pixels (> 0.995) cut below 0.97; % of truly clear ones (< 0.005) left above 0.03. */
  holes: number;
  residue: number;
  /** Mean CIEDE2000 to the true composite over the fringe, on mid-grey and on red. */
  fringeGrey: number;
  fringeRed: number;
}

/** The unknown band: true coverage 0.02–0.98, widened by this many pixels at 1600 pixels height. */
const BAND = 6;
const GREY = 0.18;
const RED: readonly number[] = [0.52, 0.009, 0.009];

export function measure(cut: EncodedRaster, matte: Plane, foreground: LinearRaster): Figures {
  const { width, height } = matte;
  const truth = matte.data;
  const white = cut.data instanceof Uint16Array ? 65535 : 255;
  const table = linearTable(cut.data);
  const band = unknownBand(matte, Math.max(1, Math.round((BAND * height) / 1600)));
  let squares = 0;
  let absolute = 0;
  let banded = 0;
  let solid = 0;
  let holes = 0;
  let clear = 0;
  let residue = 0;
  let fringe = 0;
  let grey = 0;
  let red = 0;
  const step = 7;
  for (let p = 0; p < width * height; p++) {
    const t = truth[p];
    const a = cut.data[p * 4 + 3] / white;
    if (t > 0.995) {
      solid++;
      if (a < 0.97) holes++;
    } else if (t < 0.005) {
      clear++;
      if (a > 0.03) residue++;
    }
    if (!band[p]) continue;
    banded++;
    squares += (a - t) ** 2;
    absolute += Math.abs(a - t);
    if (t <= 0.02 || t >= 0.98 || banded % step) continue;
    fringe++;
    const own = [0, 1, 2].map((c) => a * table[cut.data[p * 4 + c]]);
    const want = [0, 1, 2].map((c) => foreground.data[p * 4 + c]);
    grey += difference(own.map((v) => v + (1 - a) * GREY), want.map((v) => v + (1 - t) * GREY));
    red += difference(own.map((v, c) => v + (1 - a) * RED[c]), want.map((v, c) => v + (1 - t) * RED[c]));
  }
  return {
    mse: (1000 * squares) / banded,
    sad: absolute / 1000,
    holes: (100 * holes) / Math.max(1, solid),
    residue: (100 * residue) / Math.max(1, clear),
    fringeGrey: grey / fringe,
    fringeRed: red / fringe,
  };
}

function difference(a: number[], b: number[]): number {
  return colourDifference(toRgb(a), toRgb(b));
}

const colourDifference = differenceCiede2000();

function toRgb(linear: number[]): Rgb {
  const [r, g, b] = linear.map(linearToSrgb);
  return { mode: 'rgb', r, g, b };
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
    for (let yy = Math.max(0, y - reach); yy <= Math.min(height - 1, y + reach); yy++) out[yy * width + (p % width)] = 1;
  }
  return out;
}
