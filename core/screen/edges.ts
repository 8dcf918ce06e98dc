import { gaussianBlur } from '../image/boxBlur.ts';
import { lengthOf } from '../image/length.ts';
import { createPlane, type EncodedRaster, type Mask, whiteLevel } from '../image/raster.ts';
import { quantileOf } from './statistics.ts';

/** How soft the person's outline is at full size. */
export interface EdgeBlur {
  /**
   * Pixels from one fifth to four fifths of the way from screen to person, where it is sharpest whatever way it runs.
   */
  blur: number;
  /**
   * Width of a movement that would make outlines softer across one direction than across the other, pixels; undefined
   * where outlines run one way only.
   */
  smear?: number;
  /** Direction of that movement, degrees from level. */
  direction?: number;
  places: number;
}

const MOST_PLACES = 1500;
/** Pixels looked at on each side of the outline, beside the rounding of the reduced one. */
const REACH = 14;
/** Of all places the sharpest share speaks: hair and folds only ever make an edge softer. */
const SHARPEST = 0.25;
const DIRECTIONS = 6;
/** Places that a direction needs to count. */
const LEAST_PLACES = 5;
/** Places that have to be softer for a movement to be believed. */
const WITNESSES = 70;
const WITNESS_SHARE = 0.2;
/** What 20–80 % of an even movement is of its whole width. */
const RISE_OF_SMEAR = 0.6;

/**
 * Measures how quickly the picture changes from person to screen, across the person's outline, at places where both
 * sides are plain and the way between them is one step: cloth, skin, hats, not hair.
 * @param person 1 on the person, reduced by `factor`. @param clear 1 where the screen is plainly seen.
 */
export function edgeBlurOf(frame: EncodedRaster, person: Mask, clear: Mask, factor: number): EdgeBlur | undefined {
  const found = outlinePlaces(person, clear).flatMap(({ x, y, nx, ny }) => {
    const rise = riseAt(frame, (x + 0.5) * factor, (y + 0.5) * factor, nx, ny, Math.ceil(1.5 * factor) + REACH);
    return rise === undefined ? [] : [{ rise, turn: (Math.atan2(ny, nx) + Math.PI) % Math.PI }];
  });
  if (found.length < 12) return undefined;
  const bins = Array.from({ length: DIRECTIONS }, (_, n) =>
    found.filter(({ turn }) => Math.floor((turn / Math.PI) * DIRECTIONS) % DIRECTIONS === n).map(({ rise }) => rise),
  );
  const sharp = bins.map((rises) => (rises.length >= LEAST_PLACES ? quantileOf(rises, SHARPEST) : undefined));
  // One direction may be a sleeve's hem or a lock of hair: the least swing without one of them counts.
  const fits = [sharp, ...sharp.map((_, left) => sharp.map((rise, n) => (n === left ? undefined : rise)))].flatMap(
    (list) => fitDirections(list) ?? [],
  );
  const fit = fits.length ? fits.reduce((least, one) => (one.swing < least.swing ? one : least)) : undefined;
  const all = quantileOf(
    found.map(({ rise }) => rise),
    SHARPEST,
  );
  // What only a few places say is hair that lies over shoulders and head, not a movement.
  const witnesses = fit
    ? found.filter(({ turn }) => Math.abs(Math.cos(turn - (fit.direction * Math.PI) / 180)) > Math.SQRT1_2).length
    : 0;
  if (!fit || witnesses < Math.max(WITNESSES, WITNESS_SHARE * found.length)) return { blur: all, places: found.length };
  return {
    blur: Math.min(...sharp.flatMap((rise) => rise ?? [])),
    smear: Math.sqrt(2 * fit.swing) / RISE_OF_SMEAR,
    direction: fit.direction,
    places: found.length,
  };
}

/** Points of the person's outline with the screen beside them, and the unit normal inwards; evenly thinned out. */
function outlinePlaces(person: Mask, clear: Mask): { x: number; y: number; nx: number; ny: number }[] {
  const { width, height } = person;
  const plane = createPlane(width, height);
  for (let p = 0; p < plane.data.length; p++) plane.data[p] = person.data[p];
  const soft = gaussianBlur(plane, 2.5).data;
  const places: { x: number; y: number; nx: number; ny: number }[] = [];
  for (let y = 4; y < height - 4; y++) {
    for (let x = 4; x < width - 4; x++) {
      const p = y * width + x;
      if (
        !person.data[p] ||
        (person.data[p - 1] && person.data[p + 1] && person.data[p - width] && person.data[p + width])
      )
        continue;
      const gx = soft[p + 1] - soft[p - 1];
      const gy = soft[p + width] - soft[p - width];
      const length = lengthOf(gx, gy);
      // A faint slope is a strand or a speck, not a body.
      if (length < 0.16) continue;
      const nx = gx / length;
      const ny = gy / length;
      const ox = Math.round(x - nx * 4);
      const oy = Math.round(y - ny * 4);
      if (ox >= 0 && oy >= 0 && ox < width && oy < height && clear.data[oy * width + ox]) places.push({ x, y, nx, ny });
    }
  }
  const every = Math.max(1, places.length / MOST_PLACES);
  return Array.from({ length: Math.floor(places.length / every) }, (_, n) => places[Math.floor(n * every)]);
}

/** Unevenness, as a share of the step, up to which a side counts as plain, and a way as one step. */
const PLAIN = 0.1;
const RETURNS = 0.15;

/** Distance from one fifth to four fifths of the way from the outer to the inner colour, along (nx, ny) inwards. */
function riseAt(frame: EncodedRaster, x: number, y: number, nx: number, ny: number, reach: number): number | undefined {
  const { width, height, channels, data } = frame;
  const count = 2 * reach + 1;
  const line = new Float64Array(count * 3);
  for (let k = 0; k < count; k++) {
    // Three neighbours along the outline, so that noise counts less.
    for (let side = -1; side <= 1; side++) {
      const px = Math.round(x + nx * (k - reach) - ny * side);
      const py = Math.round(y + ny * (k - reach) + nx * side);
      if (px < 0 || py < 0 || px >= width || py >= height) return undefined;
      const i = (py * width + px) * channels;
      for (let c = 0; c < 3; c++) line[k * 3 + c] += data[i + c] / 3;
    }
  }
  const ends = new Float64Array(6);
  for (let c = 0; c < 3; c++) {
    ends[c] = medianOfFive(line, c);
    ends[3 + c] = medianOfFive(line, (count - 5) * 3 + c);
  }
  const [a0, a1, a2] = [ends[3] - ends[0], ends[4] - ends[1], ends[5] - ends[2]];
  const square = a0 * a0 + a1 * a1 + a2 * a2;
  if (Math.sqrt(square) < 0.12 * whiteLevel(frame)) return undefined;
  const share = new Float64Array(count);
  for (let k = 0, i = 0; k < count; k++, i += 3)
    share[k] = (a0 * (line[i] - ends[0]) + a1 * (line[i + 1] - ends[1]) + a2 * (line[i + 2] - ends[2])) / square;
  let low: number | undefined;
  let high: number | undefined;
  let returns = 0;
  for (let k = 1; k < count; k++) {
    const last = share[k - 1];
    const here = share[k];
    if (here < last) returns += last - here;
    if (low === undefined && here >= 0.2) low = k - 1 + (0.2 - last) / (here - last || 1);
    if (low !== undefined && high === undefined && here >= 0.8) high = k - 1 + (0.8 - last) / (here - last || 1);
  }
  if (low === undefined || high === undefined) return undefined;
  const rise = Math.max(0.3, high - low);
  // Beyond the step both sides must be plain, and noise alone makes the way go back a little at every pixel.
  const off = (from: number, to: number, level: number): number => {
    let most = 0;
    for (let k = Math.max(0, Math.round(from)); k <= Math.min(count - 1, Math.round(to)); k++)
      most = Math.max(most, Math.abs(share[k] - level));
    return most;
  };
  const noise = off(0, 4, 0) + off(count - 5, count - 1, 1);
  if (
    noise > 4 * PLAIN ||
    off(0, low - rise * 1.2, 0) > PLAIN + noise ||
    off(high + rise * 1.2, count - 1, 1) > 2 * PLAIN + noise
  )
    return undefined;
  return returns > RETURNS + noise * count * 0.2 ? undefined : rise;
}

/** Median of five values, three places apart. */
function medianOfFive(line: Float64Array, from: number): number {
  const values = Float64Array.of(line[from], line[from + 3], line[from + 6], line[from + 9], line[from + 12]);
  return values.sort()[2];
}

/** Least squares of rise² = mean + swing · cos 2(θ − direction) through the directions that have a value. */
function fitDirections(sharp: (number | undefined)[]): { mean: number; swing: number; direction: number } | undefined {
  const known = sharp.flatMap((rise, n) =>
    rise === undefined ? [] : [{ square: rise * rise, turn: ((n + 0.5) / sharp.length) * Math.PI }],
  );
  if (known.length < 3) return undefined;
  // Directions on one side only say nothing about the other.
  const apart = known.some((a) => known.some((b) => Math.abs(Math.sin(a.turn - b.turn)) > 0.86));
  if (!apart) return undefined;
  const rows = known.map(({ square, turn }) => ({ t: [1, Math.cos(2 * turn), Math.sin(2 * turn)], square }));
  const [mean, b, c] = solveThree(rows);
  return { mean, swing: Math.hypot(b, c), direction: ((Math.atan2(c, b) / 2) * 180) / Math.PI };
}

/** Normal equations of three unknowns by Cramer's rule; a little ridge keeps three directions solvable. */
function solveThree(rows: { t: number[]; square: number }[]): [number, number, number] {
  const m = [0, 1, 2].map((i) =>
    [0, 1, 2].map((j) => rows.reduce((sum, { t }) => sum + t[i] * t[j], 0) + (i === j && i > 0 ? 0.05 : 0)),
  );
  const r = [0, 1, 2].map((i) => rows.reduce((sum, { t, square }) => sum + t[i] * square, 0));
  const det = (a: number[][]): number =>
    a[0][0] * (a[1][1] * a[2][2] - a[1][2] * a[2][1]) -
    a[0][1] * (a[1][0] * a[2][2] - a[1][2] * a[2][0]) +
    a[0][2] * (a[1][0] * a[2][1] - a[1][1] * a[2][0]);
  const whole = det(m) || 1e-12;
  return [0, 1, 2].map((k) => det(m.map((row, i) => row.map((v, j) => (j === k ? r[i] : v)))) / whole) as [
    number,
    number,
    number,
  ];
}
