import type { Size } from './placement.ts';
import { partSeen, type Framing } from './reframed.ts';

/**
 * How a background was looked at: its horizon, the focal length and the tilt of the camera, by lines of the scene that
 * are drawn in the picture. The camera is taken to have been held level across.
 */

/** Diagonal of the frame that focal lengths are told by, millimetres. */
const FULL_FRAME = Math.hypot(36, 24);

export interface Point {
  x: number;
  y: number;
}
/** Two places of a line, as shares of width and height of what is seen. */
export type Line = readonly [Point, Point];
export type LinePair = readonly [Line, Line];

/** Lines along which something is known. */
export const lineWays = {
  away: 'that run away from the camera, side by side on the ground or on a wall',
  up: 'that stand upright, as the edges of doors and houses do',
} as const;
export type LineWay = keyof typeof lineWays;

/** Turn between two lines, radians, from which on it can be told where they meet. */
const LEAST_TURN = 0.004;
/** Shares of the height that the horizon lies from the middle at least, for uprights to tell the focal length. */
const LEAST_OFF = 0.02;

export interface Lens {
  /** Share of the background's height from its top. */
  horizon: number;
  /** Millimetres, as on 36 × 24 mm; null where it cannot be told. */
  focal: number | null;
}

/** Focal length in pixels of a picture. @param focal millimetres, as on 36 × 24 mm. */
export function focalInPixels(focal: number, { width, height }: Size): number {
  return (focal / FULL_FRAME) * Math.hypot(width, height);
}

/** Degrees by which a camera looked down; up below nought. */
export function tiltOf(horizon: number, focal: number, size: Size): number {
  return (Math.atan(((0.5 - horizon) * size.height) / focalInPixels(focal, size)) * 180) / Math.PI;
}

/** Metres from the camera to somebody of whom a metre takes so many pixels. */
export function distanceOf(focal: number, size: Size, pixelsToMetre: number): number {
  return focalInPixels(focal, size) / pixelsToMetre;
}

/**
 * What two lines tell that are parallel in the scene. Those that run away meet on the horizon. Uprights meet where the
 * camera would look straight down or up: that and the horizon lie a right angle apart, so that of horizon and focal
 * length one follows from the other (Caprile & Torre 1990).
 * @param known of the background; uprights need one of the two, and set the horizon where the focal length is known.
 * @returns why nothing can be told, in words that follow “they …”.
 */
export function lensByLines(
  way: LineWay,
  [one, other]: LinePair,
  look: Framing,
  size: Size,
  known: { horizon: number | null; focal: number | null },
): Lens | { refused: string } {
  const meet = meeting(one, other, look, size);
  if (way === 'away') {
    if (!meet) return { refused: 'run beside each other; take two that run together in the distance' };
    return { horizon: 0.5 + meet.y / size.height, focal: known.focal };
  }
  if (known.focal === null && known.horizon === null)
    return { refused: 'need the horizon or the focal length; mark one of the two first' };
  // Seen level, uprights meet nowhere.
  if (!meet) return { horizon: 0.5, focal: known.focal };
  if (known.focal !== null)
    return { horizon: 0.5 - focalInPixels(known.focal, size) ** 2 / meet.y / size.height, focal: known.focal };
  const off = ((known.horizon ?? 0.5) - 0.5) * size.height;
  if (Math.abs(off) < LEAST_OFF * size.height)
    return { refused: 'tell nothing while the horizon lies in the middle: the camera looked straight ahead' };
  const squared = -off * meet.y;
  if (squared <= 0)
    return { refused: `lean the other way than they would with the horizon ${off < 0 ? 'above' : 'below'} the middle` };
  const focal = (Math.sqrt(squared) * FULL_FRAME) / Math.hypot(size.width, size.height);
  return { horizon: known.horizon ?? 0.5, focal };
}

/** Where two lines meet, in pixels of the whole background from its middle, level as it is seen; undefined for nowhere. */
function meeting(one: Line, other: Line, look: Framing, size: Size): Point | undefined {
  const { width, height } = size;
  const part = partSeen(look, size);
  const across = (0.5 - part.x) * width;
  const down = (0.5 - part.y) * height;
  // The middle of the whole, from the middle of what is seen.
  const middle = { x: across * part.cos - down * part.sin, y: across * part.sin + down * part.cos };
  const inPixels = ({ x, y }: Point): Point => ({
    x: ((x - 0.5) * width) / part.zoom - middle.x,
    y: ((y - 0.5) * height) / part.zoom - middle.y,
  });
  const [a, b, c, d] = [...one, ...other].map(inPixels);
  const [u, v] = [
    { x: b.x - a.x, y: b.y - a.y },
    { x: d.x - c.x, y: d.y - c.y },
  ];
  const turn = u.x * v.y - u.y * v.x;
  if (Math.abs(turn) < LEAST_TURN * Math.hypot(u.x, u.y) * Math.hypot(v.x, v.y)) return undefined;
  const t = ((c.x - a.x) * v.y - (c.y - a.y) * v.x) / turn;
  return { x: a.x + t * u.x, y: a.y + t * u.y };
}
