import { boxBlur } from '../image/boxBlur.ts';
import { coverRow } from '../image/polygon.ts';
import { smoothstep } from '../image/smoothstep.ts';
import { STRAND_WIDTH, strandLights, strandsOf, type Strand } from './strands.ts';
import type { PathPoint, Stroke } from './touch.ts';

/** How far a stroke reaches, 0–255, within the box around it. */
export interface Stamp {
  left: number;
  top: number;
  width: number;
  height: number;
  data: Uint8Array;
}

/** Even the finest stroke is so wide, pixels, and fades over so many. */
const LEAST_RADIUS = 0.5;
const SMOOTH = 1;
/** A strand fades over this share of its half width. */
const STRAND_SOFTNESS = 0.8;

/**
 * A stroke on a picture of a size, its strength left out. Where it passes over a place twice it is no stronger.
 * @returns undefined if it lies outside.
 */
export function stampOf(
  { line, size, softness }: Pick<Stroke, 'line' | 'size' | 'softness'>,
  width: number,
  height: number,
): Stamp | undefined {
  const radius = Math.max(LEAST_RADIUS, (size * height) / 2);
  const reach = line.closed ? Math.ceil(softness * radius) : radius + SMOOTH;
  const stamp = boxOf(line.points, reach, width, height);
  if (!stamp) return undefined;
  if (line.closed) fillZone(stamp, line.points, softness * radius, width, height);
  else
    for (const [from, to] of legsOf(line.points))
      drawLeg(stamp, pixelOf(from, width, height), pixelOf(to, width, height), radius, softness);
  return stamp;
}

/** What a stroke reaches, with how light that is beside the colour that the stroke gives; strands are of several lights. */
export interface LitStamp {
  stamp: Stamp;
  light: number;
}

/** The stamps of a stroke of any kind. */
export function stampsOf(stroke: Stroke, width: number, height: number): LitStamp[] {
  if (stroke.kind === 'strand') {
    const strands = strandsOf(stroke, width / height);
    return strandLights.flatMap((light) => {
      const alike = strands.filter((strand) => strand.light === light);
      const stamp = strandStamp(alike, width, height);
      return stamp ? [{ stamp, light }] : [];
    });
  }
  const stamp = stampOf(stroke, width, height);
  return stamp ? [{ stamp, light: 1 }] : [];
}

/** Strands of hair; they fade towards their ends. */
function strandStamp(strands: readonly Strand[], width: number, height: number): Stamp | undefined {
  const all = strands.flatMap(({ points }) => points);
  const across = STRAND_WIDTH * height;
  const radius = Math.max(LEAST_RADIUS, across / 2);
  const stamp = boxOf(all, radius + SMOOTH, width, height);
  if (!stamp) return undefined;
  for (const { points } of strands) {
    const legs = legsOf(points);
    legs.forEach(([from, to], n) => {
      // What is thinner than a pixel covers only a part of it.
      const level = Math.min(1, (across * (from.pressure + to.pressure)) / 2) * (1 - ((n + 0.5) / legs.length) ** 2);
      drawLeg(stamp, pixelOf(from, width, height), pixelOf(to, width, height), radius, STRAND_SOFTNESS, level);
    });
  }
  return stamp;
}

/** @param use is told, for each pixel that a stamp reaches, which it is and how far, 0–1. */
export function eachIn(
  { left, top, width, height, data }: Stamp,
  across: number,
  use: (p: number, share: number) => void,
): void {
  for (let y = 0, k = 0; y < height; y++)
    for (let x = 0, p = (top + y) * across + left; x < width; x++, k++, p++) if (data[k]) use(p, data[k] / 255);
}

interface Spot {
  x: number;
  y: number;
  pressure: number;
}

function pixelOf({ x, y, pressure }: PathPoint, width: number, height: number): Spot {
  return { x: x * width, y: y * height, pressure };
}

function legsOf(points: readonly PathPoint[]): [PathPoint, PathPoint][] {
  return points.length === 1 ? [[points[0], points[0]]] : points.slice(1).map((to, n) => [points[n], to]);
}

function boxOf(points: readonly PathPoint[], reach: number, width: number, height: number): Stamp | undefined {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { x, y } of points) {
    left = Math.min(left, x * width);
    right = Math.max(right, x * width);
    top = Math.min(top, y * height);
    bottom = Math.max(bottom, y * height);
  }
  left = Math.max(0, Math.floor(left - reach));
  top = Math.max(0, Math.floor(top - reach));
  right = Math.min(width, Math.ceil(right + reach));
  bottom = Math.min(height, Math.ceil(bottom + reach));
  if (!(right > left && bottom > top)) return undefined;
  const [across, down] = [right - left, bottom - top];
  return { left, top, width: across, height: down, data: new Uint8Array(across * down) };
}

/** One straight piece of a stroke, up to `level`; its width goes evenly from one end's pressure to the other's. */
function drawLeg(stamp: Stamp, from: Spot, to: Spot, radius: number, softness: number, level = 1): void {
  const { left, top, width, height, data } = stamp;
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const square = dx * dx + dy * dy;
  const widest = radius * Math.max(from.pressure, to.pressure) + SMOOTH;
  const x0 = Math.max(0, Math.floor(Math.min(from.x, to.x) - widest) - left);
  const x1 = Math.min(width, Math.ceil(Math.max(from.x, to.x) + widest) - left);
  const y0 = Math.max(0, Math.floor(Math.min(from.y, to.y) - widest) - top);
  const y1 = Math.min(height, Math.ceil(Math.max(from.y, to.y) + widest) - top);
  for (let y = y0; y < y1; y++) {
    const py = top + y + 0.5 - from.y;
    for (let x = x0, k = y * width + x0; x < x1; x++, k++) {
      const px = left + x + 0.5 - from.x;
      const along = square > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy) / square)) : 0;
      const distance = Math.hypot(px - along * dx, py - along * dy);
      const r = Math.max(LEAST_RADIUS, radius * (from.pressure + along * (to.pressure - from.pressure)));
      const inner = Math.min(r - SMOOTH / 2, r * (1 - softness));
      if (distance >= r + SMOOTH / 2) continue;
      const value = 255 * level * (1 - smoothstep((distance - inner) / (r + SMOOTH / 2 - inner)));
      if (value > data[k]) data[k] = Math.round(value);
    }
  }
}

function fillZone(stamp: Stamp, points: readonly PathPoint[], fade: number, width: number, height: number): void {
  for (let y = 0; y < stamp.height; y++) {
    const row = coverRow(points, stamp.top + y, width, height);
    if (row)
      for (let x = 0; x < stamp.width; x++) stamp.data[y * stamp.width + x] = Math.round(255 * row[stamp.left + x]);
  }
  const radius = Math.round(fade / 2);
  if (radius < 1) return;
  const plane = { width: stamp.width, height: stamp.height, data: Float32Array.from(stamp.data) };
  boxBlur(boxBlur(plane, radius), radius).data.forEach((v, p) => (stamp.data[p] = Math.round(v)));
}
