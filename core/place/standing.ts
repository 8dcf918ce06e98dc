import type { Face } from '../persons/faces.ts';
import {
  clampPlacement,
  sidesShown,
  standingLike,
  widthOn,
  withSidesHidden,
  type Extent,
  type Placement,
  type Size,
} from './placement.ts';
import { facedLike, type AlikeWay } from './scene.ts';

/** Somebody as their frame shows them, mirrored where they are mirrored. */
export interface Shown {
  cut: Size;
  /** Of the person in the frame. */
  extent: Extent;
  faces: readonly Face[];
}

/** How people stand on a background: as one of them does. */
export interface StandingModel extends Shown {
  way: AlikeWay;
  placement: Placement;
}

/**
 * Where somebody stands who stands as the model does; by scale where one of the two has no face. By faces, no lower
 * side of a frame that cuts them off is left in the picture.
 */
export function standsAs(model: StandingModel, { cut, extent, faces }: Shown, background: Size): Placement {
  const byScale = standingLike(model, cut, extent, background);
  if (model.way === 'scale') return byScale;
  const byFace = facedLike(model, cut, faces, background, byScale, model.way);
  if (!byFace) return byScale;
  // Whoever goes on below their frame is moved down as far as hides where it ends.
  return sidesShown(cut, extent, background, byFace).includes('bottom')
    ? withSidesHidden(cut, ['bottom'], background, byFace)
    : byFace;
}

/** Whether two places are the same to the eye: within this share of the background. */
export function isSamePlace(a: Placement, b: Placement): boolean {
  return Math.max(Math.abs(a.x - b.x), Math.abs(a.y - b.y), Math.abs(a.height - b.height)) < SAME;
}
const SAME = 0.002;

/** Part of their half widths that two who stand beside each other are apart: shoulders overlap a little. */
const CLOSE = 0.85;
/** Share of the background's width that a row may fill. */
const ROW = 0.96;

/**
 * Where people stand in a row around somebody, each as that one does: the first in the middle, the others alternately
 * right and left of it, smaller on the same ground as far as all of them need to be within the picture.
 * @returns places of the one in the middle and of the others, in their order.
 */
export function inARow(model: StandingModel, others: readonly Shown[], background: Size): Placement[] {
  const people = [model, ...others].map((shown) => ({ shown, at: standsAs(model, shown, background) }));
  // Across the picture: the fourth, the second, the first, the third, the fifth …
  const order = people.map((_, n) => n).toSorted((a, b) => sideOf(a) - sideOf(b));
  const widths = people.map(({ shown, at }) => shown.extent.width * widthOn(shown.cut, background, at.height));
  const gaps = order.map((n, k) => (k === 0 ? 0 : (CLOSE * (widths[n] + widths[order[k - 1]])) / 2));
  const whole = gaps.reduce((sum, gap) => sum + gap, (widths[order[0]] + widths[order[order.length - 1]]) / 2);
  const scale = Math.min(1, ROW / whole);
  const reach = (scale * whole) / 2;
  const edge = (1 - ROW) / 2;
  const middle = Math.min(Math.max(model.placement.x, reach + edge), 1 - reach - edge);
  let across = middle - reach + (scale * widths[order[0]]) / 2;
  const places: Placement[] = [];
  order.forEach((n, k) => {
    const { shown, at } = people[n];
    across += scale * gaps[k];
    const height = at.height * scale;
    const foot = at.y - (1 - shown.extent.y - shown.extent.height) * at.height;
    places[n] = clampPlacement({
      x: across - (shown.extent.x + shown.extent.width / 2 - 0.5) * widthOn(shown.cut, background, height),
      y: foot + (1 - shown.extent.y - shown.extent.height) * height,
      height,
    });
  });
  return places;
}

/** How far right of the first somebody is, in persons. */
function sideOf(n: number): number {
  return n % 2 ? (n + 1) / 2 : -n / 2;
}
