import { encoderFor, linearTable } from '../colour/transfer.ts';
import { growMask } from '../image/growMask.ts';
import { sameDepth, whiteLevel, type EncodedRaster } from '../image/raster.ts';
import { smoothstep } from '../image/smoothstep.ts';
import type { Analysis } from './analysis.ts';
import { fringeRows } from './fringeRows.ts';
import type { Matte } from './matte.ts';
import type { Recipe } from './recipe.ts';
import { leads, removeSpill } from './spill.ts';

/**
 * The cut-out picture: coverage between floor and ceiling, foreground colour as unmixing leaves it, spill removed.
 * @returns RGBA of the frame's depth, straight alpha, sRGB; colour is 0 where alpha is 0.
 */
export function finishCut(
  frame: EncodedRaster,
  analysis: Analysis,
  matte: Matte,
  recipe: Pick<Recipe, 'floor' | 'ceiling' | 'spill' | 'spillMethod' | 'method'>,
): EncodedRaster & { channels: 4 } {
  const { width, height, channels, data } = frame;
  const { factor, kept, outside, candidates, survey } = analysis;
  const white = whiteLevel(frame);
  const table = linearTable(data);
  const encode = encoderFor(data);
  const out = sameDepth(data, width * height * 4);
  const green = channels === 1 ? 0 : 1;
  const blue = channels === 1 ? 0 : 2;
  const own = survey.channel === 1 ? green : blue;
  const another = survey.channel === 1 ? blue : green;
  const levels = coverageTable(recipe, analysis.noise);
  const rows = fringeRows(frame, analysis);
  const { xs, cells } = rows;
  const B = new Float32Array(3);
  const F = new Float32Array(3);
  // The classic methods know no green that stays.
  const keeps = recipe.method === 'unmixing';
  // Outlines of kept cloth may lean to green as it does; others may not.
  const beside = keeps && kept.data.includes(1) ? growMask(kept, BESIDE) : undefined;
  const near = candidates[Math.min(1, candidates.length - 1)];
  for (let y = 0; y < height; y++) {
    const cellRow = ((y / factor) | 0) * kept.width;
    let count = 0;
    for (let cell = cellRow, x = 0; x < width; cell++) {
      const end = Math.min(width, x + factor);
      for (; x < end; x++) {
        const p = y * width + x;
        const raw = matte.alpha[p];
        if (raw === 0) continue;
        const alpha = (levels[raw] * white + 0.5) | 0;
        if (alpha === 0) continue;
        const i = p * channels;
        const o = p * 4;
        out[o + 3] = alpha;
        // Beyond the screen there is nothing to unmix with and no spill to measure.
        if (!outside.data[cell]) {
          let changes = raw < 65535;
          // Screen's channel at most the mean of the others as encoded: then it is in linear light too, and nothing leads.
          if (!changes && 2 * data[i + own] > data[i] + data[i + another] && !(keeps && kept.data[cell])) {
            F[0] = table[data[i]];
            F[1] = table[data[i + green]];
            F[2] = table[data[i + blue]];
            changes = leads(F, survey.channel, recipe.spillMethod);
          }
          if (changes) {
            xs[count] = x;
            cells[count++] = cell;
            continue;
          }
        }
        out[o] = data[i];
        out[o + 1] = data[i + green];
        out[o + 2] = data[i + blue];
      }
    }
    if (!count) continue;
    rows.read(count, y, 0);
    for (let k = 0; k < count; k++) {
      const p = y * width + xs[k];
      const i = p * channels;
      const o = p * 4;
      const cell = cells[k];
      const raw = matte.alpha[p];
      const solid = raw === 65535;
      for (let c = 0; c < 3; c++) B[c] = rows.back[c][k];
      if (solid) {
        F[0] = table[data[i]];
        F[1] = table[data[i + green]];
        F[2] = table[data[i + blue]];
      } else {
        for (let c = 0; c < 3; c++) F[c] = rows.reading[c][k];
        unmix(F, B, raw / 65535, near.data, cell * 3);
      }
      if (!keeps || !kept.data[cell]) removeSpill(F, B, survey.channel, recipe, solid || !beside?.data[cell] ? 0 : keyOf(near.data, cell * 3, survey.channel));
      out[o] = encode(F[0]);
      out[o + 1] = encode(F[1]);
      out[o + 2] = encode(F[2]);
    }
  }
  return { width, height, channels: 4, data: out };
}

/**
 * Raw coverage 0–65535 → final coverage 0–1: up to the floor clear, from the ceiling on solid, and between them as it was
 * solved but for a short way beside each. Noise lifts the floor: what noise alone can reach is not hair.
 */
function coverageTable(recipe: Pick<Recipe, 'floor' | 'ceiling'>, noise: number): Float32Array {
  const table = new Float32Array(65536);
  const floor = recipe.floor === 0 ? 0 : Math.max(recipe.floor, Math.min(0.25, 3 * noise));
  const ceiling = Math.max(floor + 0.02, recipe.ceiling);
  const low = floor * WAY;
  const high = (1 - ceiling) * WAY;
  for (let i = 0; i < table.length; i++) {
    const a = i / 65535;
    table[i] = a <= floor ? 0 : a >= ceiling ? 1 : a < floor + low ? (a * (a - floor)) / low : a > ceiling - high ? 1 - ((1 - a) * (ceiling - a)) / high : a;
  }
  return table;
}
/** Reduced pixels that the outline of kept cloth is wide. */
const BESIDE = 8;
/** Length of the way beside floor and ceiling, in units of them. */
const WAY = 1;

/** F ← (I − (1−a)·B)/a; where a is small that is mostly noise, so the nearby sure colour takes over. */
function unmix(F: Float32Array, B: Float32Array, coverage: number, near: Float32Array, o: number): void {
  const trust = smoothstep((coverage - 0.08) / 0.5);
  for (let c = 0; c < 3; c++) {
    const own = (F[c] - (1 - coverage) * B[c]) / coverage;
    const mixed = trust * own + (1 - trust) * near[o + c];
    F[c] = mixed < 0 ? 0 : mixed > 1 ? 1 : mixed;
  }
}

function keyOf(data: Float32Array, o: number, channel: 1 | 2): number {
  return data[o + channel] - Math.max(data[o], data[o + (channel === 1 ? 2 : 1)]);
}
