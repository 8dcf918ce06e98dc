import { linearTable } from '../colour/transfer.ts';
import type { EncodedRaster, Plane } from '../image/raster.ts';
import type { Analysis } from './analysis.ts';
import { smoothstep } from '../image/smoothstep.ts';
import { Region } from './regions.ts';

/** Coverage of every full-size pixel, 0–65535, before floor and ceiling; and how well the fringe was explained. */
export interface Matte {
  width: number;
  height: number;
  alpha: Uint16Array;
  /** Number of fringe pixels. */
  fringePixels: number;
  /** Share of fringe pixels that no candidate explains within three times the noise. */
  unexplained: number;
}

const solver = {
  /** Least standard deviation that a reading is trusted to, in linear light weighted by level. */
  minSigma: 0.012,
  /** How far the brightness of the foreground may stray from its candidate (standard deviation, ratio). */
  brightnessReach: 0.6,
  /** How much coverage noise and an imperfect B may seem to prove. */
  provenSlack: 0.3,
  /** Extra cost of the neutral candidate, which fits nearly everything. */
  neutralCost: 5,
  /** Deep inside the person, coverage between these is lifted to full: spill on white cloth looks like a little screen. */
  liftFrom: 0.7,
  liftTo: 0.88,
  /** A luma difference of this many sigmas halves a neighbour's say in the denoised reading. */
  similarity: 2.5,
};

/**
 * Solves I = t·F + u·B for every fringe pixel, for each competing candidate F, by weighted least squares in linear
 * light with a soft condition t + u = 1 that decides where F and B point the same way (green cloth). Coverage is
 * 1 − u. Candidates are mixed by how well they explain the pixel. Clear pixels get 0, core pixels 65535.
 */
export function solveMatte(frame: EncodedRaster, analysis: Analysis): Matte {
  const { width, height } = frame;
  const { factor, regions, screen, candidates, solidity, lift } = analysis;
  const alpha = new Uint16Array(width * height);
  const cellsAcross = regions.width;
  const sigma = Math.max(solver.minSigma, 2.2 * analysis.noise);
  const solve = new PixelSolver(sigma, candidates.length);
  const reader = new FringeReader(frame, sigma);
  const B = new Float32Array(3);
  let fringePixels = 0;
  let unexplained = 0;
  for (let y = 0; y < height; y++) {
    const cellRow = ((y / factor) | 0) * cellsAcross;
    for (let x = 0; x < width; x++) {
      const cell = cellRow + ((x / factor) | 0);
      const region = regions.data[cell];
      if (region === Region.clear) continue;
      const i = y * width + x;
      if (region === Region.core && solidity.data[cell] >= 0.999) {
        alpha[i] = 65535;
        continue;
      }
      fringePixels++;
      reader.read(x, y);
      const cx = (x + 0.5) / factor - 0.5;
      const cy = (y + 0.5) / factor - 0.5;
      sampleBilinear(screen.data, screen.width, screen.height, cx, cy, B);
      let coverage = solve.coverage(reader.value, B, candidates, cell);
      if (solve.bestError > 9) unexplained++;
      coverage += (1 - coverage) * lift.data[cell] * smoothstep((coverage - solver.liftFrom) / (solver.liftTo - solver.liftFrom));
      if (region === Region.core) coverage += (1 - coverage) * samplePlane(solidity, cx, cy);
      alpha[i] = Math.round(coverage * 65535);
    }
  }
  return { width, height, alpha, fringePixels, unexplained: fringePixels ? unexplained / fringePixels : 0 };
}

function samplePlane(plane: Plane, x: number, y: number): number {
  const { width, height, data } = plane;
  const cx = x < 0 ? 0 : x > width - 1 ? width - 1 : x;
  const cy = y < 0 ? 0 : y > height - 1 ? height - 1 : y;
  const x0 = cx | 0;
  const y0 = cy | 0;
  const a = y0 * width + x0;
  const right = x0 + 1 < width ? 1 : 0;
  const down = y0 + 1 < height ? width : 0;
  const top = data[a] + (cx - x0) * (data[a + right] - data[a]);
  const bottom = data[a + down] + (cx - x0) * (data[a + down + right] - data[a + down]);
  return top + (cy - y0) * (bottom - top);
}

/** Bilinear sample of three interleaved channels at pixel-centre coordinates, clamped at the border. */
export function sampleBilinear(data: Float32Array, width: number, height: number, x: number, y: number, out: Float32Array): void {
  const cx = x < 0 ? 0 : x > width - 1 ? width - 1 : x;
  const cy = y < 0 ? 0 : y > height - 1 ? height - 1 : y;
  const x0 = cx | 0;
  const y0 = cy | 0;
  const fx = cx - x0;
  const fy = cy - y0;
  const a = (y0 * width + x0) * 3;
  const b = x0 + 1 < width ? a + 3 : a;
  const down = y0 + 1 < height ? width * 3 : 0;
  const wa = (1 - fx) * (1 - fy);
  const wb = fx * (1 - fy);
  const wc = (1 - fx) * fy;
  const wd = fx * fy;
  for (let c = 0; c < 3; c++) out[c] = wa * data[a + c] + wb * data[b + c] + wc * data[a + down + c] + wd * data[b + down + c];
}

/**
 * Reads fringe pixels a little denoised: the 3×3 mean of neighbours alike in luma, so that noise and the coarse
 * colour steps of JPEG with halved chroma are evened out and a hair is not.
 */
class FringeReader {
  readonly value = new Float32Array(3);
  private readonly table: Float32Array;
  private readonly scale: number;

  constructor(private readonly frame: EncodedRaster, sigma: number) {
    this.table = linearTable(frame.data);
    this.scale = 1 / (solver.similarity * sigma) ** 2;
  }

  read(x: number, y: number): void {
    const { width, height, channels, data } = this.frame;
    const { table, value } = this;
    const green = channels === 1 ? 0 : 1;
    const blue = channels === 1 ? 0 : 2;
    const centre = (y * width + x) * channels;
    const r0 = table[data[centre]];
    const g0 = table[data[centre + green]];
    const b0 = table[data[centre + blue]];
    const luma = 0.3 * r0 + 0.6 * g0 + 0.1 * b0;
    const scale = this.scale / (luma + 0.02);
    let r = r0;
    let g = g0;
    let b = b0;
    let total = 1;
    const top = y > 0 ? y - 1 : 0;
    const bottom = y < height - 1 ? y + 1 : y;
    const left = x > 0 ? x - 1 : 0;
    const right = x < width - 1 ? x + 1 : x;
    for (let yy = top; yy <= bottom; yy++) {
      for (let xx = left; xx <= right; xx++) {
        const i = (yy * width + xx) * channels;
        if (i === centre) continue;
        const rr = table[data[i]];
        const gg = table[data[i + green]];
        const bb = table[data[i + blue]];
        const d = 0.3 * rr + 0.6 * gg + 0.1 * bb - luma;
        const w = 1 / (1 + d * d * scale);
        const weight = 0.7 * w * w;
        r += weight * rr;
        g += weight * gg;
        b += weight * bb;
        total += weight;
      }
    }
    value[0] = r / total;
    value[1] = g / total;
    value[2] = b / total;
  }
}

/** The least-squares unmixing of one pixel against all candidates. */
class PixelSolver {
  /** Squared error of the best candidate in units of the noise, set by `coverage`. */
  bestError = 0;
  private readonly costs: Float64Array;
  private readonly solved: Float64Array;
  private readonly kappa: number;
  private readonly kappaNeutral: number;

  constructor(private readonly sigma: number, private readonly count: number) {
    this.kappa = (sigma / solver.brightnessReach) ** 2;
    this.kappaNeutral = this.kappa / 16;
    this.costs = new Float64Array(count + 1);
    this.solved = new Float64Array(count + 1);
  }

  /** Coverage 0–1 of the reading I over the screen B (both linear), candidates taken at reduced pixel `cell`. */
  coverage(I: Float32Array, B: Float32Array, candidates: readonly { data: Float32Array }[], cell: number): number {
    // Noise in linear light grows with level; each channel is weighted by what it can be trusted to.
    const w0 = 1 / (0.5 * (I[0] + B[0]) + 0.03);
    const w1 = 1 / (0.5 * (I[1] + B[1]) + 0.03);
    const w2 = 1 / (0.5 * (I[2] + B[2]) + 0.03);
    const BB = w0 * B[0] * B[0] + w1 * B[1] * B[1] + w2 * B[2] * B[2];
    const BI = w0 * B[0] * I[0] + w1 * B[1] * I[1] + w2 * B[2] * I[2];
    const II = w0 * I[0] * I[0] + w1 * I[1] * I[1] + w2 * I[2] * I[2];
    const inverse = 1 / (this.sigma * this.sigma);
    this.bestError = Infinity;
    let leastCost = Infinity;
    for (let k = 0; k <= this.count; k++) {
      const neutral = k === this.count;
      const data = neutral ? NEUTRAL : candidates[k].data;
      const o = neutral ? 0 : cell * 3;
      const F0 = data[o];
      const F1 = data[o + 1];
      const F2 = data[o + 2];
      const kappa = neutral ? this.kappaNeutral : this.kappa;
      const FF = w0 * F0 * F0 + w1 * F1 * F1 + w2 * F2 * F2 + kappa;
      const FB = w0 * F0 * B[0] + w1 * F1 * B[1] + w2 * F2 * B[2] + kappa;
      const FI = w0 * F0 * I[0] + w1 * F1 * I[1] + w2 * F2 * I[2] + kappa;
      const bb = BB + kappa;
      const bi = BI + kappa;
      const det = FF * bb - FB * FB;
      let u = det > 1e-12 ? (FF * bi - FB * FI) / det : 0;
      u = u < 0 ? 0 : u > 1 ? 1 : u;
      let t = (FI - u * FB) / FF;
      if (t < 0) t = 0;
      const residual = II + kappa - 2 * (t * FI + u * bi) + t * t * FF + 2 * t * u * FB + u * u * bb;
      const error = Math.max(0, residual) * inverse;
      if (error < this.bestError) this.bestError = error;
      const cost = error + (neutral ? solver.neutralCost : 0);
      if (cost < leastCost) leastCost = cost;
      this.costs[k] = cost;
      this.solved[k] = 1 - u;
    }
    let sum = 0;
    let total = 0;
    // Relative to the best, so that where none fits well the least bad still decides and not their average.
    for (let k = 0; k <= this.count; k++) {
      const weight = Math.exp(-0.5 * (this.costs[k] - leastCost));
      sum += weight * this.solved[k];
      total += weight;
    }
    return Math.max(sum / total, provenBy(I, B) - solver.provenSlack);
  }
}

/** Coverage that one channel alone proves, since a foreground lies in 0–1: a ≥ (I − B)/(1 − B) and a ≥ 1 − I/B. */
function provenBy(I: Float32Array, B: Float32Array): number {
  let bound = 0;
  for (let c = 0; c < 3; c++) {
    const b = B[c];
    if (b < 0.9) bound = Math.max(bound, (I[c] - b) / (1 - b));
    if (b > 0.06) bound = Math.max(bound, 1 - I[c] / b);
  }
  return bound;
}

const NEUTRAL = new Float32Array([0.4, 0.4, 0.4]);
