import type { Point } from '../screen/outline.ts';

/** Sub-rows over which an edge is smoothed. */
const SUB = 4;

/**
 * Share of each pixel of row y, 0–1, inside a polygon; undefined if there is none.
 * @param polygon corners in shares of the picture.
 */
export function coverRow(
  polygon: readonly Point[],
  y: number,
  width: number,
  height: number,
): Float32Array | undefined {
  let row: Float32Array | undefined;
  for (let k = 0; k < SUB; k++) {
    const v = (y + (k + 0.5) / SUB) / height;
    const crossings: number[] = [];
    polygon.forEach((p, n) => {
      const q = polygon[(n + 1) % polygon.length];
      if (p.y <= v !== q.y <= v) crossings.push((p.x + ((v - p.y) / (q.y - p.y)) * (q.x - p.x)) * width);
    });
    crossings.sort((a, b) => a - b);
    for (let n = 0; n + 1 < crossings.length; n += 2) {
      const from = Math.max(0, crossings[n]);
      const to = Math.min(width, crossings[n + 1]);
      if (to <= from) continue;
      row ??= new Float32Array(width);
      for (let x = Math.floor(from); x < to; x++) row[x] += (Math.min(x + 1, to) - Math.max(x, from)) / SUB;
    }
  }
  return row;
}
