export const solverBounds = {
  /** Least standard deviation that a reading is trusted to, in linear light weighted by level. */
  minSigma: 0.012,
  /** How far the brightness of the foreground may stray from its candidate (standard deviation, ratio). */
  brightnessReach: 0.6,
  /**
   * How much coverage may seem to be proven by a reading that is lighter than the screen, in standard deviations of a
   * reading: nothing is lighter than white.
   */
  lighterSigmas: 1.5,
  /** The same by one that is darker, coverage: shadows are too. */
  darkerSlack: 0.3,
  /** How much more the screen may be lit than it was thought to be, a hot place or a crease. */
  mostLit: 1.3,
  /** Extra cost of the neutral candidate, which fits nearly everything. */
  neutralCost: 5,
  /** Extra cost of two candidates over each other with no screen between, as strands before a face. */
  pairCost: 8,
};

/** Standard deviation of a reading that a solver reckons with. @param noise of the screen, as a share of its level. */
export function sigmaOf(noise: number): number {
  return Math.max(solverBounds.minSigma, NOISE_MULTIPLE * noise);
}
/** In linear light noise is 2.2 times what it is as encoded, relative to the level. */
const NOISE_MULTIPLE = 2.2;

/** What both solvers start from. @param sigma standard deviation of a reading. */
export function solverNumbers(sigma: number): {
  inverse: number;
  kappa: number;
  kappaNeutral: number;
  neutralCost: number;
  pairCost: number;
  lighterSlack: number;
  darkerSlack: number;
  mostLit: number;
} {
  const kappa = (sigma / solverBounds.brightnessReach) ** 2;
  const { neutralCost, pairCost, lighterSigmas, darkerSlack, mostLit } = solverBounds;
  return {
    inverse: f(1 / (sigma * sigma)),
    kappa: f(kappa),
    kappaNeutral: f(kappa / 16),
    neutralCost,
    pairCost,
    lighterSlack: f(lighterSigmas * sigma),
    darkerSlack: f(darkerSlack),
    mostLit: f(mostLit),
  };
}

const f = Math.fround;

/**
 * The least-squares unmixing of one pixel against all candidates, in single precision: the same operations in the same
 * order as core/kernels/assembly/rows.ts, which does four pixels at a time.
 */
export class PixelSolver {
  /** Squared error of the best candidate in units of the noise, set by `coverage`. */
  bestError = 0;
  /** How far apart the answers of candidates lie that explain the pixel nearly as well, coverage; set by `coverage`. */
  apart = 0;
  private readonly costs: Float32Array;
  private readonly solved: Float32Array;
  private readonly numbers: ReturnType<typeof solverNumbers>;

  constructor(
    sigma: number,
    private readonly count: number,
  ) {
    this.numbers = solverNumbers(sigma);
    this.costs = new Float32Array(count + 3);
    this.solved = new Float32Array(count + 3);
  }

  /** Coverage 0–1 of the reading I over the screen B (both linear), candidates taken at reduced pixel `cell`. */
  coverage(I: Float32Array, B: Float32Array, candidates: readonly { data: Float32Array }[], cell: number): number {
    const { count, costs, solved } = this;
    const { inverse, kappa, kappaNeutral, neutralCost, pairCost, lighterSlack, darkerSlack, mostLit } = this.numbers;
    const I0 = I[0];
    const I1 = I[1];
    const I2 = I[2];
    const B0 = B[0];
    const B1 = B[1];
    const B2 = B[2];
    // Noise in linear light grows with level; each channel is weighted by what it can be trusted to.
    const w0 = f(1 / f(f(0.5 * f(I0 + B0)) + FLARE));
    const w1 = f(1 / f(f(0.5 * f(I1 + B1)) + FLARE));
    const w2 = f(1 / f(f(0.5 * f(I2 + B2)) + FLARE));
    const wB0 = f(w0 * B0);
    const wB1 = f(w1 * B1);
    const wB2 = f(w2 * B2);
    const BB = f(f(f(wB0 * B0) + f(wB1 * B1)) + f(wB2 * B2));
    const BI = f(f(f(wB0 * I0) + f(wB1 * I1)) + f(wB2 * I2));
    const II = f(f(f(f(w0 * I0) * I0) + f(f(w1 * I1) * I1)) + f(f(w2 * I2) * I2));
    let bestError = Infinity;
    let leastCost = Infinity;
    for (let k = 0; k <= count; k++) {
      const neutral = k === count;
      const data = neutral ? NEUTRAL : candidates[k].data;
      const o = neutral ? 0 : cell * 3;
      const F0 = data[o];
      const F1 = data[o + 1];
      const F2 = data[o + 2];
      const K = neutral ? kappaNeutral : kappa;
      const wF0 = f(w0 * F0);
      const wF1 = f(w1 * F1);
      const wF2 = f(w2 * F2);
      const FF = f(f(f(f(wF0 * F0) + f(wF1 * F1)) + f(wF2 * F2)) + K);
      const FB = f(f(f(f(wF0 * B0) + f(wF1 * B1)) + f(wF2 * B2)) + K);
      const FI = f(f(f(f(wF0 * I0) + f(wF1 * I1)) + f(wF2 * I2)) + K);
      const bb = f(BB + K);
      const bi = f(BI + K);
      const whole = f(FF * bb);
      const det = f(whole - f(FB * FB));
      // Where F and B are one colour nothing tells them apart, and all is taken for F.
      let u = det > f(whole * SAME) ? f(f(f(FF * bi) - f(FB * FI)) / det) : 0;
      u = Math.min(1, Math.max(0, u));
      // The best t for this u is rest/FF, none if that is negative; put in, the residual needs it only squared.
      const rest = Math.max(0, f(FI - f(u * FB)));
      const residual = f(f(f(f(II + K) - f(f(u + u) * bi)) + f(f(u * u) * bb)) - f(f(rest * rest) / FF));
      const error = f(Math.max(0, residual) * inverse);
      bestError = Math.min(bestError, error);
      const cost = neutral ? f(error + neutralCost) : error;
      leastCost = Math.min(leastCost, cost);
      costs[k] = cost;
      solved[k] = 1 - u;
    }
    // The nearest colour over the average one, and grey over the average: all are the person, so where they explain a
    // pixel it is solid.
    const average = candidates[count - 1].data;
    for (let k = 0; k < 2; k++) {
      const D = k ? NEUTRAL : candidates[0].data;
      const o = k ? 0 : cell * 3;
      const D0 = D[o];
      const D1 = D[o + 1];
      const D2 = D[o + 2];
      const E0 = average[cell * 3];
      const E1 = average[cell * 3 + 1];
      const E2 = average[cell * 3 + 2];
      const wD0 = f(w0 * D0);
      const wD1 = f(w1 * D1);
      const wD2 = f(w2 * D2);
      const wE0 = f(w0 * E0);
      const wE1 = f(w1 * E1);
      const wE2 = f(w2 * E2);
      const DD = f(f(f(f(wD0 * D0) + f(wD1 * D1)) + f(wD2 * D2)) + kappa);
      const DE = f(f(f(f(wD0 * E0) + f(wD1 * E1)) + f(wD2 * E2)) + kappa);
      const DI = f(f(f(f(wD0 * I0) + f(wD1 * I1)) + f(wD2 * I2)) + kappa);
      const EE = f(f(f(f(wE0 * E0) + f(wE1 * E1)) + f(wE2 * E2)) + kappa);
      const EI = f(f(f(f(wE0 * I0) + f(wE1 * I1)) + f(wE2 * I2)) + kappa);
      const area = f(DD * EE);
      const apart = f(area - f(DE * DE));
      const d = f(f(EE * DI) - f(DE * EI));
      const e = f(f(DD * EI) - f(DE * DI));
      const error =
        apart > f(area * SAME_PAIR) && d > 0 && e > 0
          ? f(Math.max(0, f(f(II + kappa) - f(f(f(d * DI) + f(e * EI)) / apart))) * inverse)
          : FAR;
      bestError = Math.min(bestError, error);
      const cost = f(error + f(k ? f(neutralCost + pairCost) : pairCost));
      leastCost = Math.min(leastCost, cost);
      costs[count + 1 + k] = cost;
      solved[count + 1 + k] = 1;
    }
    let sum = 0;
    let total = 0;
    let low = 1;
    let high = 0;
    // Relative to the best, so that where none fits well the least bad still decides and not their average.
    for (let k = 0; k <= count + 2; k++) {
      const worse = f(costs[k] - leastCost);
      const a = solved[k];
      const weight = weightOf(worse);
      sum = f(sum + f(weight * a));
      total = f(total + weight);
      if (worse > NEARLY) continue;
      low = Math.min(low, a);
      high = Math.max(high, a);
    }
    const mean = Math.min(1, f(sum / total));
    this.bestError = bestError;
    // The mean itself counts among the answers: far ones may have drawn it away.
    this.apart = f(Math.max(high, mean) - Math.min(low, mean));
    // Where a screen is lit more than it was thought to be, all its channels are; its strongest tells by how much.
    const strongest = Math.max(Math.max(B0, B1), B2);
    const there = B0 === strongest ? I0 : B1 === strongest ? I1 : I2;
    const lit = Math.min(mostLit, Math.max(1, f(there / Math.max(strongest, DARKEST))));
    const proven = (reading: number, back: number): number =>
      provenBy(reading, back, f(lit * back), lighterSlack, darkerSlack);
    return Math.max(mean, Math.max(Math.max(proven(I0, B0), proven(I1, B1)), proven(I2, B2)));
  }

  /**
   * Foreground colour F of a reading I = a·F + (1−a)·B whose coverage `a` (above 0) is known, into `out`: the candidate
   * that explains it best, as bright as the reading asks for; and what the reading itself leaves, the more the
   * candidate misses it by more than the noise.
   */
  foreground(
    I: Float32Array,
    B: Float32Array,
    a: number,
    candidates: readonly { data: Float32Array }[],
    cell: number,
    out: Float32Array,
  ): void {
    const { inverse, kappa } = this.numbers;
    const through = f(1 - a);
    const w0 = f(1 / f(f(0.5 * f(I[0] + B[0])) + FLARE));
    const w1 = f(1 / f(f(0.5 * f(I[1] + B[1])) + FLARE));
    const w2 = f(1 / f(f(0.5 * f(I[2] + B[2])) + FLARE));
    const r0 = f(I[0] - f(through * B[0]));
    const r1 = f(I[1] - f(through * B[1]));
    const r2 = f(I[2] - f(through * B[2]));
    const wr0 = f(w0 * r0);
    const wr1 = f(w1 * r1);
    const wr2 = f(w2 * r2);
    const prior = f(kappa * a);
    const whole = f(f(f(f(wr0 * r0) + f(wr1 * r1)) + f(wr2 * r2)) + f(prior * a));
    let least = Infinity;
    let F0 = 0;
    let F1 = 0;
    let F2 = 0;
    for (let k = 0; k < this.count; k++) {
      const { data } = candidates[k];
      const o = cell * 3;
      const C0 = data[o];
      const C1 = data[o + 1];
      const C2 = data[o + 2];
      const CC = f(f(f(f(f(w0 * C0) * C0) + f(f(w1 * C1) * C1)) + f(f(w2 * C2) * C2)) + kappa);
      const Cr = Math.max(0, f(f(f(f(wr0 * C0) + f(wr1 * C1)) + f(wr2 * C2)) + prior));
      const t = f(Cr / CC);
      const error = f(whole - f(t * Cr));
      if (error >= least) continue;
      least = error;
      F0 = f(t * C0);
      F1 = f(t * C1);
      F2 = f(t * C2);
    }
    const own = smooth(f(f(Math.max(0, least) * inverse) * OWN));
    const gain = f(1 / a);
    out[0] = blend(f(F0 * gain), f(r0 * gain), own);
    out[1] = blend(f(F1 * gain), f(r1 * gain), own);
    out[2] = blend(f(F2 * gain), f(r2 * gain), own);
  }
}

/** Between two colours limited to 0–1. */
function blend(a: number, b: number, share: number): number {
  const from = Math.min(1, a);
  return f(from + f(share * f(Math.min(1, Math.max(0, b)) - from)));
}

function smooth(t: number): number {
  const c = Math.min(1, t);
  return f(f(c * c) * f(3 - f(2 * c)));
}

/** About exp(−worse/2), as (1 + worse/64)⁻³², which is the same on every machine. */
function weightOf(worse: number): number {
  let weight = f(1 / f(1 + f(worse * 0.015625)));
  for (let n = 0; n < 5; n++) weight = f(weight * weight);
  return weight;
}

/**
 * Coverage that one channel alone proves, since a foreground lies in 0–1: a ≥ (I − B)/(1 − B) and a ≥ 1 − I/B.
 * @param lit B as it may be lit at most.
 * @param lighterSlack, darkerSlack how much of it is not believed.
 */
function provenBy(I: number, B: number, lit: number, lighterSlack: number, darkerSlack: number): number {
  if (I > lit) return lit < BRIGHT ? f(f(f(I - lit) / f(1 - lit)) - lighterSlack) : 0;
  return B > DIM && B > I ? f(f(f(B - I) / B) - darkerSlack) : 0;
}

const FLARE = f(0.03);
/** Below this share of its terms the determinant is rounding. */
const SAME = f(1e-6);
/** Two candidates nearer to each other than this explain nothing together. */
const SAME_PAIR = f(1e-3);
/** The error of what is not possible. */
const FAR = f(1e6);
/** Screens brighter and dimmer than this prove nothing. */
const BRIGHT = f(0.9);
const DIM = f(0.06);
const DARKEST = f(1e-4);
/** Costs that lie nearer than this are nearly the same. */
const NEARLY = 4;
/** One over the error, in units of the noise, from which a reading's own colour is believed alone. */
const OWN = 1 / 32;
const NEUTRAL = new Float32Array([0.4, 0.4, 0.4]);
