import { installedKernels, placesIn, type PlaneKernel } from '../kernels/kernels.ts';

/** Terms of a cubic surface in x and y, both scaled to −1…1 over the frame. */
const TERMS = 10;

function terms(x: number, y: number, out: Float64Array): void {
  out[0] = 1;
  out[1] = x;
  out[2] = y;
  out[3] = x * x;
  out[4] = x * y;
  out[5] = y * y;
  out[6] = x * x * x;
  out[7] = x * x * y;
  out[8] = x * y * y;
  out[9] = y * y * y;
}

/** A cubic surface z(x, y); `coefficients` as fitted by `fitSurface`. */
export type Surface = Float64Array;

/**
 * Weighted least-squares fit of a cubic surface, with a little ridge on the higher terms so that a fit from one
 * side of the frame does not run away on the other.
 * @param points x, y (each −1…1), z, weight, four values a point.
 */
export function fitSurface(points: Float64Array): Surface {
  const kernel = installedKernels()?.planes;
  const { normal, right, total } = kernel ? sumCompiled(kernel, points) : sumNormal(points);
  for (let i = 0; i < TERMS; i++) {
    for (let j = 0; j < i; j++) normal[i * TERMS + j] = normal[j * TERMS + i];
    normal[i * TERMS + i] += 1e-9 + total * (i === 0 ? 0 : i < 3 ? 1e-5 : i < 6 ? 1e-4 : 1e-3);
  }
  return solve(normal, right);
}

interface NormalSums {
  normal: Float64Array;
  right: Float64Array;
  /** Sum of the weights. */
  total: number;
}

function sumNormal(points: Float64Array): NormalSums {
  const normal = new Float64Array(TERMS * TERMS);
  const right = new Float64Array(TERMS);
  const t = new Float64Array(TERMS);
  let total = 0;
  for (let p = 0; p < points.length; p += 4) {
    const w = points[p + 3];
    if (w === 0) continue;
    total += w;
    terms(points[p], points[p + 1], t);
    for (let i = 0; i < TERMS; i++) {
      const weighted = w * t[i];
      right[i] += weighted * points[p + 2];
      for (let j = i, n = i * TERMS + i; j < TERMS; j++, n++) normal[n] += weighted * t[j];
    }
  }
  return { normal, right, total };
}

function sumCompiled(kernel: PlaneKernel, points: Float64Array): NormalSums {
  const [pointsAt, termsAt, normalAt, rightAt] = placesIn(
    kernel,
    points.byteLength,
    TERMS * 8,
    TERMS * TERMS * 8,
    TERMS * 8,
  );
  const { buffer } = kernel.memory;
  new Float64Array(buffer, pointsAt, points.length).set(points);
  const total = kernel.sumNormal(pointsAt, points.length / 4, termsAt, normalAt, rightAt);
  return {
    normal: new Float64Array(buffer, normalAt, TERMS * TERMS).slice(),
    right: new Float64Array(buffer, rightAt, TERMS).slice(),
    total,
  };
}

export function evaluateSurface(surface: Surface, x: number, y: number): number {
  return (
    surface[0] +
    x * (surface[1] + x * (surface[3] + x * surface[6] + y * surface[7]) + y * surface[4]) +
    y * (surface[2] + y * (surface[5] + y * surface[9] + x * surface[8]))
  );
}

/** The surface along one row: coefficients of 1, x, x², x³ at the given y. */
export function surfaceAlongRow(surface: Surface, y: number): [number, number, number, number] {
  return [
    surface[0] + y * (surface[2] + y * (surface[5] + y * surface[9])),
    surface[1] + y * (surface[4] + y * surface[8]),
    surface[3] + y * surface[7],
    surface[6],
  ];
}

/** Gaussian elimination with partial pivoting; the matrix is positive definite by its ridge. */
export function solve(matrix: Float64Array, right: Float64Array): Float64Array {
  const n = right.length;
  const a = matrix.slice();
  const b = right.slice();
  for (let k = 0; k < n; k++) {
    let pivot = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(a[i * n + k]) > Math.abs(a[pivot * n + k])) pivot = i;
    if (pivot !== k) {
      for (let j = 0; j < n; j++) [a[k * n + j], a[pivot * n + j]] = [a[pivot * n + j], a[k * n + j]];
      [b[k], b[pivot]] = [b[pivot], b[k]];
    }
    for (let i = k + 1; i < n; i++) {
      const f = a[i * n + k] / a[k * n + k];
      for (let j = k; j < n; j++) a[i * n + j] -= f * a[k * n + j];
      b[i] -= f * b[k];
    }
  }
  for (let k = n - 1; k >= 0; k--) {
    for (let j = k + 1; j < n; j++) b[k] -= a[k * n + j] * b[j];
    b[k] /= a[k * n + k];
  }
  return b;
}
