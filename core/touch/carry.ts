import { whiteLevel, type EncodedRaster } from '../image/raster.ts';
import { reductionFactor } from '../image/reduce.ts';
import type { Path } from './touch.ts';

/**
 * A touch carried to another frame of the same person: what lies around it is looked for there by the picture itself
 * (normalised correlation of lightness and two colour differences, from coarse to fine, a little turned and scaled too).
 */

/** Where a touch belongs on another frame. */
export interface Carried {
  line: Path;
  /** By how much it is larger there. */
  scale: number;
  /** How sure it is, 0–1. */
  sure: number;
}

/** From here on it is laid on unless somebody says no. */
export const SURE = 0.6;

/** Most pixels that frames are compared at. */
const PIXELS = 400_000;
/** Room around a touch that is looked for with it, and the least side of that; shares of the frame's height. */
const AROUND = 0.035;
const LEAST_SIDE = 0.1;
/** Longer side of what is looked for at first, pixels. */
const COARSE = 22;
/** So many times twice as fine it becomes. */
const FINER = 2;
/** Places that are followed from there. */
const FOLLOWED = 6;
const TURNS = [-0.24, -0.12, 0, 0.12, 0.24];
const SCALES = [0.86, 0.93, 1, 1.08, 1.16];
/** Correlation that says nothing, and that of the same thing again. */
const UNLIKE = 0.45;
const ALIKE = 0.9;
/** A second place that is so much less like is no rival. */
const RIVAL = 0.12;
/** Standard deviation of lightness (0–1) below which there is nothing to know a place by. */
const PLAIN = 0.012;

/** Lightness and two colour differences of a picture, one plane after the other. */
interface Field {
  width: number;
  height: number;
  planes: readonly Float32Array[];
}

/** The frame that touches are carried from or to, made ready once for all of them. */
export interface Comparable {
  /** The largest first, each half as large as the one before. */
  levels: Field[];
}

/** @param picture of one or three channels; at another size than the other frame's it is brought near to it. */
export function comparable(picture: EncodedRaster): Comparable {
  const levels = [fieldOf(picture)];
  while (Math.min(levels[0].width, levels[0].height) > 0 && levels.length < 6) {
    const last = levels[levels.length - 1];
    if (Math.min(last.width, last.height) < 2 * COARSE) break;
    levels.push(halved(last));
  }
  return { levels };
}

/**
 * @param size width of the touch's stroke, share of the frame's height.
 * @returns undefined if the place does not show enough to be known again.
 */
export function carried(line: Path, size: number, from: Comparable, to: Comparable): Carried | undefined {
  const [finest] = from.levels;
  const box = boxAround(line, size, finest);
  const longer = Math.max(box.right - box.left, box.bottom - box.top);
  const level = Math.max(
    0,
    Math.min(Math.round(Math.log2(longer / COARSE)), from.levels.length - 1, to.levels.length - 1),
  );
  const centre = { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 };
  const half = { x: (box.right - box.left) / 2, y: (box.bottom - box.top) / 2 };
  const wanted = patchOf(from.levels[level], 2 ** -level, centre, half, STRAIGHT);
  if (!wanted || wanted.deviation < PLAIN) return undefined;
  const places = everywhere(wanted, to.levels[level], level).map((place) =>
    best(from.levels[level], to.levels[level], level, centre, half, place, TURNS, SCALES, 2),
  );
  places.sort((a, b) => b.like - a.like);
  const first = places[0];
  if (!first) return undefined;
  let found = first;
  for (let finer = level - 1; finer >= Math.max(0, level - FINER); finer--)
    found = best(from.levels[finer], to.levels[finer], finer, centre, half, found, NEAR_TURNS, NEAR_SCALES, 2);
  const apart = Math.max(half.x, half.y);
  const rival = places.find(({ x, y }) => Math.hypot(x - first.x, y - first.y) > apart);
  const clear = rival ? Math.min(1, Math.max(0, (first.like - rival.like) / RIVAL)) : 1;
  const like = Math.min(1, Math.max(0, (Math.min(first.like, found.like + 0.1) - UNLIKE) / (ALIKE - UNLIKE)));
  return { line: moved(line, centre, found, from.levels[0], to.levels[0]), scale: found.scale, sure: like * clear };
}

interface Pose {
  turn: number;
  scale: number;
}
interface Found extends Pose {
  /** Centre, pixels of the finest level. */
  x: number;
  y: number;
  /** Correlation, −1…1. */
  like: number;
}
const STRAIGHT: Pose = { turn: 0, scale: 1 };
const NEAR_TURNS = [-0.05, 0, 0.05];
const NEAR_SCALES = [0.97, 1, 1.03];

function fieldOf(picture: EncodedRaster): Field {
  const { channels, data } = picture;
  const factor = reductionFactor(picture.width, picture.height, PIXELS);
  const width = Math.floor(picture.width / factor);
  const height = Math.floor(picture.height / factor);
  const white = whiteLevel(picture);
  const planes = [0, 1, 2].map(() => new Float32Array(width * height));
  const [green, blue] = channels === 1 ? [0, 0] : [1, 2];
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      let [r, g, b] = [0, 0, 0];
      for (let yy = y * factor; yy < (y + 1) * factor; yy++)
        for (let xx = x * factor; xx < (x + 1) * factor; xx++) {
          const i = (yy * picture.width + xx) * channels;
          r += data[i];
          g += data[i + green];
          b += data[i + blue];
        }
      const n = white * factor * factor;
      planes[0][p] = (r + g + b) / (3 * n);
      planes[1][p] = (r - g) / (2 * n);
      planes[2][p] = (b - g) / (2 * n);
    }
  return { width, height, planes };
}

function halved({ width, height, planes }: Field): Field {
  const [across, down] = [width >> 1, height >> 1];
  return {
    width: across,
    height: down,
    planes: planes.map((plane) => {
      const out = new Float32Array(across * down);
      for (let y = 0, p = 0; y < down; y++)
        for (let x = 0; x < across; x++, p++) {
          const i = 2 * y * width + 2 * x;
          out[p] = (plane[i] + plane[i + 1] + plane[i + width] + plane[i + width + 1]) / 4;
        }
      return out;
    }),
  };
}

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** The part of a picture that a touch is known again by, pixels of the field. */
function boxAround({ points }: Path, size: number, { width, height }: Field): Box {
  const room = Math.max(AROUND, size) * height;
  const xs = points.map(({ x }) => x * width);
  const ys = points.map(({ y }) => y * height);
  const side = (least: number, most: number): [number, number] => {
    const more = Math.max(room, (LEAST_SIDE * height - (most - least)) / 2);
    return [least - more, most + more];
  };
  const [left, right] = side(Math.min(...xs), Math.max(...xs));
  const [top, bottom] = side(Math.min(...ys), Math.max(...ys));
  return {
    left: Math.max(0, left),
    top: Math.max(0, top),
    right: Math.min(width, right),
    bottom: Math.min(height, bottom),
  };
}

interface Patch {
  /** Pixels to each side of its middle. */
  across: number;
  down: number;
  /** Values without their mean, plane after plane. */
  values: Float32Array;
  /** Length of `values`, and standard deviation of its lightness. */
  length: number;
  deviation: number;
}

/**
 * What a field shows around a place, as if it were turned and scaled; what lies outside is taken from its border.
 * @param unit pixels of the field to one of the finest.
 */
function patchOf(
  field: Field,
  unit: number,
  centre: { x: number; y: number },
  half: { x: number; y: number },
  { turn, scale }: Pose,
): Patch | undefined {
  const across = Math.max(2, Math.round(half.x * unit));
  const down = Math.max(2, Math.round(half.y * unit));
  const [w, h] = [2 * across + 1, 2 * down + 1];
  const values = new Float32Array(3 * w * h);
  const [cos, sin] = [scale * Math.cos(turn), scale * Math.sin(turn)];
  field.planes.forEach((plane, c) => {
    let sum = 0;
    const at = c * w * h;
    for (let v = -down, k = at; v <= down; v++)
      for (let u = -across; u <= across; u++, k++) {
        const value = bilinear(plane, field, centre.x * unit + cos * u - sin * v, centre.y * unit + sin * u + cos * v);
        values[k] = value;
        sum += value;
      }
    for (let k = at; k < at + w * h; k++) values[k] -= sum / (w * h);
  });
  const square = (from: number, to: number): number => {
    let sum = 0;
    for (let k = from; k < to; k++) sum += values[k] * values[k];
    return sum;
  };
  const length = Math.sqrt(square(0, values.length));
  if (!(length > 0)) return undefined;
  return { across, down, values, length, deviation: Math.sqrt(square(0, w * h) / (w * h)) };
}

/** Value at a place in pixels, whose middles are at halves. */
function bilinear(plane: Float32Array, { width, height }: Field, x: number, y: number): number {
  const px = Math.min(width - 1, Math.max(0, x - 0.5));
  const py = Math.min(height - 1, Math.max(0, y - 0.5));
  const [x0, y0] = [Math.floor(px), Math.floor(py)];
  const [fx, fy] = [px - x0, py - y0];
  const right = x0 < width - 1 ? 1 : 0;
  const i = y0 * width + x0;
  const j = y0 < height - 1 ? i + width : i;
  return (plane[i] * (1 - fx) + plane[i + right] * fx) * (1 - fy) + (plane[j] * (1 - fx) + plane[j + right] * fx) * fy;
}

/** The places of a field that a patch is most like, best first, none of them beside a better one. */
function everywhere(wanted: Patch, field: Field, level: number): Found[] {
  const { across, down, values } = wanted;
  const [w, h] = [2 * across + 1, 2 * down + 1];
  const { width, height, planes } = field;
  const like = new Float32Array(width * height).fill(-1);
  // Somebody at the frame's edge may be cut off a little more there.
  const [inX, inY] = [across >> 1, down >> 1];
  for (let y = inY; y < height - inY; y++)
    for (let x = inX; x < width - inX; x++) {
      let product = 0;
      let square = 0;
      for (let c = 0; c < 3; c++) {
        const plane = planes[c];
        let sum = 0;
        let own = 0;
        for (let v = 0, k = c * w * h; v < h; v++) {
          const yy = Math.min(height - 1, Math.max(0, y + v - down)) * width;
          for (let u = 0; u < w; u++, k++) {
            const value = plane[yy + Math.min(width - 1, Math.max(0, x + u - across))];
            sum += value;
            own += value * value;
            product += values[k] * value;
          }
        }
        square += own - (sum * sum) / (w * h);
      }
      // The patch has no mean of its own, so that of the place falls out of the product.
      like[y * width + x] = square > 0 ? product / (wanted.length * Math.sqrt(square)) : -1;
    }
  const found: Found[] = [];
  const unit = 2 ** level;
  while (found.length < FOLLOWED) {
    let at = -1;
    for (let p = 0; p < like.length; p++) if (like[p] > (at < 0 ? -1 : like[at])) at = p;
    if (at < 0) break;
    const [x, y] = [at % width, Math.floor(at / width)];
    found.push({ x: (x + 0.5) * unit, y: (y + 0.5) * unit, like: like[at], ...STRAIGHT });
    const [aside, above] = [Math.max(2, across >> 1), Math.max(2, down >> 1)];
    for (let yy = Math.max(0, y - above); yy <= Math.min(height - 1, y + above); yy++)
      like.fill(-1, yy * width + Math.max(0, x - aside), yy * width + Math.min(width, x + aside + 1));
  }
  return found;
}

/** The best of some poses and places near by. @param reach pixels of the level to each side. */
function best(
  from: Field,
  to: Field,
  level: number,
  centre: { x: number; y: number },
  half: { x: number; y: number },
  start: Found,
  turns: readonly number[],
  scales: readonly number[],
  reach: number,
): Found {
  const unit = 2 ** level;
  const wanted = patchOf(from, 1 / unit, centre, half, STRAIGHT);
  let found: Found = { ...start, like: -1 };
  if (!wanted) return found;
  const likeness = (pose: Omit<Found, 'like'>): void => {
    const there = patchOf(to, 1 / unit, pose, half, pose);
    if (!there) return;
    let product = 0;
    for (let k = 0; k < wanted.values.length; k++) product += wanted.values[k] * there.values[k];
    const like = product / (wanted.length * there.length);
    if (like > found.like) found = { ...pose, like };
  };
  // First where, then how turned and scaled, then where again.
  const places = (): void => {
    const { x, y, turn, scale } = found;
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) likeness({ x: x + dx * unit, y: y + dy * unit, turn, scale });
  };
  places();
  const { x, y } = found;
  for (const turn of turns)
    for (const scale of scales) likeness({ x, y, turn: start.turn + turn, scale: start.scale * scale });
  places();
  return found;
}

/** A line where it belongs on the other frame. */
function moved({ closed, points }: Path, centre: { x: number; y: number }, found: Found, from: Field, to: Field): Path {
  const [cos, sin] = [found.scale * Math.cos(found.turn), found.scale * Math.sin(found.turn)];
  const held = (v: number): number => Math.min(1, Math.max(0, v));
  return {
    closed,
    points: points.map(({ x, y, pressure }) => {
      const u = x * from.width - centre.x;
      const v = y * from.height - centre.y;
      return {
        x: held((found.x + cos * u - sin * v) / to.width),
        y: held((found.y + sin * u + cos * v) / to.height),
        pressure,
      };
    }),
  };
}
