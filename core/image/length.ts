/**
 * Length of a vector. `Math.hypot` also serves where squares overflow, which nothing here needs, and is many times
 * slower.
 */
export function lengthOf(x: number, y: number): number {
  return Math.sqrt(x * x + y * y);
}
