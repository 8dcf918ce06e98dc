import { encoderFor, linearTable } from '../colour/transfer.ts';
import { growMask } from '../image/growMask.ts';
import { sameDepth, whiteLevel, type EncodedRaster, type LinearRaster } from '../image/raster.ts';
import type { Analysis } from './analysis.ts';
import { fringeRows, type FringeRows } from './fringeRows.ts';
import { spillAlong, spillMasks, type HandMask } from './guidance.ts';
import type { Matte } from './matte.ts';
import type { Recipe } from './recipe.ts';
import { sampleBilinear } from './sampleBilinear.ts';
import { sigmaOf } from './solver.ts';
import { addLight, leads, removeSpill } from './spill.ts';

type FinishRecipe = Pick<Recipe, 'floor' | 'ceiling' | 'spill' | 'spillMethod' | 'bounce' | 'method'>;

/**
 * The cut-out picture: coverage between floor and ceiling, foreground colour as unmixing leaves it, spill removed.
 * @param surroundings light of the new background, stretched over the frame: with `recipe.bounce` it takes the place of the
 * screen's. @returns RGBA of the frame's depth, straight alpha, sRGB; colour is 0 where alpha is 0.
 */
export function finishCut(frame: EncodedRaster, analysis: Analysis, matte: Matte, recipe: FinishRecipe, surroundings?: LinearRaster): EncodedRaster & { channels: 4 } {
  const finisher = new Finisher(frame, analysis, matte, recipe, surroundings);
  for (let y = 0; y < frame.height; y++) finisher.finishRow(y);
  return { width: frame.width, height: frame.height, channels: 4, data: finisher.out };
}

/** Finishes one row after another: first what stays as photographed, then what has to be computed. */
class Finisher {
  readonly out: Uint8Array | Uint16Array;
  private readonly table: Float32Array;
  private readonly encode: (linear: number) => number;
  private readonly final: Uint16Array;
  private readonly rows: FringeRows;
  private readonly kept: Uint8Array;
  private readonly beside: Uint8Array | undefined;
  private readonly near: Float32Array;
  private readonly spillMasks: HandMask[];
  /** How much spill goes along the row, and where all of it does, even from kept green. */
  private readonly amount: Float32Array;
  private readonly gone: Uint8Array;
  private readonly F = new Float32Array(3);
  private readonly B = new Float32Array(3);
  private readonly light = new Float32Array(3);

  constructor(
    private readonly frame: EncodedRaster,
    private readonly analysis: Analysis,
    private readonly matte: Matte,
    private readonly recipe: FinishRecipe,
    private readonly surroundings: LinearRaster | undefined,
  ) {
    const { kept, dyed, candidates } = analysis;
    this.out = sameDepth(frame.data, frame.width * frame.height * 4);
    this.table = linearTable(frame.data);
    this.encode = encoderFor(frame.data);
    this.final = coverageTable(recipe, analysis.noise, whiteLevel(frame));
    this.rows = fringeRows(frame, analysis, candidates, sigmaOf(analysis.noise));
    // The classic methods know no green that stays.
    this.kept = recipe.method === 'unmixing' ? kept.data.map((v, p) => (v || dyed.data[p] ? 1 : 0)) : new Uint8Array(kept.data.length);
    // Outlines of kept cloth may lean to green as it does; others may not.
    if (this.kept.includes(1)) this.beside = growMask(kept, BESIDE).data;
    this.near = candidates[Math.min(1, candidates.length - 1)].data;
    this.spillMasks = spillMasks(analysis.masks);
    this.amount = new Float32Array(frame.width).fill(recipe.spill);
    this.gone = new Uint8Array(frame.width);
  }

  finishRow(y: number): void {
    if (this.spillMasks.length) spillAlong(this.spillMasks, this.recipe.spill, y, this.frame.height, this.amount, this.gone);
    const count = this.writePlain(y);
    if (!count) return;
    this.rows.read(count, y, 0);
    for (let k = 0; k < count; k++) this.rows.coverage[k] = this.matte.alpha[y * this.frame.width + this.rows.xs[k]] / 65535;
    this.rows.unmix(count);
    this.writeComputed(y, count);
  }

  /** @returns how many pixels of the row are left to be computed, listed in `rows.xs` and `rows.cells`. */
  private writePlain(y: number): number {
    const { out, final, kept, gone } = this;
    const { width, channels, data } = this.frame;
    const { factor, outside } = this.analysis;
    const { xs, cells } = this.rows;
    const alphas = this.matte.alpha;
    const beyond = outside.data;
    const green = channels === 1 ? 0 : 1;
    const blue = channels === 1 ? 0 : 2;
    let count = 0;
    for (let cell = ((y / factor) | 0) * outside.width, x = 0; x < width; cell++) {
      const end = Math.min(width, x + factor);
      // Beyond the screen there is nothing to unmix with and no spill to measure.
      const stays = beyond[cell] === 1;
      const keep = kept[cell] === 1;
      for (; x < end; x++) {
        const p = y * width + x;
        const raw = alphas[p];
        const alpha = final[raw];
        if (alpha === 0) continue;
        const i = p * channels;
        const o = p * 4;
        const r = data[i];
        const g = data[i + green];
        const b = data[i + blue];
        out[o + 3] = alpha;
        if (!stays && (raw < 65535 || ((!keep || gone[x] === 1) && this.isTinted(r, g, b)))) {
          xs[count] = x;
          cells[count++] = cell;
          continue;
        }
        out[o] = r;
        out[o + 1] = g;
        out[o + 2] = b;
      }
    }
    return count;
  }

  private isTinted(r: number, g: number, b: number): boolean {
    const { channel } = this.analysis.survey;
    // Screen's channel at most the mean of the others as encoded: then it is in linear light too, and nothing leads.
    if (channel === 1 ? 2 * g <= r + b : 2 * b <= r + g) return false;
    const { F, table } = this;
    F[0] = table[r];
    F[1] = table[g];
    F[2] = table[b];
    return leads(F, channel, this.recipe.spillMethod);
  }

  private writeComputed(y: number, count: number): void {
    const { out, table, kept, beside, near, F, B, encode, recipe, amount, gone } = this;
    const bounce = this.surroundings ? recipe.bounce : 0;
    const { width, channels, data } = this.frame;
    const { channel } = this.analysis.survey;
    const { sheer } = this.analysis;
    const { xs, cells, reading } = this.rows;
    const [F0, F1, F2] = this.rows.fore;
    const [B0, B1, B2] = this.rows.back;
    const alphas = this.matte.alpha;
    for (let k = 0; k < count; k++) {
      const x = xs[k];
      const p = y * width + x;
      const i = p * channels;
      const o = p * 4;
      const cell = cells[k];
      const raw = alphas[p];
      const solid = raw === 65535;
      B[0] = B0[k];
      B[1] = B1[k];
      B[2] = B2[k];
      if (solid) {
        F[0] = table[data[i]];
        F[1] = table[data[channels === 1 ? i : i + 1]];
        F[2] = table[data[channels === 1 ? i : i + 2]];
      } else if (sheer.data[cell]) {
        // It has no candidates: its colour is what the screen leaves.
        const a = raw / 65535;
        for (let c = 0; c < 3; c++) F[c] = Math.min(1, Math.max(0, (reading[c][k] - (1 - a) * B[c]) / a));
      } else {
        F[0] = F0[k];
        F[1] = F1[k];
        F[2] = F2[k];
      }
      const all = gone[x] === 1;
      if ((!kept[cell] || all) && leads(F, channel, recipe.spillMethod)) {
        const went = removeSpill(F, B, channel, recipe.spillMethod, amount[x], all || solid || !beside?.[cell] ? 0 : keyOf(near, cell * 3, channel));
        if (bounce > 0 && went > 0) this.lightUp(x, y, bounce * went);
      }
      out[o] = encode(F[0]);
      out[o + 1] = encode(F[1]);
      out[o + 2] = encode(F[2]);
    }
  }

  /** Light of the surroundings at x, y on the colour in F. */
  private lightUp(x: number, y: number, share: number): void {
    const { width, height, data } = this.surroundings as LinearRaster;
    sampleBilinear(data, width, height, ((x + 0.5) / this.frame.width) * width - 0.5, ((y + 0.5) / this.frame.height) * height - 0.5, this.light);
    addLight(this.F, this.light, share);
  }
}

/**
 * Raw coverage 0–65535 → final coverage 0–white: up to the floor clear, from the ceiling on solid, and between them as it was
 * solved but for a short way beside each. Noise lifts the floor: what noise alone can reach is not hair.
 */
function coverageTable(recipe: Pick<Recipe, 'floor' | 'ceiling'>, noise: number, white: number): Uint16Array {
  const table = new Uint16Array(65536);
  const floor = recipe.floor === 0 ? 0 : Math.max(recipe.floor, Math.min(0.25, 3 * noise));
  const ceiling = Math.max(floor + 0.02, recipe.ceiling);
  const low = floor * WAY;
  const high = (1 - ceiling) * WAY;
  for (let i = 0; i < table.length; i++) {
    const a = i / 65535;
    const shaped = a <= floor ? 0 : a >= ceiling ? 1 : a < floor + low ? (a * (a - floor)) / low : a > ceiling - high ? 1 - ((1 - a) * (ceiling - a)) / high : a;
    table[i] = Math.round(shaped * white);
  }
  return table;
}
/** Reduced pixels that the outline of kept cloth is wide. */
const BESIDE = 8;
/** Length of the way beside floor and ceiling, in units of them. */
const WAY = 1;

function keyOf(data: Float32Array, o: number, channel: 1 | 2): number {
  return data[o + channel] - Math.max(data[o], data[o + (channel === 1 ? 2 : 1)]);
}
