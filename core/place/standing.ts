import type { Face } from '../persons/faces.ts';
import { standingLike, type Extent, type Placement, type Size } from './placement.ts';
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

/** Where somebody stands who stands as the model does; by scale where one of the two has no face. */
export function standsAs(model: StandingModel, { cut, extent, faces }: Shown, background: Size): Placement {
  const byScale = standingLike(model, cut, extent, background);
  if (model.way === 'scale') return byScale;
  return facedLike(model, cut, faces, background, byScale, model.way) ?? byScale;
}

/** Whether two places are the same to the eye: within this share of the background. */
export function isSamePlace(a: Placement, b: Placement): boolean {
  return Math.max(Math.abs(a.x - b.x), Math.abs(a.y - b.y), Math.abs(a.height - b.height)) < SAME;
}
const SAME = 0.002;
