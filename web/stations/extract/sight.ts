/** Which part of a picture a viewer shows, without a page. */

export interface Size {
  width: number;
  height: number;
}

export interface Point {
  x: number;
  y: number;
}

/** Full-size pixel in the viewer's middle, and viewer's pixels per full-size pixel. */
export interface Sight extends Point {
  scale: number;
}

/** From a point of the frame, in shares, to the viewer's pixels, and back; back it stays within the frame. */
export interface Projection extends Size {
  /** Viewer's pixels to one of the file. */
  scale: number;
  /** Height of the whole frame, viewer's pixels. */
  frameHeight: number;
  project: (point: Point) => Point;
  unproject: (point: Point) => Point;
}

const MOST_SCALE = 8;
/** Around a whole picture, viewer's pixels on both sides together. */
const MARGIN = 32;
/** Areas are asked for in steps of so many pixels, so that a small move asks for nothing new. */
const STEP = 64;

const within = (value: number, most: number): number => Math.max(0, Math.min(most, value));

/** The whole picture in the box. */
export function wholeSight(size: Size, box: Size): Sight {
  return {
    x: size.width / 2,
    y: size.height / 2,
    scale: Math.min((box.width - MARGIN) / size.width, (box.height - MARGIN) / size.height),
  };
}

/** The full-size pixels in sight and so many around, rounded outwards. */
export function areaInSight({ x, y, scale }: Sight, box: Size, size: Size, around = 0): Point & Size {
  const [across, down] = [box.width / 2 / scale + around, box.height / 2 / scale + around];
  const left = Math.max(0, Math.floor((x - across) / STEP) * STEP);
  const top = Math.max(0, Math.floor((y - down) / STEP) * STEP);
  const right = Math.min(size.width, Math.ceil((x + across) / STEP) * STEP);
  const bottom = Math.min(size.height, Math.ceil((y + down) / STEP) * STEP);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** The smallest area that holds all of an area that no piece covers; undefined where all is covered. */
export function missingOf(area: Point & Size, pieces: readonly (Point & Size)[]): (Point & Size) | undefined {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  const [ends, floors] = [area.x + area.width, area.y + area.height];
  for (let y = area.y; y < floors; y += STEP)
    for (let x = area.x; x < ends; x += STEP) {
      const [end, floor] = [Math.min(ends, x + STEP), Math.min(floors, y + STEP)];
      const known = pieces.some(
        (piece) => piece.x <= x && piece.y <= y && piece.x + piece.width >= end && piece.y + piece.height >= floor,
      );
      if (known) continue;
      [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, end), Math.max(bottom, floor)];
    }
  return right > left ? { x: left, y: top, width: right - left, height: bottom - top } : undefined;
}

/** The same sight with its middle on the picture. */
export function heldSight({ x, y, scale }: Sight, size: Size): Sight {
  return { scale, x: within(x, size.width), y: within(y, size.height) };
}

/** @param point viewer's pixels from the left top of the box. @returns the full-size pixel there. */
export function pixelAt(point: Point, sight: Sight, box: Size): Point {
  return {
    x: sight.x + (point.x - box.width / 2) / sight.scale,
    y: sight.y + (point.y - box.height / 2) / sight.scale,
  };
}

/**
 * Closer or farther by a factor; what lies under the pointer stays there.
 * @returns undefined where the whole picture is as large.
 */
export function closerSight(sight: Sight, factor: number, pointer: Point, box: Size, size: Size): Sight | undefined {
  const scale = Math.min(MOST_SCALE, sight.scale * factor);
  if (scale <= wholeSight(size, box).scale) return undefined;
  const { x, y } = pixelAt(pointer, sight, box);
  const next = { x: x - (pointer.x - box.width / 2) / scale, y: y - (pointer.y - box.height / 2) / scale, scale };
  return heldSight(next, size);
}

export function projectionOf(sight: Sight, box: Size, size: Size): Projection {
  const left = box.width / 2 - sight.x * sight.scale;
  const top = box.height / 2 - sight.y * sight.scale;
  return {
    ...box,
    scale: sight.scale,
    frameHeight: size.height * sight.scale,
    project: ({ x, y }) => ({ x: left + x * size.width * sight.scale, y: top + y * size.height * sight.scale }),
    unproject: ({ x, y }) => ({
      x: within((x - left) / sight.scale / size.width, 1),
      y: within((y - top) / sight.scale / size.height, 1),
    }),
  };
}
