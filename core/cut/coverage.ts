/** Coverage of every full-size pixel, 0–65535, before floor and ceiling; and how well the fringe was explained. */
export interface Matte {
  width: number;
  height: number;
  alpha: Uint16Array;
  /** As it was solved, where settings or a hand have changed it since: by that colours are unmixed. */
  solved?: Uint16Array;
  /** Number of fringe pixels. */
  fringePixels: number;
  /** Share of fringe pixels that no candidate explains within three times the noise. */
  unexplained: number;
  /** How sure the solving was, place by place. */
  tiles: Tiles;
}

/** Sums over squares of the frame, rows from the top. */
export interface Tiles {
  across: number;
  down: number;
  /**
   * Fringe pixels, those that no candidate explains, and how far apart the candidates' answers lie (coverage, summed).
   */
  fringe: Float64Array;
  unexplained: Float64Array;
  apart: Float64Array;
}

/**
 * How coverage is spread: number of pixels in each of `bins` equal steps from none to full. What is plainly clear or
 * solid tells nothing and is left out.
 */
export function coverageHistogram({ alpha }: Pick<Matte, 'alpha'>, bins: number): number[] {
  const counts = new Array<number>(bins).fill(0);
  const toBin = bins / 65536;
  for (let p = 0; p < alpha.length; p++) if (alpha[p] > 0 && alpha[p] < 65535) counts[(alpha[p] * toBin) | 0]++;
  return counts;
}
