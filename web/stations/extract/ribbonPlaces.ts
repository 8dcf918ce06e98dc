import type { RibbonSheet } from '../../../contract/index.ts';
import type { Point, Size } from './sight.ts';

/** Neighbours farther apart than this many of their distances along the outline lie on two lines of it. */
const ANOTHER_LINE = 3;

/**
 * Where a place on the sheet of an outline lies on the frame, in shares of it: along the outline by its column, across
 * it by its height in the row.
 * @param row of the sheet that is meant, counted from 0; what lies over or under it is held at its edge.
 * @param frame its size in pixels.
 */
export function placeOnFrame(sheet: RibbonSheet, { x, y }: Point, row: number, frame: Size): Point {
  const { width, step, places, outside } = sheet;
  const last = places.length / 2 - 1;
  const held = (v: number, least: number, most: number): number => Math.min(most, Math.max(least, v));
  const column = held(row * width + held(x, 0, width - 1), 0, last * step);
  const at = (n: number): Point => ({ x: places[2 * n] * frame.width, y: places[2 * n + 1] * frame.height });
  const n = Math.min(Math.floor(column / step), Math.max(0, last - 1));
  const [from, to] = [at(n), at(Math.min(last, n + 1))];
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const length = Math.hypot(dx, dy);
  // At the end of a line of the outline its last direction is not known; what is painted there stays on it.
  const known = length > 0 && length < ANOTHER_LINE * step;
  const along = known ? column / step - n : 0;
  const deep = known ? held(y - row * sheet.row, 0, sheet.row) - outside : 0;
  // What is inside lies to the right of the way.
  const across = known ? { x: -dy / length, y: dx / length } : { x: 0, y: 0 };
  return {
    x: (from.x + along * dx + deep * across.x) / frame.width,
    y: (from.y + along * dy + deep * across.y) / frame.height,
  };
}

/** The row of a sheet that a height lies in. */
export function rowAt({ row, height }: RibbonSheet, y: number): number {
  return Math.min(Math.ceil(height / row) - 1, Math.max(0, Math.floor(y / row)));
}
