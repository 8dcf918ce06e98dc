import { encodeCurve16, encodeTable8, encoderFor, linearTable } from '../colour/transfer.ts';
import { sameDepth, type EncodedRaster, type LinearRaster } from '../image/raster.ts';
import { installedKernels, type RowKernel } from '../kernels/kernels.ts';
import { CompiledRows } from './fringeRows.ts';
import type { FringeRows, RowsNeed } from './rows.ts';
import { PlainRows } from './plainRows.ts';
import { spillMethods } from './recipe.ts';
import { byLarger, leadOf, leads, removeSpill, takeStray, type SpillWay } from './spill.ts';
import type { Channel } from '../colour/channels.ts';

/** Bits of what a reduced pixel is: beyond the screen, kept green, beside it, see-through by hand. */
export const Kind = { beyond: 1, kept: 2, beside: 4, sheer: 8 } as const;

/** What finishing needs beside the rows' own. */
export interface FinishNeed {
  /** `Kind` of each reduced pixel. */
  kinds: Uint8Array;
  /** Final coverage, 0–white, by the solved one, 0–65535. */
  final: Uint16Array;
  channel: Channel;
  spill: SpillWay;
}

/** Writes the cut-out picture row by row. The caller fills `alpha`, and `amount` and `gone` once or for each row. */
export interface FinishRows extends FringeRows {
  /** Coverage of the row as it was solved, 0–65535. */
  readonly alpha: Uint16Array;
  /** How much spill goes, 0–1, and 1 where all of it does, even from kept green. */
  readonly amount: Float32Array;
  readonly gone: Uint8Array;
  /** The finished row: RGBA of the frame's depth. */
  readonly pixels: Uint8Array | Uint16Array;
  /**
   * Writes the pixels of row y that stay as photographed.
   * @returns how many are left to be computed, listed in `xs`, `cells` and `coverage`.
   */
  sort(y: number): number;
  /** Writes the colours of the first `count` listed pixels of row y, read and unmixed before. */
  colour(count: number, y: number): void;
}

/** By the compiled kernel where one is installed, otherwise in plain code; the results are the same. */
export function finishRows(
  frame: EncodedRaster,
  need: RowsNeed,
  candidates: LinearRaster[],
  sigma: number,
  finish: FinishNeed,
): FinishRows {
  // The kernel knows of green and blue screens; those in red are rare enough for plain code.
  const kernel = finish.channel === 0 ? undefined : installedKernels()?.rows;
  return kernel
    ? new CompiledFinish(kernel, frame, need, candidates, sigma, finish)
    : new PlainFinish(frame, need, candidates, sigma, finish);
}

class CompiledFinish extends CompiledRows implements FinishRows {
  readonly alpha: Uint16Array;
  readonly amount: Float32Array;
  readonly gone: Uint8Array;
  readonly pixels: Uint8Array | Uint16Array;

  constructor(
    kernel: RowKernel,
    frame: EncodedRaster,
    need: RowsNeed,
    candidates: LinearRaster[],
    sigma: number,
    { kinds, final, channel, spill }: FinishNeed,
  ) {
    super(kernel, frame, need, candidates, sigma);
    const { width, data } = frame;
    const { buffer } = kernel.memory;
    const sixteen = data instanceof Uint16Array;
    this.alpha = new Uint16Array(buffer, kernel.alphaPointer(), width);
    this.amount = new Float32Array(buffer, kernel.amountPointer(), width);
    this.gone = new Uint8Array(buffer, kernel.gonePointer(), width);
    this.pixels = sixteen
      ? new Uint16Array(buffer, kernel.pixelsPointer(), width * 4)
      : new Uint8Array(buffer, kernel.pixelsPointer(), width * 4);
    new Uint8Array(buffer, kernel.kindsPointer(), kinds.length).set(kinds);
    new Uint16Array(buffer, kernel.finalPointer(), final.length).set(final);
    if (sixteen) new Float32Array(buffer, kernel.encodePointer(), encodeCurve16().length).set(encodeCurve16());
    else new Uint8Array(buffer, kernel.encodePointer(), encodeTable8().length).set(encodeTable8());
    kernel.prepareFinish(channel === 2, byLarger[spill.method], spillMethods.indexOf(spill.method));
    kernel.prepareSpill(spill.hues, spill.fade, spill.replaced, ...spill.tint);
  }

  sort(y: number): number {
    this.hold(y);
    return this.kernel.sort(y);
  }

  colour(count: number, y: number): void {
    this.kernel.colour(count, y);
  }
}

class PlainFinish extends PlainRows implements FinishRows {
  readonly alpha: Uint16Array;
  readonly amount: Float32Array;
  readonly gone: Uint8Array;
  readonly pixels: Uint8Array | Uint16Array;
  private readonly table: Float32Array;
  private readonly encode: (linear: number) => number;

  constructor(
    frame: EncodedRaster,
    private readonly need: RowsNeed,
    candidates: LinearRaster[],
    sigma: number,
    private readonly finish: FinishNeed,
  ) {
    super(frame, need, candidates, sigma);
    const { width, data } = frame;
    this.alpha = new Uint16Array(width);
    this.amount = new Float32Array(width);
    this.gone = new Uint8Array(width);
    this.pixels = sameDepth(data, width * 4);
    this.table = linearTable(data);
    this.encode = encoderFor(data);
  }

  sort(y: number): number {
    const { alpha, pixels, gone, xs, cells, coverage } = this;
    const { kinds, final } = this.finish;
    const { factor, screen } = this.need;
    const { width, channels, data } = this.frame;
    const green = channels === 1 ? 0 : 1;
    const blue = channels === 1 ? 0 : 2;
    pixels.fill(0);
    let count = 0;
    for (let cell = ((y / factor) | 0) * screen.width, x = 0; x < width; cell++) {
      const end = Math.min(width, x + factor);
      // Beyond the screen there is nothing to unmix with and no spill to measure.
      const stays = (kinds[cell] & Kind.beyond) !== 0;
      const keep = (kinds[cell] & Kind.kept) !== 0;
      for (; x < end; x++) {
        const raw = alpha[x];
        if (final[raw] === 0) continue;
        const i = (y * width + x) * channels;
        const o = x * 4;
        const r = data[i];
        const g = data[i + green];
        const b = data[i + blue];
        if (!stays && (raw < 65535 || ((!keep || gone[x] === 1) && this.isTinted(r, g, b)))) {
          xs[count] = x;
          coverage[count] = raw / 65535;
          cells[count++] = cell;
        }
        pixels[o] = r;
        pixels[o + 1] = g;
        pixels[o + 2] = b;
        pixels[o + 3] = final[raw];
      }
    }
    return count;
  }

  private isTinted(r: number, g: number, b: number): boolean {
    const { channel, spill } = this.finish;
    // Screen's channel at most the mean of the others as encoded: then it is in linear light too, and nothing leads.
    const own = channel === 0 ? r : channel === 1 ? g : b;
    if (3 * own <= r + g + b) return false;
    const { F, table } = this;
    F[0] = table[r];
    F[1] = table[g];
    F[2] = table[b];
    return leads(F, channel, spill.method);
  }

  colour(count: number, y: number): void {
    const { pixels, alpha, amount, gone, table, encode, xs, cells, candidates, B, F } = this;
    const { kinds, channel, spill } = this.finish;
    const { width, channels, data } = this.frame;
    const near = candidates[Math.min(1, candidates.length - 1)].data;
    for (let k = 0; k < count; k++) {
      const x = xs[k];
      const i = (y * width + x) * channels;
      const kind = kinds[cells[k]];
      const a = alpha[x] / 65535;
      const solid = alpha[x] === 65535;
      for (let c = 0; c < 3; c++) {
        B[c] = this.back[c][k];
        if (solid) F[c] = table[data[channels === 1 ? i : i + c]];
        // It has no candidates: its colour is what the screen leaves.
        else if (kind & Kind.sheer) F[c] = Math.min(1, Math.max(0, (this.reading[c][k] - (1 - a) * B[c]) / a));
        else F[c] = this.fore[c][k];
      }
      const all = gone[x] === 1;
      if (!solid && (kind & (Kind.kept | Kind.beside | Kind.sheer)) === 0)
        takeStray(F, B, near, cells[k] * 3, channel, spill.method, amount[x]);
      // Skin, lips and much hair are red by themselves: what a red screen adds is told from that on the outline at most.
      const own = (kind & Kind.kept) !== 0 || (channel === 0 && solid);
      if ((!own || all) && leads(F, channel, spill.method)) {
        // Outlines of kept cloth may lean to green as it does; others may not. Outlines of skin may to red.
        const mayLean = channel === 0 || (kind & Kind.beside) !== 0;
        const allowed = all || !mayLean ? 0 : leadOf(near, cells[k] * 3, channel);
        removeSpill(F, B, channel, spill, amount[x], allowed);
      }
      for (let c = 0; c < 3; c++) pixels[x * 4 + c] = encode(F[c]);
    }
  }
}
