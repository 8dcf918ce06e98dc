import { linearTable } from '../colour/transfer.ts';
import { whiteLevel, type EncodedRaster } from '../image/raster.ts';

/**
 * Whether colour is stored at half the resolution along each axis, and on which pixels its pairs begin; −1: it is not.
 */
export interface ChromaHalving {
  across: -1 | 0 | 1;
  down: -1 | 0 | 1;
}

/** Rows or columns looked at, and steps of colour (of 255) that tell something. */
const LINES = 64;
const LEAST_STEP = 6;
const LEAST_STEPS = 60;
/** Share of the steps' size up to which the relation of interpolated pairs may fail. */
const MOST_MISFIT = 0.22;

/**
 * Tells from the pixels whether colour was halved: between two stored values the decoder interpolates ¾ : ¼, so the
 * step inside a pair is the mean of the steps on both of its sides, half as large as they are together.
 */
export function detectHalving(frame: EncodedRaster): ChromaHalving {
  if (frame.channels === 1) return { across: -1, down: -1 };
  return {
    across: halvingAlong(frame, frame.width, frame.height, frame.channels, frame.width * frame.channels),
    down: halvingAlong(frame, frame.height, frame.width, frame.width * frame.channels, frame.channels),
  };
}

function halvingAlong(
  { data, ...frame }: EncodedRaster,
  length: number,
  lines: number,
  step: number,
  stride: number,
): -1 | 0 | 1 {
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
 * Variance of luma, in the frame's units, below which colour has nothing to follow; nine times that, for nine pairs.
 */
export function leastLumaVariance(frame: EncodedRaster): number {
  return 9 * (whiteLevel(frame) * 0.012) ** 2;
}

const f = Math.fround;
const RED = f(0.299);
const GREEN = f(0.587);
const BLUE = f(0.114);

/** Weighted brightness in single precision, as the kernel computes it. */
function lumaOf(r: number, g: number, b: number): number {
  return f(f(f(RED * r) + f(GREEN * g)) + f(BLUE * b));
}

/**
 * Reads pixels in linear light with their colour brought back to full resolution: around an edge colour follows
 * brightness, so what the halving blurred is put back by how far the pixel's own luma stands off the blurred one.
 * Quick when pixels are asked for row by row: the pairs of the last few rows are remembered. Single precision, the
 * same operations in the same order as core/kernels/assembly/rows.ts.
 */
export class ChromaReader {
  readonly value = new Float32Array(3);
  private readonly table: Float32Array;
  private readonly halved: boolean;
  private readonly white: number;
  private readonly least: number;
  /**
   * Pairs of four rows of pairs, row r at r modulo 4: the row they were read from, and luma, blue less luma, red less
   * luma as the encoder stored them.
   */
  private readonly across: number;
  private readonly rowOf: Int32Array;
  private readonly pairs: Float32Array;
  /** How blue and red follow luma around each pair, and the row it was computed for. */
  private readonly slopeRow: Int32Array;
  private readonly slopes: Float32Array;

  constructor(
    private readonly frame: EncodedRaster,
    private readonly halving: ChromaHalving,
  ) {
    this.table = linearTable(frame.data);
    this.halved = halving.across >= 0 && halving.down >= 0;
    this.white = whiteLevel(frame);
    this.least = f(leastLumaVariance(frame));
    this.across = this.halved ? (frame.width >> 1) + 2 : 0;
    this.rowOf = new Int32Array(4 * this.across).fill(-1);
    this.pairs = new Float32Array(4 * this.across * 3);
    this.slopeRow = new Int32Array(4 * this.across).fill(-1);
    this.slopes = new Float32Array(4 * this.across * 2);
  }

  /**
   * Whether a pixel, as the file has it, differs from a colour (linear) by less than a share of each of its channels.
   */
  isNear(pixel: number, { 0: r, 1: g, 2: b }: Float32Array, share: number): boolean {
    const { table } = this;
    const { channels, data } = this.frame;
    const o = pixel * channels;
    const bound = f(share);
    const within = (value: number, of: number): boolean =>
      f(Math.abs(f(table[value] - of))) < f(bound * f(of + f(0.03)));
    return (
      within(data[channels === 1 ? o : o + 1], g) && within(data[o], r) && within(data[channels === 1 ? o : o + 2], b)
    );
  }

  read(x: number, y: number): void {
    const { frame, table, value, pairs, slopes } = this;
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
    const px = (x - this.halving.across) >> 1;
    const py = (y - this.halving.down) >> 1;
    const k = this.slopeOf(px, py) * 2;
    const luma = lumaOf(r, g, b);
    // Luma blurred as the colour was: ¾ of its own pair and ¼ of the neighbour's, each way.
    const beside = (x - this.halving.across) & 1 ? 3 : -3;
    const own = ((py & 3) * this.across + px) * 3;
    const other = (((py + ((y - this.halving.down) & 1 ? 1 : -1)) & 3) * this.across + px) * 3;
    const blurred = f(
      f(f(f(f(9 * pairs[own]) + f(3 * pairs[own + beside])) + f(3 * pairs[other])) + pairs[other + beside]) * 0.0625,
    );
    const off = f(luma - blurred);
    const blue = f(f(b - luma) + f(slopes[k] * off));
    const red = f(f(r - luma) + f(slopes[k + 1] * off));
    value[0] = this.linear(f(luma + red));
    value[1] = this.linear(f(luma - f(f(f(RED * red) + f(BLUE * blue)) / GREEN)));
    value[2] = this.linear(f(luma + blue));
  }

  /** Least squares of colour on luma over a pair and the eight around it. @returns where it lies. */
  private slopeOf(px: number, py: number): number {
    const at = (py & 3) * this.across + px;
    if (this.slopeRow[at] === py) return at;
    this.slopeRow[at] = py;
    const { pairs } = this;
    let y = 0;
    let b = 0;
    let r = 0;
    let yy = 0;
    let yb = 0;
    let yr = 0;
    // Around the middle pair's luma, or squares of small differences would drown in rounding.
    const from = pairs[this.pairAt(px, py) * 3];
    for (let j = -1; j <= 1; j++) {
      for (let i = -1; i <= 1; i++) {
        const k = this.pairAt(px + i, py + j) * 3;
        const luma = f(pairs[k] - from);
        y = f(y + luma);
        b = f(b + pairs[k + 1]);
        r = f(r + pairs[k + 2]);
        yy = f(yy + f(luma * luma));
        yb = f(yb + f(luma * pairs[k + 1]));
        yr = f(yr + f(luma * pairs[k + 2]));
      }
    }
    const mean = f(y / 9);
    const scale = f(1 / f(Math.max(0, f(yy - f(y * mean))) + this.least));
    this.slopes[at * 2] = f(yb - f(b * mean)) * scale;
    this.slopes[at * 2 + 1] = f(yr - f(r * mean)) * scale;
    return at;
  }

  private pairAt(px: number, py: number): number {
    const at = (py & 3) * this.across + px;
    if (this.rowOf[at] === py) return at;
    this.rowOf[at] = py;
    const { width, channels, data } = this.frame;
    const p = ((2 * py + this.halving.down) * width + 2 * px + this.halving.across) * channels;
    const q = p + width * channels;
    const red = data[p] + data[p + channels] + data[q] + data[q + channels];
    const green = data[p + 1] + data[p + channels + 1] + data[q + 1] + data[q + channels + 1];
    const blue = data[p + 2] + data[p + channels + 2] + data[q + 2] + data[q + channels + 2];
    const luma = f(lumaOf(red, green, blue) * 0.25);
    this.pairs[at * 3] = luma;
    this.pairs[at * 3 + 1] = f(blue * 0.25) - luma;
    this.pairs[at * 3 + 2] = f(red * 0.25) - luma;
    return at;
  }

  private linear(encoded: number): number {
    return this.table[encoded <= 0 ? 0 : encoded >= this.white ? this.white : f(encoded + 0.5) | 0];
  }
}
