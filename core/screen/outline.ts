import type { LinearRaster, Mask } from '../image/raster.ts';
import { medianOf } from './statistics.ts';

export interface Point {
  x: number;
  y: number;
}
export type Side = 'left' | 'right' | 'top' | 'bottom';

/** Where the screen lies in the frame. */
export interface Outline {
  /** Corners, shares of the frame, from the top left clockwise: ready to be the setup's mask. */
  polygon: Point[];
  /** Widest strip that is not covered on each side, as a share of the frame's width (left, right) or height. */
  missing: Record<Side, number>;
  /** Share of the frame inside the polygon. */
  share: number;
}

export const bounds = {
  /** A strip narrower than this share of the frame's width is the rounding of the cloth, not a gap. */
  strip: 0.006,
  /** A line on which the screen begins later than this share of the frame is covered by somebody. */
  deepest: 0.8,
  /** How far lines may lie off the straight border: reduced pixels, and share of the frame across it. */
  straightCells: 2,
  straight: 0.008,
  /**
   * Least share of the lines that may speak, and of all lines, that must lie along it; of all, where nothing tells
   * who stands in the way.
   */
  speaking: 0.5,
  all: 0.2,
  allUnknown: 0.25,
  /** Least part of the side that the border must be seen along, from its first line to its last. */
  extent: 0.3,
  /** Share of all lines on which the screen may be seen beyond the border: shoulders curve down, no screen does. */
  seenBeyond: 0.03,
  /**
   * How far behind it, reduced pixels, the same must be seen all along, a rim or the wall behind that; and how
   * evenly: median deviation of the logarithm of light.
   */
  behind: [3, 8],
  same: 0.25,
  /** Steepest border, across over along. */
  slope: 0.08,
};

/**
 * The outline of the screen from where it is plainly seen. On each side the strip before the first screen pixel is
 * measured along every line. The screen ends there only if the strips end along one straight border: whoever stands in
 * the way, and may cover nearly a whole side, has no such edge.
 * @param clear 1 where the screen is plainly seen, in a reduced frame.
 * @param person 1 where somebody surely is, as large; lines that cross it say nothing.
 * @param frame the reduced frame itself, to see whether the same is behind the border all along it, as a wall is and
 * no person.
 * @param nearly the same as `clear` up to its ragged rim, for sides on which that alone tells of no border.
 */
export function outlineOf(clear: Mask, person?: Mask, frame?: LinearRaster, nearly?: Mask): Outline {
  const { width, height } = clear;
  const side = (lines: number, steps: number, at: (line: number, step: number) => number): Border => {
    const found = edge(lines, steps, clear, person, frame, at);
    return found === nowhere && nearly ? edge(lines, steps, nearly, person, frame, at) : found;
  };
  const left = side(height, width, (line, step) => line * width + step);
  const right = side(height, width, (line, step) => line * width + width - 1 - step);
  const top = side(width, height, (line, step) => step * width + line);
  const bottom = side(width, height, (line, step) => (height - 1 - step) * width + line);
  // Edges as x = a + b·y and y = a + b·x in shares; corners are where they meet.
  const l = { a: left.at / width, b: (left.slope * height) / width };
  const r = { a: 1 - right.at / width, b: (-right.slope * height) / width };
  const t = { a: top.at / height, b: (top.slope * width) / height };
  const b = { a: 1 - bottom.at / height, b: (-bottom.slope * width) / height };
  const meet = (vertical: { a: number; b: number }, level: { a: number; b: number }): Point => {
    const y = (level.a + level.b * vertical.a) / (1 - level.b * vertical.b);
    return { x: clamp(vertical.a + vertical.b * y), y: clamp(y) };
  };
  const polygon = [meet(l, t), meet(r, t), meet(r, b), meet(l, b)];
  const strip = (at: number, slope: number, lines: number, size: number): number => {
    const widest = Math.max(at, at + slope * lines) / size;
    return widest < bounds.strip ? 0 : Math.min(1, widest);
  };
  return {
    polygon,
    missing: {
      left: strip(left.at, left.slope, height, width),
      right: strip(right.at, right.slope, height, width),
      top: strip(top.at, top.slope, width, height),
      bottom: strip(bottom.at, bottom.slope, width, height),
    },
    share: areaOf(polygon),
  };
}

const clamp = (v: number): number => Math.max(0, Math.min(1, v));

interface Border {
  at: number;
  slope: number;
}
const nowhere: Border = { at: 0, slope: 0 };

/**
 * The straight border along the strips of all lines: `at` for line 0, `slope` per line; pixels. Both 0 where the
 * screen reaches the frame's edge.
 */
function edge(
  lines: number,
  steps: number,
  { data: clear }: Mask,
  person: Mask | undefined,
  frame: LinearRaster | undefined,
  at: (line: number, step: number) => number,
): Border {
  const found: [number, number][] = [];
  for (let line = 0; line < lines; line++) {
    let step = 0;
    let crossed = false;
    // Two in a row: a single speck is not the screen.
    for (; step < steps && !(clear[at(line, step)] && clear[at(line, Math.min(steps - 1, step + 1))]); step++)
      if (person?.data[at(line, step)]) crossed = true;
    if (step < steps * bounds.deepest && !crossed) found.push([line, step]);
  }
  if (found.length < 3) return nowhere;
  const reach = Math.max(bounds.straightCells, bounds.straight * steps);
  const border = straightest(lines, found, reach);
  const least = Math.max(bounds.speaking * found.length, (person ? bounds.all : bounds.allUnknown) * lines);
  const extent = border.along.length ? border.along[border.along.length - 1][0] - border.along[0][0] : 0;
  const seenBeyond = found.filter(([line, step]) => step < border.at + border.slope * line - reach).length;
  if (border.along.length < least || seenBeyond > bounds.seenBeyond * lines || extent < bounds.extent * lines)
    return nowhere;
  if (
    frame &&
    !bounds.behind.some((far) =>
      sameBehind(
        frame,
        border.along.flatMap(([line, step]) => (step >= far ? [at(line, step - far)] : [])),
      ),
    )
  )
    return nowhere;
  return { at: Math.max(0, border.at), slope: border.slope };
}

/** Whether the same light is seen at all the places but for a few. */
function sameBehind({ data }: LinearRaster, places: readonly number[]): boolean {
  return [0, 1, 2].every((c) => {
    const light = places.map((p) => Math.log(data[p * 3 + c] + DARK));
    const middle = medianOf(light);
    return !(medianOf(light.map((v) => Math.abs(v - middle))) > bounds.same);
  });
}
/** Light that all is seen through, so that black is black. */
const DARK = 0.01;

/** Places that pairs are taken from to find a border. */
const TRIED = 48;

/** The straight line that most of the strips' ends lie along, within `reach` steps. */
function straightest(
  lines: number,
  found: readonly [number, number][],
  reach: number,
): { at: number; slope: number; along: [number, number][] } {
  const every = Math.max(1, Math.floor(found.length / TRIED));
  const tried = found.filter((_, n) => n % every === 0);
  const lineOf = Float64Array.from(found, ([line]) => line);
  const stepOf = Float64Array.from(found, ([, step]) => step);
  const isAlong = (n: number, at: number, slope: number): boolean =>
    Math.abs(stepOf[n] - at - slope * lineOf[n]) <= reach;
  let most = 0;
  let [bestAt, bestSlope] = [0, 0];
  for (let a = 0; a < tried.length; a++) {
    for (let b = a; b < tried.length; b++) {
      const span = tried[b][0] - tried[a][0];
      const slope = span ? (tried[b][1] - tried[a][1]) / span : 0;
      if (Math.abs(slope) > bounds.slope) continue;
      const at = tried[a][1] - slope * tried[a][0];
      // Left as soon as it cannot be the best any more.
      let aside = 0;
      for (let n = 0; n < found.length && aside < found.length - most; n++) if (!isAlong(n, at, slope)) aside++;
      if (aside < found.length - most) [most, bestAt, bestSlope] = [found.length - aside, at, slope];
    }
  }
  const best = found.filter((_, n) => isAlong(n, bestAt, bestSlope));
  // Through the middles of both halves, where they lie far enough apart to say anything.
  const half = best.length >> 1;
  const middle = (part: readonly [number, number][], k: 0 | 1): number => medianOf(part.map((pair) => pair[k]));
  const early = best.slice(0, half);
  const late = best.slice(half);
  const span = early.length && late.length ? middle(late, 0) - middle(early, 0) : 0;
  const slope =
    span > lines * 0.2
      ? Math.max(-bounds.slope, Math.min(bounds.slope, (middle(late, 1) - middle(early, 1)) / span))
      : 0;
  return { at: medianOf(best.map(([line, step]) => step - slope * line)), slope, along: best };
}

function areaOf(polygon: Point[]): number {
  let twice = 0;
  polygon.forEach((p, n) => {
    const q = polygon[(n + 1) % polygon.length];
    twice += p.x * q.y - q.x * p.y;
  });
  return Math.abs(twice) / 2;
}

/** 1 inside the polygon. */
export function insideOf(polygon: Point[], width: number, height: number): Mask {
  const mask: Mask = { width, height, data: new Uint8Array(width * height) };
  for (let y = 0; y < height; y++) {
    const v = (y + 0.5) / height;
    const crossings = polygon.flatMap((p, n) => {
      const q = polygon[(n + 1) % polygon.length];
      return p.y <= v !== q.y <= v ? [p.x + ((v - p.y) / (q.y - p.y)) * (q.x - p.x)] : [];
    });
    crossings.sort((a, b) => a - b);
    for (let k = 0; k + 1 < crossings.length; k += 2)
      for (let x = Math.max(0, Math.round(crossings[k] * width)); x < Math.min(width, crossings[k + 1] * width); x++)
        mask.data[y * width + x] = 1;
  }
  return mask;
}
