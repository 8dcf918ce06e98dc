import { directionOf, type Direction } from './direction.ts';

/** One light that falls on a sphere. */
export interface FoundLight {
  direction: Direction;
  /** Level on a surface that faces it. */
  strength: number;
}

/** Light that explains the shading of a matt sphere, the strongest from the front first. */
export interface ShadingFit {
  ambient: number;
  lights: FoundLight[];
  /** Sine of half the angle under which the first light is seen: 0 a point, 1 half the sky. */
  softness: number;
  /** Sum of squares that is left. */
  error: number;
}

const GRID = 18;
const LOWEST = -54;
const GRID_SOFTNESS = 0.15;
const MOST_SOFTNESS = 0.95;
/** How much more light the near side of the sphere gets than its middle: 2 · radius ÷ distance of the lamp. */
const MOST_NEARNESS = 0.4;
/** Pairs from which triples are made, and how many of each are refined. */
const PAIRS = 40;
const STARTS = 4;
/** Another light has to leave no more than this share of what is left without it. */
const WORTH = 0.75;

/**
 * Level of each place under a light of strength 1: the cosine, and where a light of half-angle asin(softness) sets, a
 * parabola that joins it smoothly to darkness.
 */
export function shadingOf(normals: readonly Direction[], { x, y, z }: Direction, softness: number): Float64Array {
  const out = new Float64Array(normals.length);
  addShading(normals, x, y, z, softness, 0, out);
  return out;
}

/**
 * Least squares of level = ambient + Σ kᵢ · shading(sᵢ), all strengths at or above 0, for one to three lights: all
 * pairs of a grid of directions are tried, since two lights that overlap look like one between them; the best are
 * refined, and one more light is believed as long as it explains much more.
 */
export function fitShading(normals: readonly Direction[], levels: readonly number[]): ShadingFit {
  const values = Float64Array.from(levels);
  const grid = new Grid(normals, values);
  const refineFrom = (choice: number[]): Candidate => refine(normals, values, { softness: GRID_SOFTNESS, directions: choice.map((n) => grid.directions[n]), strengths: grid.solve(choice).strengths, error: 0 });
  const least = (list: Candidate[]): Candidate => list.reduce((best, one) => (one.error < best.error ? one : best));
  const pairs = grid.bestPairs();
  const triples = pairs.map((pair) => grid.bestWith(pair)).sort((a, b) => grid.solve(a).error - grid.solve(b).error);
  let best = refineFrom(grid.bestWith([]));
  for (const choices of [pairs.slice(0, STARTS), triples.slice(0, STARTS)]) {
    const found = least(choices.map(refineFrom));
    if (found.error < WORTH * best.error) best = found;
  }
  const { strengths, directions, softness, error } = best;
  const lights = directions.map((direction, n) => ({ direction, strength: strengths[n + 1] }));
  // The main light is the strongest that the camera's side sees; what only grazes from behind is an edge light.
  const main = lights.reduce((most, light) => (frontal(light) > frontal(most) ? light : most));
  const others = lights.filter((light) => light !== main && light.strength > 0).sort((a, b) => b.strength - a.strength);
  return { ambient: strengths[0], lights: main.strength > 0 ? [main, ...others] : [], softness: main === lights[0] ? softness : 0, error };
}

const frontal = ({ direction, strength }: FoundLight): number => strength * Math.max(0.05, Math.min(1, direction.z + 0.35));

interface Candidate {
  directions: Direction[];
  /** Of the first light. */
  softness: number;
  /** Ambient, then each light. */
  strengths: number[];
  error: number;
}

/** Directions over the sphere with all that least squares needs of their shadings. */
class Grid {
  readonly directions = sphere();
  private readonly products: Float64Array[];
  private readonly sums: Float64Array;
  private readonly rights: Float64Array;
  private readonly square: number;

  constructor(normals: readonly Direction[], private readonly values: Float64Array) {
    const shadings = this.directions.map((direction) => shadingOf(normals, direction, GRID_SOFTNESS));
    this.products = shadings.map((a, i) => Float64Array.from(shadings, (b, j) => (j <= i ? dot(a, b) : 0)));
    this.sums = Float64Array.from(shadings, (a) => a.reduce((sum, v) => sum + v, 0));
    this.rights = Float64Array.from(shadings, (a) => dot(a, values));
    this.square = dot(values, values);
  }

  /** Strengths of ambient and the chosen directions. */
  solve(choice: readonly number[]): { strengths: number[]; error: number } {
    const count = choice.length + 1;
    const at = (i: number, j: number): number => {
      if (i === 0 && j === 0) return this.values.length;
      if (i === 0 || j === 0) return this.sums[choice[Math.max(i, j) - 1]];
      const [a, b] = [choice[i - 1], choice[j - 1]];
      return this.products[Math.max(a, b)][Math.min(a, b)];
    };
    const normal = Array.from({ length: count }, (_, i) => Float64Array.from({ length: count }, (_unused, j) => at(i, j)));
    const right = Float64Array.from({ length: count }, (_, i) => (i ? this.rights[choice[i - 1]] : this.values.reduce((sum, v) => sum + v, 0)));
    return nonNegative(normal, right, this.square);
  }

  /** The choice with the one more direction that leaves least. */
  bestWith(choice: number[]): number[] {
    let best = 0;
    let least = Infinity;
    for (let n = 0; n < this.directions.length; n++) {
      if (choice.includes(n)) continue;
      const { error } = this.solve([...choice, n]);
      if (error < least) {
        least = error;
        best = n;
      }
    }
    return [...choice, best];
  }

  /** The few pairs that leave least with no strength below 0, the one from the front first. */
  bestPairs(): number[][] {
    const found: { pair: number[]; error: number }[] = [];
    const count = this.values.length;
    const b0 = this.values.reduce((sum, v) => sum + v, 0);
    for (let i = 0; i < this.directions.length; i++) {
      const [s1, b1, a11] = [this.sums[i], this.rights[i], this.products[i][i]];
      for (let j = 0; j < i; j++) {
        // Cramer's rule; a search of thousands has no time for more.
        const [s2, b2, a22, a12] = [this.sums[j], this.rights[j], this.products[j][j], this.products[i][j]];
        const minor = a11 * a22 - a12 * a12;
        const det = count * minor - s1 * (s1 * a22 - a12 * s2) + s2 * (s1 * a12 - a11 * s2);
        const k0 = b0 * minor - s1 * (b1 * a22 - a12 * b2) + s2 * (b1 * a12 - a11 * b2);
        const k1 = count * (b1 * a22 - b2 * a12) - b0 * (s1 * a22 - a12 * s2) + s2 * (s1 * b2 - b1 * s2);
        const k2 = count * (a11 * b2 - a12 * b1) - s1 * (s1 * b2 - b1 * s2) + b0 * (s1 * a12 - a11 * s2);
        if (det < 1e-9 || k0 < 0 || k1 < 0 || k2 < 0) continue;
        const error = this.square - (k0 * b0 + k1 * b1 + k2 * b2) / det;
        if (found.length === PAIRS && error >= found[PAIRS - 1].error) continue;
        const pair = this.directions[i].z >= this.directions[j].z ? [i, j] : [j, i];
        found.push({ pair, error });
        found.sort((a, b) => a.error - b.error);
        found.length = Math.min(found.length, PAIRS);
      }
    }
    return found.map(({ pair }) => pair);
  }
}

/** Directions over the sphere, a grid step apart. */
function sphere(): Direction[] {
  const out: Direction[] = [];
  for (let elevation = LOWEST; elevation <= 90; elevation += GRID) {
    const ring = Math.max(1, Math.round((360 * Math.cos((elevation * Math.PI) / 180)) / GRID));
    for (let k = 0; k < ring; k++) out.push(directionOf((360 * k) / ring - 180, elevation));
  }
  return out;
}

const MOST_STEPS = 30;

/**
 * Levenberg–Marquardt over ambient, softness, nearness and each light as a vector (direction times strength), from a start; slopes
 * by differences, since the shading has no slope where a light sets.
 */
function refine(normals: readonly Direction[], values: Float64Array, start: Candidate): Candidate {
  let at = [start.strengths[0], start.softness, 0.05, ...start.directions.flatMap((d, n) => [d.x, d.y, d.z].map((v) => v * Math.max(start.strengths[n + 1], 1e-3)))];
  let model = modelOf(normals, at);
  let error = squares(model, values);
  let damping = 1e-3;
  for (let step = 0; step < MOST_STEPS && damping < 1e6; step++) {
    const slopes = at.map((v, k) => {
      const h = k === 1 || k === 2 ? 0.01 : 1e-4 * (1 + Math.abs(v));
      const moved = modelOf(normals, at.map((w, j) => (j === k ? w + h : w)));
      for (let n = 0; n < moved.length; n++) moved[n] = (moved[n] - model[n]) / h;
      return moved;
    });
    const rest = values.map((v, n) => v - model[n]);
    const normal = slopes.map((a) => slopes.map((b) => dot(a, b)));
    const right = slopes.map((a) => dot(a, rest));
    const change = solveDamped(normal, right, damping);
    const next = at.map((v, k) => (k === 0 ? Math.max(0, v + change[k]) : k === 1 ? between(0, MOST_SOFTNESS, v + change[k]) : k === 2 ? between(0, MOST_NEARNESS, v + change[k]) : v + change[k]));
    const nextModel = modelOf(normals, next);
    const nextError = squares(nextModel, values);
    if (nextError < error) {
      const gain = error - nextError;
      at = next;
      model = nextModel;
      error = nextError;
      damping = Math.max(1e-9, damping / 5);
      if (gain < 1e-7 * error) break;
    } else damping *= 6;
  }
  const lights = start.directions.map((_, n) => at.slice(3 + 3 * n, 6 + 3 * n));
  const lengths = lights.map((v) => Math.hypot(...v));
  return { softness: at[1], directions: lights.map(([x, y, z], n) => ({ x: x / (lengths[n] || 1), y: y / (lengths[n] || 1), z: z / (lengths[n] || 1) })), strengths: [at[0], ...lengths], error };
}

/** Levels by ambient, softness of the first light, nearness and the lights' vectors. */
function modelOf(normals: readonly Direction[], at: readonly number[]): Float64Array {
  const out = new Float64Array(normals.length).fill(at[0]);
  for (let k = 3; k < at.length; k += 3) {
    const strength = Math.hypot(at[k], at[k + 1], at[k + 2]);
    if (strength >= 1e-9) addShading(normals, at[k], at[k + 1], at[k + 2], strength * (k === 3 ? between(0, 1, at[1]) : 0), at[2] / strength, out);
  }
  return out;
}

const between = (least: number, most: number, value: number): number => Math.max(least, Math.min(most, value));

/**
 * Adds the shading of one light.
 * @param edge level up to which, and down to minus which, the light sets.
 * @param nearer relative gain of what stands nearer to the lamp, for each unit of level.
 */
function addShading(normals: readonly Direction[], x: number, y: number, z: number, edge: number, nearer: number, out: Float64Array): void {
  for (let n = 0; n < normals.length; n++) {
    const { x: nx, y: ny, z: nz } = normals[n];
    const c = nx * x + ny * y + nz * z;
    if (c >= edge) out[n] += c * (1 + nearer * c);
    else if (c > -edge) out[n] += ((c + edge) ** 2 / (4 * edge)) * (1 + nearer * c);
  }
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let n = 0; n < a.length; n++) sum += a[n] * b[n];
  return sum;
}

function squares(model: Float64Array, values: Float64Array): number {
  let sum = 0;
  for (let n = 0; n < values.length; n++) sum += (model[n] - values[n]) ** 2;
  return sum;
}

/** Gaussian elimination of (N + damping · diagonal) x = r. */
function solveDamped(normal: readonly (readonly number[])[], right: readonly number[], damping: number): number[] {
  const n = right.length;
  const m = normal.map((row, i) => [...row.map((v, j) => (i === j ? v * (1 + damping) + 1e-9 : v)), right[i]]);
  for (let k = 0; k < n; k++) {
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const f = m[i][k] / m[k][k];
      for (let j = k; j <= n; j++) m[i][j] -= f * m[k][j];
    }
  }
  return m.map((row, k) => row[n] / row[k]);
}

/** Unknowns at or above 0: the solution of all of them, or else the best of those with some left out. */
function nonNegative(normal: readonly Float64Array[], right: Float64Array, square: number): { strengths: number[]; error: number } {
  const count = right.length;
  let best = { strengths: new Array<number>(count).fill(0), error: square };
  const all = (1 << count) - 1;
  for (let used = all; used > 0; used--) {
    const solution = solveSet(normal, right, used);
    if (!solution) continue;
    const error = Math.max(0, square - solution.reduce((sum, k, i) => sum + k * right[i], 0));
    if (error < best.error) best = { strengths: solution, error };
    if (used === all) break;
  }
  return best;
}

/** Gaussian elimination over the chosen unknowns; @returns undefined if singular or one comes out below 0. */
function solveSet(normal: readonly Float64Array[], right: Float64Array, used: number): number[] | undefined {
  const index = Array.from(right.keys()).filter((i) => used & (1 << i));
  const m = index.map((i) => [...index.map((j) => normal[i][j]), right[i]]);
  const n = index.length;
  for (let k = 0; k < n; k++) {
    if (m[k][k] < 1e-9) return undefined;
    for (let i = k + 1; i < n; i++) {
      const f = m[i][k] / m[k][k];
      for (let j = k; j <= n; j++) m[i][j] -= f * m[k][j];
    }
  }
  const out = new Array<number>(right.length).fill(0);
  for (let k = n - 1; k >= 0; k--) {
    let v = m[k][n];
    for (let j = k + 1; j < n; j++) v -= m[k][j] * out[index[j]];
    out[index[k]] = v / m[k][k];
    if (!(out[index[k]] >= 0)) return undefined;
  }
  return out;
}
