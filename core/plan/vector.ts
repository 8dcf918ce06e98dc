/**
 * A place or direction in the set, metres: x to the right as the camera looks, y up from the floor, z from the screen
 * towards the camera.
 */
export interface Vec {
  x: number;
  y: number;
  z: number;
}

export const vec = (x: number, y: number, z: number): Vec => ({ x, y, z });
export const add = (a: Vec, b: Vec): Vec => ({ x: a.x + b.x, y: a.y + b.y, z: a.z + b.z });
export const subtract = (a: Vec, b: Vec): Vec => ({ x: a.x - b.x, y: a.y - b.y, z: a.z - b.z });
export const scale = (a: Vec, s: number): Vec => ({ x: a.x * s, y: a.y * s, z: a.z * s });
export const dot = (a: Vec, b: Vec): number => a.x * b.x + a.y * b.y + a.z * b.z;
export const cross = (a: Vec, b: Vec): Vec => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
export const distance = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z);

/** @returns the direction of length 1; straight towards the camera for a vector of no length. */
export function unit(a: Vec): Vec {
  const length = Math.hypot(a.x, a.y, a.z);
  return length > 1e-9 ? scale(a, 1 / length) : { x: 0, y: 0, z: 1 };
}

/** Right and up of something that looks along `axis` and stands upright. */
export function frameOf(axis: Vec): { right: Vec; up: Vec } {
  const level = Math.hypot(axis.x, axis.z) > 1e-6 ? { x: 0, y: 1, z: 0 } : { x: 0, y: 0, z: -1 };
  const right = unit(cross(axis, level));
  return { right, up: cross(right, axis) };
}
