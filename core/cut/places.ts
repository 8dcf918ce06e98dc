import { components } from '../image/components.ts';
import { contours } from '../image/contour.ts';
import { createMask, type Mask } from '../image/raster.ts';
import { simplifyLine } from '../image/simplifyLine.ts';
import type { Point } from '../screen/outline.ts';
import type { Tiles } from './coverage.ts';

/** Left, top, width, height as shares of the frame. */
export interface Place {
  x: number;
  y: number;
  width: number;
  height: number;
  /** Its outline: x and y of each corner in turn, shares of the frame; none where the box is all that is meant. */
  outline?: number[];
}

/** Corners of an outline, at most. */
const MOST_CORNERS = 28;

/** Places told of one doubt, at most. */
export const MOST_PLACES = 12;

/** Share of the worst tile's amount from which a tile is told. */
const TOLD = 0.15;

/** Where most of something lies: the tiles that hold much of it, those that touch as one place, worst first. */
export function worstTiles({ across, down }: Tiles, amount: Float64Array): Place[] {
  const most = amount.reduce((greatest, value) => Math.max(greatest, value), 0);
  const told = maskOf({ width: across, height: down }, (n) => amount[n] > TOLD * most);
  return components(told)
    .map(({ pixels }) => ({ pixels, sum: pixels.reduce((total, n) => total + amount[n], 0) }))
    .sort((a, b) => b.sum - a.sum)
    .slice(0, MOST_PLACES)
    .map(({ pixels }) => boundsOf(pixels, across, down));
}

/** The mask of what passes a test, by number of its pixel. */
export function maskOf({ width, height }: { width: number; height: number }, test: (p: number) => boolean): Mask {
  const mask = createMask(width, height);
  for (let p = 0; p < mask.data.length; p++) if (test(p)) mask.data[p] = 1;
  return mask;
}

/** Where the pieces of a mask lie that have at least so many pixels, largest first. */
export function pieces(mask: Mask, least: number): Place[] {
  return piecesOf(mask, least).map(({ pixels }) => boundsOf(pixels, mask.width, mask.height));
}

/** Pieces of at least so many pixels, largest first. */
export function piecesOf(mask: Mask, least: number): { pixels: Int32Array }[] {
  return components(mask)
    .filter(({ pixels }) => pixels.length >= least)
    .sort((a, b) => b.pixels.length - a.pixels.length);
}

/** The box around pixels of a picture that hang together, and their outline. */
export function boundsOf(pixels: Int32Array, width: number, height: number): Place {
  let left = width;
  let right = 0;
  for (const p of pixels) {
    left = Math.min(left, p % width);
    right = Math.max(right, p % width);
  }
  const rows = pixels.reduce(
    (range, p) => [Math.min(range[0], (p / width) | 0), Math.max(range[1], (p / width) | 0)],
    [height, 0],
  );
  const box = [left, rows[0], right + 1, rows[1] + 1] as const;
  const shape = new Uint8Array((box[2] - box[0]) * (box[3] - box[1]));
  for (const p of pixels) shape[(((p / width) | 0) - box[1]) * (box[2] - box[0]) + (p % width) - box[0]] = 1;
  return { ...placeOf(box, { width, height }), outline: outlineIn(box, shape, width, height) };
}

/**
 * The outer line of what is 1 in a box, with as few corners as serve.
 * @param shape 0 or 1 for each pixel of the box, left, top, right, bottom; hangs together.
 * @returns x and y of each corner, shares of the picture.
 */
export function outlineIn(
  box: readonly [number, number, number, number],
  shape: Uint8Array,
  width: number,
  height: number,
): number[] {
  const [loop] = contours(shape, box[2] - box[0], box[3] - box[1], 0.5).sort((a, b) => b.area - a.area);
  if (!loop) return [];
  const line: Point[] = [];
  for (let n = 0; n < loop.points.length; n += 2) line.push({ x: loop.points[n], y: loop.points[n + 1] });
  let few = line;
  for (let tolerance = 0.7; few.length > MOST_CORNERS; tolerance *= 1.5) few = simplifyLine(line, tolerance);
  return few.flatMap(({ x, y }) => [within((box[0] + x) / width), within((box[1] + y) / height)]);
}

function within(share: number): number {
  return Math.min(1, Math.max(0, share));
}

/** @param edges left, top, right and bottom in pixels, the latter two exclusive. */
export function placeOf(
  [left, top, right, bottom]: readonly [number, number, number, number],
  { width, height }: { width: number; height: number },
): Place {
  return { x: left / width, y: top / height, width: (right - left) / width, height: (bottom - top) / height };
}

export function rounded({ x, y, width, height, outline }: Place): Place {
  const box = { x: round(x), y: round(y), width: round(width), height: round(height) };
  return outline ? { ...box, outline: outline.map(round) } : box;
}

/** To a thousandth. */
export function round(value: number): number {
  return Math.round(value * 1000) / 1000;
}
