/** The outline drawn as coverage across it: what a hand pulls at, in pixels of the file. */

/** Half the width of the drawing, pixels of the file. */
export const REACH = 6;
/** Width of an outline that is not softened: a pixel is partly covered. */
const PIXEL = 1;

/**
 * Coverage at `x` pixels outwards from where the outline was found.
 * @param edge how far it is moved out.
 * @param softness radius of the blur.
 */
export function profileAt(x: number, edge: number, softness: number): number {
  const t = 0.5 - (x - edge) / (PIXEL + 2 * softness);
  return t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t);
}

/** Where the outline ends, pixels outwards. */
export function footOf(edge: number, softness: number): number {
  return edge + (PIXEL + 2 * softness) / 2;
}

/** The softness that puts the foot at `x`. */
export function softnessAt(x: number, edge: number): number {
  return Math.max(0, x - edge - PIXEL / 2);
}
