import type { Mask } from '../image/raster.ts';
import { quantileOf } from './statistics.ts';

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

/** A strip narrower than this share of the frame's width is the rounding of the cloth, not a gap. */
const LEAST_STRIP = 0.006;

/**
 * The outline of the screen from where it is plainly seen. On each side the strip before the first screen pixel is
 * measured along every line, and a straight edge laid through the narrow ones: a person or an arm only widens them.
 * @param clear 1 where the screen is plainly seen, in a reduced frame.
 */
export function outlineOf(clear: Mask): Outline {
  const { width, height, data } = clear;
  const left = edge(height, width, (line, step) => data[line * width + step]);
  const right = edge(height, width, (line, step) => data[line * width + width - 1 - step]);
  const top = edge(width, height, (line, step) => data[step * width + line]);
  const bottom = edge(width, height, (line, step) => data[(height - 1 - step) * width + line]);
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
    return widest < LEAST_STRIP ? 0 : Math.min(1, widest);
  };
  return {
    polygon,
    missing: { left: strip(left.at, left.slope, height, width), right: strip(right.at, right.slope, height, width), top: strip(top.at, top.slope, width, height), bottom: strip(bottom.at, bottom.slope, width, height) },
    share: areaOf(polygon),
  };
}

const clamp = (v: number): number => Math.max(0, Math.min(1, v));

/** A straight edge through the strips of all lines: `at` for line 0, `slope` per line; pixels. */
function edge(lines: number, steps: number, isClear: (line: number, step: number) => number): { at: number; slope: number } {
  const found: [number, number][] = [];
  for (let line = 0; line < lines; line++) {
    let step = 0;
    // Two in a row: a single speck is not the screen.
    while (step < steps && !(isClear(line, step) && isClear(line, Math.min(steps - 1, step + 1)))) step++;
    if (step < steps * 0.8) found.push([line, step]);
  }
  if (found.length < Math.max(3, lines * 0.08)) return { at: 0, slope: 0 };
  const lower = quantileOf(found.map(([, step]) => step), 0.2);
  // What lies much farther in is somebody in the way.
  const near = found.filter(([, step]) => step <= lower + steps * 0.05);
  const half = near.length >> 1;
  const early = near.slice(0, half);
  const late = near.slice(half);
  const middle = (part: [number, number][], k: 0 | 1): number => quantileOf(part.map((pair) => pair[k]), 0.5);
  const span = early.length && late.length ? middle(late, 0) - middle(early, 0) : 0;
  const slope = span > lines * 0.2 ? Math.max(-0.08, Math.min(0.08, (middle(late, 1) - middle(early, 1)) / span)) : 0;
  const at = quantileOf(near.map(([line, step]) => step - slope * line), 0.5);
  return { at: Math.max(0, at), slope };
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
    for (let k = 0; k + 1 < crossings.length; k += 2) for (let x = Math.max(0, Math.round(crossings[k] * width)); x < Math.min(width, crossings[k + 1] * width); x++) mask.data[y * width + x] = 1;
  }
  return mask;
}
