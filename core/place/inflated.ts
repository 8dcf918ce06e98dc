import { createPlane, type Plane } from '../image/raster.ts';

/** What is inside of an outline. */
export const INSIDE = 0.5;
/** What the surface is bent by: a stripe becomes a half round pole at 2, a disc a half ball at 4. */
const BENT = 2.6;
/** Least places of the shorter side on the coarsest grid, sweeps over it, and over each finer one. */
const COARSEST = 20;
const FIRST_SWEEPS = 150;
const SWEEPS = 14;
/** Overrelaxation of the sweeps. */
const OVER = 1.6;

/**
 * A round thing that has the outline of a coverage: how far it stands out, squared, in places of the grid. Where it goes
 * on beyond the picture's border it goes on as it is. By the Poisson equation with nothing at the outline, from coarse
 * to fine.
 */
export function inflated(coverage: Plane): Plane {
  const { width, height } = coverage;
  if (Math.min(width, height) < 2 * COARSEST) return relaxed(createPlane(width, height), coverage, FIRST_SWEEPS);
  const half = createPlane(width >> 1, height >> 1);
  for (let y = 0, p = 0; y < half.height; y++)
    for (let x = 0; x < half.width; x++, p++) {
      const i = 2 * y * width + 2 * x;
      half.data[p] =
        (coverage.data[i] + coverage.data[i + 1] + coverage.data[i + width] + coverage.data[i + width + 1]) / 4;
    }
  const coarse = inflated(half);
  const start = createPlane(width, height);
  for (let y = 0, p = 0; y < height; y++) {
    const row = Math.min(coarse.height - 1, y >> 1) * coarse.width;
    for (let x = 0; x < width; x++, p++) start.data[p] = 4 * coarse.data[row + Math.min(coarse.width - 1, x >> 1)];
  }
  return relaxed(start, coverage, SWEEPS);
}

/** Sweeps a first guess, in place, towards the surface. */
function relaxed(guess: Plane, coverage: Plane, sweeps: number): Plane {
  const { width, height, data } = guess;
  for (let p = 0; p < data.length; p++) if (coverage.data[p] < INSIDE) data[p] = 0;
  for (let n = 0; n < sweeps; n++)
    for (let y = 0, p = 0; y < height; y++) {
      const up = y > 0 ? -width : 0;
      const down = y < height - 1 ? width : 0;
      for (let x = 0; x < width; x++, p++) {
        if (coverage.data[p] < INSIDE) continue;
        const left = data[x > 0 ? p - 1 : p];
        const right = data[x < width - 1 ? p + 1 : p];
        data[p] += OVER * ((left + right + data[p + up] + data[p + down] + BENT) / 4 - data[p]);
      }
    }
  return guess;
}
