/** Where and how large a cut stands on a background. All shares are of the background's own width or height. */
export interface Placement {
  /** Horizontal centre of the cut's frame, 0 left – 1 right. */
  x: number;
  /** Lower edge of the cut's frame, 0 top – 1 bottom. */
  y: number;
  /** Height of the cut's frame, 1 = as high as the background. */
  height: number;
}

export interface PlacementFacts {
  label: string;
  min: number;
  max: number;
  default: number;
  unit: string;
}

/** Ranges, inclusive, and defaults: upright in the middle, standing on the lower edge. */
export const placementFacts: Record<keyof Placement, PlacementFacts> = {
  x: { label: 'Centre from left', min: -0.5, max: 1.5, default: 0.5, unit: '% of width' },
  y: { label: 'Lower edge from top', min: 0, max: 2, default: 1, unit: '% of height' },
  height: { label: 'Frame height', min: 0.05, max: 4, default: 0.94, unit: '% of height' },
};

export const defaultPlacement: Placement = {
  x: placementFacts.x.default,
  y: placementFacts.y.default,
  height: placementFacts.height.default,
};

/** Keeps each value inside its range. */
export function clampPlacement(placement: Placement): Placement {
  const clamp = (name: keyof Placement): number =>
    Math.max(placementFacts[name].min, Math.min(placementFacts[name].max, placement[name]));
  return { x: clamp('x'), y: clamp('y'), height: clamp('height') };
}

export interface Size {
  width: number;
  height: number;
}

/** The cut's frame on the background in background pixels; left and top may be negative. */
export function placedRectangle(
  cut: Size,
  background: Size,
  placement: Placement,
): { left: number; top: number; width: number; height: number } {
  const height = placement.height * background.height;
  const width = (height * cut.width) / cut.height;
  return {
    left: placement.x * background.width - width / 2,
    top: placement.y * background.height - height,
    width,
    height,
  };
}

/** A part of a frame: left, top, width, height as shares of it. */
export interface Extent {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Shares of the background's width by which a person may reach over its side unseen. */
const UNSEEN = 0.005;

/**
 * Whether somebody who does reach the frame's own side, or fills it, is cut off by the background's left or right side.
 * @param extent of the person in the frame.
 */
export function isCutOff(cut: Size, extent: Extent, background: Size, placement: Placement): boolean {
  const { left, width } = placedRectangle(cut, background, placement);
  return (
    left + extent.x * width < -UNSEEN * background.width ||
    left + (extent.x + extent.width) * width > (1 + UNSEEN) * background.width
  );
}

/**
 * The same place, only as large as leaves the person whole between the background's sides; never larger than wanted.
 */
export function fitted(cut: Size, extent: Extent, background: Size, placement: Placement): Placement {
  const perHeight = ((background.height / background.width) * cut.width) / cut.height;
  const toLeft = 0.5 - extent.x;
  const toRight = extent.x + extent.width - 0.5;
  const x = Math.max(0.02, Math.min(0.98, placement.x));
  const most = Math.min(toLeft > 0 ? x / toLeft : Infinity, toRight > 0 ? (1 - x) / toRight : Infinity) / perHeight;
  return clampPlacement({ ...placement, x, height: Math.min(placement.height, most) });
}

/** Pixels of a person that a background throws away: 1 where all are kept, 4 where three of four go. */
export function pixelsLost(cut: Size, background: Size, placement: Placement): number {
  return Math.max(1, (cut.height / (placement.height * background.height)) ** 2);
}
