import { linearToSrgb, srgbToLinear } from '../colour/transfer.ts';

/** Curves over the whole picture: which tone becomes which, in all channels together and in each alone. */

/** Tones before and after, encoded as sRGB, 0–1. */
export interface CurvePoint {
  from: number;
  to: number;
}
export const curveChannels = { all: 'All', red: 'Red', green: 'Green', blue: 'Blue' } as const;
export type CurveChannel = keyof typeof curveChannels;
/** Each from its darkest point to its lightest, at least two; see `curvePoints`. */
export type Curves = Record<CurveChannel, CurvePoint[]>;

/** How many points a curve may have, and how far apart they are at least. */
export const curvePoints = { fewest: 2, most: 10, apart: 0.01 };
/** A curve that changes nothing. */
export const straight: readonly CurvePoint[] = [
  { from: 0, to: 0 },
  { from: 1, to: 1 },
];
export const straightCurves: Curves = {
  all: [...straight],
  red: [...straight],
  green: [...straight],
  blue: [...straight],
};

function isStraight(points: readonly CurvePoint[]): boolean {
  return points.every(({ from, to }) => from === to) && points[0].from === 0 && points[points.length - 1].from === 1;
}

export function areStraight(curves: Curves): boolean {
  return Object.values(curves).every(isStraight);
}

/**
 * A smooth curve through points that never turns back between two of them (Fritsch & Butland 1984); level before the
 * first and after the last.
 * @param points by rising `from`, at least two.
 */
export function curveThrough(points: readonly CurvePoint[]): (tone: number) => number {
  const last = points.length - 1;
  const steps = points.slice(1).map(({ from, to }, n) => {
    const wide = from - points[n].from;
    return { wide, slope: (to - points[n].to) / wide };
  });
  const slopes = points.map((_, n) => {
    const [before, after] = [steps[n - 1], steps[n]];
    if (!before || !after) return (before ?? after).slope;
    if (before.slope * after.slope <= 0) return 0;
    const [one, other] = [2 * after.wide + before.wide, after.wide + 2 * before.wide];
    return (one + other) / (one / before.slope + other / after.slope);
  });
  return (tone) => {
    if (tone <= points[0].from) return points[0].to;
    if (tone >= points[last].from) return points[last].to;
    const n = points.findLastIndex(({ from }) => from <= tone);
    const { wide } = steps[n];
    const t = (tone - points[n].from) / wide;
    // Cubic Hermite.
    return (
      (1 + 2 * t) * (1 - t) ** 2 * points[n].to +
      t * (1 - t) ** 2 * wide * slopes[n] +
      t ** 2 * (3 - 2 * t) * points[n + 1].to +
      t ** 2 * (t - 1) * wide * slopes[n + 1]
    );
  };
}

/** Places of the table that a curve is read from, closer together where it is dark. */
const PLACES = 4096;

/** A function that takes a linear colour through the curves, in place; what is lighter than white counts as white. */
export function curvesChanger({ all, ...channels }: Curves): (rgb: Float32Array) => void {
  const together = curveThrough(all);
  const tables = [channels.red, channels.green, channels.blue].map((points) => {
    const own = curveThrough(points);
    return Float32Array.from({ length: PLACES + 2 }, (_, n) => {
      const tone = linearToSrgb(Math.min(1, (n / PLACES) ** 2));
      return srgbToLinear(Math.min(1, Math.max(0, own(Math.min(1, Math.max(0, together(tone)))))));
    });
  });
  return (rgb) => {
    for (let c = 0; c < 3; c++) {
      const at = Math.sqrt(Math.min(1, Math.max(0, rgb[c]))) * PLACES;
      const n = at | 0;
      rgb[c] = tables[c][n] + (at - n) * (tables[c][n + 1] - tables[c][n]);
    }
  };
}
