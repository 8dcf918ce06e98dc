export const solverBounds = {
  /** Least standard deviation that a reading is trusted to, in linear light weighted by level. */
  minSigma: 0.012,
  /** How far the brightness of the foreground may stray from its candidate (standard deviation, ratio). */
  brightnessReach: 0.6,
  /** How much coverage noise and an imperfect B may seem to prove. */
  provenSlack: 0.3,
  /** Extra cost of the neutral candidate, which fits nearly everything. */
  neutralCost: 5,
};

/** The least-squares unmixing of one pixel against all candidates. */
export class PixelSolver {
  /** Squared error of the best candidate in units of the noise, set by `coverage`. */
  bestError = 0;
  /** How far apart the answers of candidates lie that explain the pixel nearly as well, coverage; set by `coverage`. */
  apart = 0;
  private readonly costs: Float64Array;
  private readonly solved: Float64Array;
  private readonly kappa: number;
  private readonly kappaNeutral: number;

  constructor(private readonly sigma: number, private readonly count: number) {
    this.kappa = (sigma / solverBounds.brightnessReach) ** 2;
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
      const cost = error + (neutral ? solverBounds.neutralCost : 0);
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
    const mean = sum / total;
    let least = mean;
    let most = mean;
    for (let k = 0; k <= this.count; k++) {
      if (this.costs[k] - leastCost > NEARLY) continue;
      if (this.solved[k] < least) least = this.solved[k];
      if (this.solved[k] > most) most = this.solved[k];
    }
    this.apart = most - least;
    return Math.max(mean, provenBy(I, B) - solverBounds.provenSlack);
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

/** Costs that lie nearer than this are nearly the same. */
const NEARLY = 4;
const NEUTRAL = new Float32Array([0.4, 0.4, 0.4]);
