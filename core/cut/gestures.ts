import type { Extent } from '../place/index.ts';
import type { Point } from '../screen/outline.ts';
import { shareOfRow, type HandMask } from './guidance.ts';

/** All that the people of a setup do before the camera, seen at once: for a crop that follows every gesture. */

/** Coverage of a cut at a small size, 0–255, row by row. */
export interface Figure {
  width: number;
  height: number;
  data: Uint8Array;
}

/** Share of a figure that lies outside of a crop, 0–1; 0 where there is no figure. */
export function lostTo(crop: Pick<HandMask, 'polygon' | 'soft'>, { width, height, data }: Figure): number {
  const mask: HandMask = { effect: 'crop', ...crop };
  let all = 0;
  let lost = 0;
  for (let y = 0, p = 0; y < height; y++) {
    const inside = shareOfRow(mask, y, width, height);
    for (let x = 0; x < width; x++, p++) {
      all += data[p];
      lost += data[p] * (1 - (inside?.[x] ?? 0));
    }
  }
  return all ? lost / all : 0;
}

/** What any of some figures covers, on a field of a size: the greatest coverage at each place. */
export function together(figures: readonly Figure[], width: number, height: number): Figure {
  const all = new Uint8Array(width * height);
  for (const figure of figures)
    for (let y = 0, p = 0; y < height; y++) {
      const row = Math.floor(((y + 0.5) * figure.height) / height) * figure.width;
      for (let x = 0; x < width; x++, p++) {
        const v = figure.data[row + Math.floor(((x + 0.5) * figure.width) / width)];
        if (v > all[p]) all[p] = v;
      }
    }
  return { width, height, data: all };
}

/**
 * Corners of the smallest upright rectangle around all extents, with a margin; shares of the frame, within it.
 * @returns none if there are no extents.
 */
export function aroundAll(extents: readonly Extent[], margin: number): Point[] {
  if (!extents.length) return [];
  const held = (v: number): number => Math.min(1, Math.max(0, v));
  const left = held(Math.min(...extents.map(({ x }) => x)) - margin);
  const top = held(Math.min(...extents.map(({ y }) => y)) - margin);
  const right = held(Math.max(...extents.map(({ x, width }) => x + width)) + margin);
  const bottom = held(Math.max(...extents.map(({ y, height }) => y + height)) + margin);
  return [
    { x: left, y: top },
    { x: right, y: top },
    { x: right, y: bottom },
    { x: left, y: bottom },
  ];
}
