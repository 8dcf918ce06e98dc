import type { LinearRaster, Mask } from '../image/raster.ts';
import { createPlane, type Plane } from '../image/raster.ts';
import { medianOf } from './statistics.ts';

/** The screen's level measured over the frame, place by place from the top left. */
export interface Lawn {
  columns: number;
  rows: number;
  /** Stops around the mean, creases smoothed away; NaN where no screen is seen. */
  stops: Float64Array;
  /** Linear colour at each place, 3 values; NaN where no screen is seen. */
  colour: Float64Array;
}

export const LAWN_COLUMNS = 24;
/** A place counts when at least this share of it is screen. */
const LEAST_SHARE = 0.35;
/** Places each way over which the level is taken as a smooth surface: wider than a crease. */
const REACH = 3;

/**
 * Measures the screen where `clear` says it is plainly seen.
 * @param frame linear RGB, reduced.
 * @param channel of the screen's primary.
 */
export function measureLawn(frame: LinearRaster, clear: Mask, channel: 1 | 2): Lawn {
  const { width, height, data } = frame;
  const columns = Math.min(LAWN_COLUMNS, width);
  const rows = Math.max(1, Math.min(4 * columns, Math.round((columns * height) / width)));
  const colour = new Float64Array(columns * rows * 3).fill(NaN);
  const raw = new Float64Array(columns * rows).fill(NaN);
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const values: number[] = [];
      const sum = [0, 0, 0];
      let count = 0;
      for (let y = Math.floor((row * height) / rows); y < Math.floor(((row + 1) * height) / rows); y++) {
        for (let x = Math.floor((column * width) / columns); x < Math.floor(((column + 1) * width) / columns); x++) {
          count++;
          const p = y * width + x;
          if (!clear.data[p]) continue;
          values.push(data[p * 3 + channel]);
          for (let c = 0; c < 3; c++) sum[c] += data[p * 3 + c];
        }
      }
      if (values.length < Math.max(1, LEAST_SHARE * count)) continue;
      const o = row * columns + column;
      raw[o] = Math.log2(Math.max(1e-5, medianOf(values)));
      for (let c = 0; c < 3; c++) colour[o * 3 + c] = sum[c] / values.length;
    }
  }
  const stops = smoothPlaces(raw, columns, rows);
  let mean = 0;
  let seen = 0;
  for (const value of stops) {
    if (Number.isNaN(value)) continue;
    mean += 2 ** value;
    seen++;
  }
  const level = Math.log2(mean / Math.max(1, seen));
  return { columns, rows, colour, stops: stops.map((value) => value - level) };
}

/** Each place from a quadratic through the places around it, so that a slope goes on to the border (Cleveland 1979). */
function smoothPlaces(raw: Float64Array, columns: number, rows: number): Float64Array {
  const out = new Float64Array(raw.length).fill(NaN);
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const o = row * columns + column;
      if (Number.isNaN(raw[o])) continue;
      const points: [number, number, number, number][] = [];
      for (let dy = -REACH; dy <= REACH; dy++) {
        for (let dx = -REACH; dx <= REACH; dx++) {
          const x = column + dx;
          const y = row + dy;
          if (x < 0 || y < 0 || x >= columns || y >= rows || Number.isNaN(raw[y * columns + x])) continue;
          points.push([dx, dy, raw[y * columns + x], (1 - (Math.hypot(dx, dy) / (REACH * 1.6)) ** 2) ** 2]);
        }
      }
      out[o] =
        points.length >= 12 ? centreOfQuadratic(points) : points.reduce((sum, [, , z]) => sum + z, 0) / points.length;
    }
  }
  return out;
}

/**
 * Weighted least squares of z = a + bx + cy + dx² + exy + fy², its value at the origin; a little ridge keeps borders
 * calm.
 */
function centreOfQuadratic(points: [number, number, number, number][]): number {
  const n = 6;
  const a = new Float64Array(n * (n + 1));
  for (const [x, y, z, w] of points) {
    const t = [1, x, y, x * x, x * y, y * y];
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) a[i * (n + 1) + j] += w * t[i] * t[j];
      a[i * (n + 1) + n] += w * t[i] * z;
    }
  }
  for (let i = 3; i < n; i++) a[i * (n + 1) + i] += 4;
  return solveLinear(a, n)[0];
}

/** Gauss–Jordan on n rows of n + 1; the matrices here are positive definite. */
function solveLinear(a: Float64Array, n: number): number[] {
  const w = n + 1;
  for (let k = 0; k < n; k++) {
    const pivot = a[k * w + k] || 1e-12;
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const f = a[i * w + k] / pivot;
      for (let j = k; j < w; j++) a[i * w + j] -= f * a[k * w + j];
    }
  }
  return Array.from({ length: n }, (_, k) => a[k * w + n] / (a[k * w + k] || 1e-12));
}

export interface LawnPlace {
  /** Shares of the frame from the top left. */
  x: number;
  y: number;
  stops: number;
}

export interface LawnSpread {
  spread: number;
  spread90: number;
  hot: LawnPlace;
  dark: LawnPlace;
  /**
   * A quadratic through all places, stops: from the left to the right edge, from the bottom to the top, and by how
   * much the middle stands above the sides and above top and bottom.
   */
  tilt: number;
  rise: number;
  bulge: number;
  arch: number;
}

/** @returns undefined when fewer than four places show the screen. */
export function spreadOf({ stops, columns, rows }: Lawn): LawnSpread | undefined {
  const seen = [...stops.keys()].filter((p) => !Number.isNaN(stops[p])).sort((a, b) => stops[a] - stops[b]);
  if (seen.length < 4) return undefined;
  const at = (share: number): number => stops[seen[Math.min(seen.length - 1, Math.floor(share * seen.length))]];
  const place = (p: number): LawnPlace => ({
    x: ((p % columns) + 0.5) / columns,
    y: (Math.floor(p / columns) + 0.5) / rows,
    stops: stops[p],
  });
  const [, tilt, rise, bulge, arch] = quadraticThrough(
    seen.map((p) => [
      (2 * ((p % columns) + 0.5)) / columns - 1,
      1 - (2 * (Math.floor(p / columns) + 0.5)) / rows,
      stops[p],
    ]),
  );
  return {
    spread: stops[seen[seen.length - 1]] - stops[seen[0]],
    spread90: at(0.95) - at(0.05),
    hot: place(seen[seen.length - 1]),
    dark: place(seen[0]),
    tilt: 2 * tilt,
    rise: 2 * rise,
    bulge: -bulge,
    arch: -arch,
  };
}

/**
 * Least squares of z = a + b·x + c·y + d·x² + e·y² through points with x and y from −1 to 1; a little ridge on the
 * squares.
 */
function quadraticThrough(points: [number, number, number][]): number[] {
  const n = 5;
  const a = new Float64Array(n * (n + 1));
  for (const [x, y, z] of points) {
    const t = [1, x, y, x * x, y * y];
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) a[i * (n + 1) + j] += t[i] * t[j];
      a[i * (n + 1) + n] += t[i] * z;
    }
  }
  for (let i = 0; i < n; i++) a[i * (n + 1) + i] += 1e-3 * points.length * (i > 2 ? 1 : 0.01);
  return solveLinear(a, n);
}

/** The smooth level at every pixel of a reduced frame, linear, relative to the mean; holes are carried over. */
export function trendOf(lawn: Lawn, width: number, height: number): Plane {
  const { columns, rows } = lawn;
  const stops = filled(lawn);
  const out = createPlane(width, height);
  for (let y = 0; y < height; y++) {
    const gy = Math.max(0, Math.min(rows - 1, ((y + 0.5) / height) * rows - 0.5));
    const y0 = Math.min(rows - 1, Math.floor(gy));
    const y1 = Math.min(rows - 1, y0 + 1);
    for (let x = 0; x < width; x++) {
      const gx = Math.max(0, Math.min(columns - 1, ((x + 0.5) / width) * columns - 0.5));
      const x0 = Math.min(columns - 1, Math.floor(gx));
      const x1 = Math.min(columns - 1, x0 + 1);
      const top = stops[y0 * columns + x0] * (1 - gx + x0) + stops[y0 * columns + x1] * (gx - x0);
      const low = stops[y1 * columns + x0] * (1 - gx + x0) + stops[y1 * columns + x1] * (gx - x0);
      out.data[y * width + x] = 2 ** (top * (1 - gy + y0) + low * (gy - y0));
    }
  }
  return out;
}

/** Places without a value take the mean of their neighbours, from the rim inwards. */
function filled({ stops, columns, rows }: Lawn): Float64Array {
  const out = stops.slice();
  for (let pass = 0; pass < columns + rows && out.some(Number.isNaN); pass++) {
    const before = out.slice();
    before.forEach((value, p) => {
      if (!Number.isNaN(value)) return;
      const around = [p % columns ? p - 1 : -1, (p + 1) % columns ? p + 1 : -1, p - columns, p + columns]
        .map((q) => before[q])
        .filter((v) => v !== undefined && !Number.isNaN(v));
      if (around.length) out[p] = around.reduce((sum, v) => sum + v, 0) / around.length;
    });
  }
  return out.map((value) => (Number.isNaN(value) ? 0 : value));
}
