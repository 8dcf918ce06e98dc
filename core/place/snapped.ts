import { clampPlacement, placedRectangle, type Extent, type Placement, type Size } from './placement.ts';

/** A line in the picture that somebody was brought to: at a share of its width (`x`) or height (`y`). */
export interface Guide {
  way: 'x' | 'y';
  at: number;
}

/** A person in their frame: where they are, and the middle between the eyes, if a face was found. */
export interface Snapping {
  extent: Extent;
  eyes: { x: number; y: number } | undefined;
}

/** Thirds and the middle, to which eyes and the person's middle are brought. */
const ACROSS = [1 / 3, 1 / 2, 2 / 3];
const EYES = [1 / 3, 2 / 5];
/** So near, as a share of the background's height, it is taken to be meant. */
const NEAR = 0.012;

/**
 * A placement brought to the nearest of the lines that a photographer composes by: the person's middle or the eyes on
 * the middle or a third, the eyes on the upper third, the frame's lower edge on the picture's. The size stays.
 * @returns also the lines that it was brought to.
 */
export function snapped(
  cut: Size,
  background: Size,
  { extent, eyes }: Snapping,
  placement: Placement,
): { placement: Placement; guides: Guide[] } {
  const { left, width } = placedRectangle(cut, background, placement);
  const guides: Guide[] = [];
  const across = (share: number): number => (left + share * width) / background.width;
  const down = (share: number): number => placement.y - (1 - share) * placement.height;
  const nearX = (NEAR * background.height) / background.width;
  const best = (way: Guide['way'], from: number[], to: readonly number[], near: number): number => {
    let least = near;
    let move = 0;
    let guide: Guide | undefined;
    for (const place of from)
      for (const at of to) {
        if (Math.abs(at - place) > least) continue;
        least = Math.abs(at - place);
        move = at - place;
        guide = { way, at };
      }
    if (guide) guides.push(guide);
    return move;
  };
  const middles = [extent.x + extent.width / 2, ...(eyes ? [eyes.x] : [])].map(across);
  const x = placement.x + best('x', middles, ACROSS, nearX);
  const low = Math.abs(1 - placement.y) <= NEAR;
  if (low) guides.push({ way: 'y', at: 1 });
  const y = low ? 1 : placement.y + (eyes ? best('y', [down(eyes.y)], EYES, NEAR) : 0);
  return { placement: clampPlacement({ ...placement, x, y }), guides };
}
