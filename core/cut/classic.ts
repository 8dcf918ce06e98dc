import { linearTable } from '../colour/transfer.ts';
import { growMask } from '../image/growMask.ts';
import { createMask, type EncodedRaster } from '../image/raster.ts';
import { smoothstep } from '../image/smoothstep.ts';
import type { Survey } from '../screen/survey.ts';
import type { Recipe } from './recipe.ts';
import { firstBeside, secondBeside } from '../colour/channels.ts';

/** The hard matte lies between these shares of the way from “key from” to “key to”. */
const HARD_FROM = 0.35;
const HARD_TO = 0.6;
/** Reduced pixels by which the hard matte draws back under the soft one. */
const DRAWN_BACK = 2;

type KeyRecipe = Pick<Recipe, 'method' | 'keyFrom' | 'keyTo' | 'headZone' | 'purity'>;

/**
 * The classic methods, each with one screen colour for the whole frame, that of the survey.
 * - distance: how far the chromaticity lies from the screen's, against how far grey does.
 * - difference: 1 − K(I)/K(B), K the screen's channel less the larger of the others (Vlahos).
 * - layers: the difference softly in the head zone, hardly below it and drawn back under the soft matte within it.
 * @param factor full-size pixels per reduced one, for where the person begins.
 * @returns coverage of each pixel,
 * 0–65535.
 */
export function keyClassic(
  frame: EncodedRaster,
  { channel, colour, chroma }: Survey,
  recipe: KeyRecipe,
  factor: number,
): Uint16Array {
  const { width, height, channels, data } = frame;
  const table = linearTable(data);
  const [one, other] = [firstBeside[channel], secondBeside[channel]];
  const out = new Uint16Array(width * height);
  const I = [0, 0, 0];
  const span = Math.max(0.01, recipe.keyTo - recipe.keyFrom);
  // Of what leads in the screen's channel the other two are lowered, the more it leads.
  const pure = (c: number[]): void => {
    const lead = 1 - Math.max(c[one], c[other]) / (c[channel] + 1e-6);
    if (lead <= 0) return;
    c[one] *= 1 - recipe.purity * lead;
    c[other] *= 1 - recipe.purity * lead;
  };
  const B = [...colour];
  pure(B);
  const sumB = B[0] + B[1] + B[2] + 1e-6;
  const screen = recipe.purity ? [B[0] / sumB, B[2] / sumB] : chroma;
  const toGrey = Math.max(0.02, Math.hypot(1 / 3 - screen[0], 1 / 3 - screen[1]));
  const keyB = Math.max(1e-4, B[channel] - Math.max(B[one], B[other]));
  for (let p = 0; p < out.length; p++) {
    for (let c = 0; c < 3; c++) I[c] = table[data[p * channels + (channels === 1 ? 0 : c)]];
    if (recipe.purity) pure(I);
    let key: number;
    if (recipe.method === 'distance') {
      const sum = I[0] + I[1] + I[2] + 1e-3;
      key = Math.hypot(I[0] / sum - screen[0], I[2] / sum - screen[1]) / toGrey;
    } else key = 1 - (I[channel] - Math.max(I[one], I[other])) / keyB;
    out[p] = Math.round(65535 * Math.max(0, Math.min(1, (key - recipe.keyFrom) / span)));
  }
  if (recipe.method === 'layers') layHard(out, width, height, recipe.headZone, factor);
  return out;
}

/** Below the head zone the matte becomes hard; within it the hard one, drawn back, fills the soft one's inside. */
function layHard(alpha: Uint16Array, width: number, height: number, headZone: number, factor: number): void {
  const hard = (a: number): number => smoothstep((a / 65535 - HARD_FROM) / (HARD_TO - HARD_FROM));
  const few = createMask(Math.ceil(width / factor), Math.ceil(height / factor));
  for (let y = 0; y < few.height; y++)
    for (let x = 0; x < few.width; x++)
      few.data[y * few.width + x] =
        hard(alpha[Math.min(height - 1, y * factor) * width + Math.min(width - 1, x * factor)]) > 0.99 ? 1 : 0;
  const rows = Array.from({ length: few.height }, (_, y) =>
    few.data.subarray(y * few.width, (y + 1) * few.width).reduce((sum, v) => sum + v, 0),
  );
  // The person begins where a hundredth of the width is solid.
  const top = rows.findIndex((sum) => sum > few.width / 100);
  const bottom = few.height - 1 - [...rows].reverse().findIndex((sum) => sum > few.width / 100);
  const zone = top < 0 ? -1 : (top + ((bottom - top) * headZone) / 100) * factor;
  const inside = growMask(few, -DRAWN_BACK);
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p++) {
      if (y >= zone) alpha[p] = Math.round(65535 * hard(alpha[p]));
      else if (inside.data[((y / factor) | 0) * few.width + ((x / factor) | 0)]) alpha[p] = 65535;
    }
  }
}
