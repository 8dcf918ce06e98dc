/** One total of minutes by hand with what was foreseen for it, cause by cause. */
export interface Observation {
  /** Minutes foreseen for each cause by the shipped coefficients. */
  foreseen: readonly number[];
  /** Minutes that were really spent. */
  spent: number;
  /** Over how many frames. */
  frames: number;
}

/** By how much a coefficient is to be multiplied, and how far that is known. */
export interface FittedFactor {
  factor: number;
  /** Standard deviation of the factor. */
  deviation: number;
  /** Observations in which the cause was foreseen to cost anything that counts. */
  seen: number;
}

export interface FitOptions {
  /** Standard deviation of a factor before anything is known. */
  prior: number;
  /** Spread of one frame’s minutes, in means. */
  frame: number;
}

/** Residuals beyond so many deviations count less, so that one odd evening does not bend all. */
const HUBER = 1.5;
/** No total is believed more exactly than this share: frames of a setup are alike. */
const COMMON = 0.06;
const ROUNDS = 40;
/** Factors lie between these. */
export const factorRange = { min: 0.05, max: 8 };
/** Share of a total below which a cause does not count as seen in it. */
const COUNTS = 0.02;

/**
 * Fits a factor to each coefficient of the forecast: least squares of what was spent by what was foreseen, robust
 * (Huber 1964, by reweighting) and held to 1 by a normal prior, so that a cause that was never met stays as it shipped
 * and one met once moves a little. Deviations are those of the posterior at its middle.
 */
export function fitFactors(
  observations: readonly Observation[],
  causes: number,
  { prior, frame }: FitOptions,
): FittedFactor[] {
  const factors = new Array<number>(causes).fill(1);
  let inverse = identity(causes, prior * prior);
  const rows = observations.filter(({ frames, foreseen }) => frames > 0 && foreseen.some((minutes) => minutes > 0));
  for (let round = 0; round < ROUNDS && rows.length; round++) {
    const normal = identity(causes, 1 / (prior * prior));
    const right = new Array<number>(causes).fill(1 / (prior * prior));
    for (const { foreseen, spent, frames } of rows) {
      const expected = foreseen.reduce((sum, minutes, i) => sum + minutes * factors[i], 0);
      const deviation = expected * Math.hypot(frame / Math.sqrt(frames), COMMON) || 1;
      const residual = Math.abs(spent - expected) / deviation;
      const weight = Math.min(1, HUBER / residual) / (deviation * deviation);
      for (let i = 0; i < causes; i++) {
        if (!foreseen[i]) continue;
        right[i] += weight * foreseen[i] * spent;
        for (let j = 0; j < causes; j++) normal[i][j] += weight * foreseen[i] * foreseen[j];
      }
    }
    inverse = inverted(normal);
    let moved = 0;
    for (let i = 0; i < causes; i++) {
      const found = inverse[i].reduce((sum, value, j) => sum + value * right[j], 0);
      const kept = Math.max(factorRange.min, Math.min(factorRange.max, found));
      // Half the way: the deviations above hang on the factors themselves.
      const next = (factors[i] + kept) / 2;
      moved = Math.max(moved, Math.abs(next - factors[i]));
      factors[i] = next;
    }
    if (moved < 1e-4) break;
  }
  return factors.map((factor, i) => ({
    factor,
    deviation: Math.sqrt(Math.max(0, inverse[i][i])),
    seen: rows.filter(({ foreseen }) => foreseen[i] > COUNTS * foreseen.reduce((sum, minutes) => sum + minutes, 0))
      .length,
  }));
}

function identity(size: number, value: number): number[][] {
  return Array.from({ length: size }, (_, i) => Array.from({ length: size }, (__, j) => (i === j ? value : 0)));
}

/** Inverse of a symmetric, positive definite matrix, by Gauss and Jordan; the prior keeps it from being singular. */
function inverted(matrix: readonly (readonly number[])[]): number[][] {
  const size = matrix.length;
  const left = matrix.map((row) => [...row]);
  const out = identity(size, 1);
  for (let column = 0; column < size; column++) {
    const pivot = left[column][column];
    for (let j = 0; j < size; j++) {
      left[column][j] /= pivot;
      out[column][j] /= pivot;
    }
    for (let row = 0; row < size; row++) {
      if (row === column) continue;
      const times = left[row][column];
      if (!times) continue;
      for (let j = 0; j < size; j++) {
        left[row][j] -= times * left[column][j];
        out[row][j] -= times * out[column][j];
      }
    }
  }
  return out;
}
