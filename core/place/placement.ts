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

/** Pixels of the background to each of the cut's, along each side; above 1 the person is enlarged. */
export function scaleOn(cut: Size, background: Size, { height }: Placement): number {
  return (height * background.height) / cut.height;
}

/** Width of a cut's frame of a height, as shares of the background's. */
export function widthOn(cut: Size, background: Size, height: number): number {
  return ((height * background.height) / background.width) * (cut.width / cut.height);
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

/** Where a person is in their frame once it is mirrored; as before if it is not. */
export function mirroredExtent(extent: Extent, mirrored: boolean): Extent {
  return mirrored ? { ...extent, x: 1 - extent.x - extent.width } : extent;
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

/** Shares of a frame within which somebody reaches its side. */
const AT_SIDE = 0.004;

/** Whether somebody goes on below their frame, so that no feet are in it. */
export function goesOnBelow({ y, height }: Extent): boolean {
  return y + height >= 1 - AT_SIDE;
}

export const frameSides = ['left', 'right', 'top', 'bottom'] as const;
export type FrameSide = (typeof frameSides)[number];

/**
 * The sides of a frame by which its person is cut off and that lie within the background, so that the cut shows.
 * @param turn degrees by which it is turned.
 */
export function sidesShown(cut: Size, extent: Extent, background: Size, placement: Placement, turn = 0): FrameSide[] {
  const { left, top, width, height } = placedRectangle(cut, background, placement);
  const near = UNSEEN * background.width;
  const { across: inAcross, down: inDown } = turnedIn({ width, height }, turn, extent);
  const shown: Record<FrameSide, boolean> = {
    left: extent.x <= AT_SIDE && left + inAcross > near,
    right: extent.x + extent.width >= 1 - AT_SIDE && left + width - inAcross < background.width - near,
    top: extent.y <= AT_SIDE && top + inDown > near,
    bottom: goesOnBelow(extent) && top + height - inDown < background.height - near,
  };
  return frameSides.filter((side) => shown[side]);
}

/** How far the sides of a frame come in when it is turned: as far as the end that comes in farthest, pixels. */
function turnedIn({ width, height }: Size, turn: number, part: Size = { width: 1, height: 1 }) {
  const [sin, cos] = [Math.abs(Math.sin((turn * Math.PI) / 180)), Math.cos((turn * Math.PI) / 180)];
  return {
    across: (width * (1 - cos) + height * part.height * sin) / 2,
    down: (height * (1 - cos) + width * part.width * sin) / 2,
  };
}

/**
 * The nearest placement in which none of these sides shows: moved as far as it takes, and as much larger where both of
 * two sides do.
 */
export function withSidesHidden(
  cut: Size,
  sides: readonly FrameSide[],
  background: Size,
  placement: Placement,
  turn = 0,
): Placement {
  const has = (side: FrameSide): boolean => sides.includes(side);
  const across = (height: number): number =>
    ((height * background.height) / background.width) * (cut.width / cut.height);
  let { x, y, height } = placement;
  if (has('left') && has('right')) height = Math.max(height, height / across(height));
  if (has('top') && has('bottom')) height = Math.max(height, 1);
  const half = across(height) / 2;
  const turned = turnedIn({ width: across(height) * background.width, height: height * background.height }, turn);
  const inAcross = turned.across / background.width;
  const inDown = turned.down / background.height;
  if (has('left')) x = Math.min(x, half - inAcross);
  if (has('right')) x = Math.max(x, 1 - half + inAcross);
  if (has('bottom')) y = Math.max(y, 1 + inDown);
  if (has('top')) y = Math.min(y, height - inDown);
  return clampPlacement({ x, y, height });
}

/** A cut with its person, and where it stands. */
export interface Standing {
  cut: Size;
  extent: Extent;
  placement: Placement;
}

/**
 * Where somebody stands as somebody else does: at the same scale, in pixels of their frames; the middle of the person at
 * the same place, and the lowest of them at the same height; smaller only as far as whoever is wide, as a group, needs
 * to be whole.
 */
export function standingLike(like: Standing, cut: Size, extent: Extent, background: Size): Placement {
  const { placement } = like;
  const middle =
    placement.x + (like.extent.x + like.extent.width / 2 - 0.5) * widthOn(like.cut, background, placement.height);
  const foot = placement.y - (1 - like.extent.y - like.extent.height) * placement.height;
  const wanted = (placement.height * cut.height) / like.cut.height;
  const at = (height: number): Placement => ({
    x: middle - (extent.x + extent.width / 2 - 0.5) * widthOn(cut, background, height),
    y: foot + (1 - extent.y - extent.height) * height,
    height,
  });
  const across = extent.width * widthOn(cut, background, wanted);
  const room = 2 * Math.min(middle, 1 - middle);
  return clampPlacement(at(room > 0.1 && across > room ? (wanted * room) / across : wanted));
}

/** Pixels of a person that a background throws away: 1 where all are kept, 4 where three of four go. */
export function pixelsLost(cut: Size, background: Size, placement: Placement): number {
  return Math.max(1, scaleOn(cut, background, placement) ** -2);
}
