import { linearTable } from '../colour/transfer.ts';
import { whiteLevel, type EncodedRaster } from '../image/raster.ts';

/** Whether colour is stored at half the resolution along each axis, and on which pixels its pairs begin; −1: it is not. */
export interface ChromaHalving {
  across: -1 | 0 | 1;
  down: -1 | 0 | 1;
}

/** Rows or columns looked at, and steps of colour (of 255) that tell something. */
const LINES = 160;
const LEAST_STEP = 6;
const LEAST_STEPS = 60;
/** Share of the steps' size up to which the relation of interpolated pairs may fail. */
const MOST_MISFIT = 0.22;

/**
 * Tells from the pixels whether colour was halved: between two stored values the decoder interpolates ¾ : ¼, so the step
 * inside a pair is the mean of the steps on both of its sides, half as large as they are together.
 */
export function detectHalving(frame: EncodedRaster): ChromaHalving {
  if (frame.channels === 1) return { across: -1, down: -1 };
  return { across: halvingAlong(frame, frame.width, frame.height, frame.channels, frame.width * frame.channels), down: halvingAlong(frame, frame.height, frame.width, frame.width * frame.channels, frame.channels) };
}

function halvingAlong({ data, ...frame }: EncodedRaster, length: number, lines: number, step: number, stride: number): -1 | 0 | 1 {
  const scale = 255 / whiteLevel({ ...frame, data });
  const misfit = [0, 0];
  const size = [0, 0];
  const count = [0, 0];
  const every = Math.max(1, Math.floor(lines / LINES));
  for (let line = 0; line < lines; line += every) {
    let a = 0;
    let b = 0;
    let c = 0;
    for (let i = 0, o = line * stride; i < length; i++, o += step) {
      // Red less luma, in which a person before a green or blue screen differs most.
      const d = scale * (data[o] - (0.299 * data[o] + 0.587 * data[o + 1] + 0.114 * data[o + 2]));
      // Steps between four neighbours: c → b → a → d.
      if (i >= 3) {
        const before = b - c;
        const middle = a - b;
        const after = d - a;
        const whole = Math.abs(before) + Math.abs(after);
        if (whole > LEAST_STEP) {
          const phase = (i - 2) & 1;
          misfit[phase] += Math.abs(middle - (before + after) / 2);
          size[phase] += whole / 2;
          count[phase]++;
        }
      }
      c = b;
      b = a;
      a = d;
    }
  }
  const share = [0, 1].map((phase) => (count[phase] < LEAST_STEPS ? Infinity : misfit[phase] / size[phase]));
  const best = share[0] <= share[1] ? 0 : 1;
  // Where nothing was halved both phases fit about equally badly.
  return share[best] < MOST_MISFIT && share[best] < 0.7 * share[1 - best] ? (best as 0 | 1) : -1;
}

/**
 * Reads pixels in linear light with their colour brought back to full resolution: around an edge colour follows
 * brightness, so what the halving blurred is put back by how far the pixel's own luma stands off the blurred one.
 */
export class ChromaReader {
  readonly value = new Float32Array(3);
  private readonly table: Float32Array;
  private readonly halved: boolean;
  private readonly white: number;
  private readonly cells = new Float64Array(9 * 3);

  constructor(
    private readonly frame: EncodedRaster,
    private readonly halving: ChromaHalving,
  ) {
    this.table = linearTable(frame.data);
    this.halved = halving.across >= 0 && halving.down >= 0;
    this.white = whiteLevel(frame);
  }

  /** Whether a pixel, as the file has it, differs from a colour (linear) by less than a share of each of its channels. */
  isNear(pixel: number, { 0: r, 1: g, 2: b }: Float32Array, share: number): boolean {
    const { table } = this;
    const { channels, data } = this.frame;
    const o = pixel * channels;
    return (
      Math.abs(table[data[channels === 1 ? o : o + 1]] - g) < share * (g + 0.03) &&
      Math.abs(table[data[o]] - r) < share * (r + 0.03) &&
      Math.abs(table[data[channels === 1 ? o : o + 2]] - b) < share * (b + 0.03)
    );
  }

  read(x: number, y: number): void {
    const { frame, table, value } = this;
    const { width, height, channels, data } = frame;
    const o = (y * width + x) * channels;
    const r = data[o];
    const g = data[channels === 1 ? o : o + 1];
    const b = data[channels === 1 ? o : o + 2];
    if (!this.halved || x < 4 || y < 4 || x >= width - 4 || y >= height - 4) {
      value[0] = table[r];
      value[1] = table[g];
      value[2] = table[b];
      return;
    }
    // The pair that the pixel belongs to, and those around it: luma and colour of each as the encoder stored them.
    const { across, down } = this.halving;
    const x0 = x - ((x - across) & 1);
    const y0 = y - ((y - down) & 1);
    const { cells } = this;
    const step = width * channels;
    let my = 0;
    let mb = 0;
    let mr = 0;
    for (let j = -1, k = 0; j <= 1; j++) {
      for (let i = -1; i <= 1; i++, k += 3) {
        const p = ((y0 + 2 * j) * width + x0 + 2 * i) * channels;
        const q = p + step;
        const red = data[p] + data[p + channels] + data[q] + data[q + channels];
        const green = data[p + 1] + data[p + channels + 1] + data[q + 1] + data[q + channels + 1];
        const blue = data[p + 2] + data[p + channels + 2] + data[q + 2] + data[q + channels + 2];
        const luma = (0.299 * red + 0.587 * green + 0.114 * blue) / 4;
        cells[k] = luma;
        cells[k + 1] = blue / 4 - luma;
        cells[k + 2] = red / 4 - luma;
        my += luma;
        mb += cells[k + 1];
        mr += cells[k + 2];
      }
    }
    my /= 9;
    mb /= 9;
    mr /= 9;
    let yy = 0;
    let yb = 0;
    let yr = 0;
    for (let k = 0; k < 27; k += 3) {
      const d = cells[k] - my;
      yy += d * d;
      yb += d * (cells[k + 1] - mb);
      yr += d * (cells[k + 2] - mr);
    }
    const luma = 0.299 * r + 0.587 * g + 0.114 * b;
    // Luma blurred as the colour was: ¾ of its own pair and ¼ of the neighbour's, each way.
    const kx = x === x0 ? -1 : 1;
    const ky = y === y0 ? -1 : 1;
    const blurred = (9 * cells[12] + 3 * cells[(4 + kx) * 3] + 3 * cells[(4 + 3 * ky) * 3] + cells[(4 + kx + 3 * ky) * 3]) / 16;
    const scale = (luma - blurred) / (yy + 9 * this.least());
    const blue = b - luma + yb * scale;
    const red = r - luma + yr * scale;
    value[0] = this.linear(luma + red);
    value[1] = this.linear(luma - (0.299 * red + 0.114 * blue) / 0.587);
    value[2] = this.linear(luma + blue);
  }

  /** Variance of luma, in the frame's units, below which colour has nothing to follow. */
  private least(): number {
    return (this.white * 0.012) ** 2;
  }

  private linear(encoded: number): number {
    return this.table[encoded <= 0 ? 0 : encoded >= this.white ? this.white : (encoded + 0.5) | 0];
  }
}
