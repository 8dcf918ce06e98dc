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

const GRID = 22.5;
const LOWEST = -45;
const GRID_SOFTNESS = 0.15;
const MOST_SOFTNESS = 0.95;
/** How much more light the near side of the sphere gets than its middle: 2 · radius ÷ distance of the lamp. */
const MOST_NEARNESS = 0.4;
/** So many of each number of lights are refined. */
const STARTS = 6;
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
 * pairs and triples of a grid of directions are tried, since lights that overlap look like one between them; the best
 * are refined, and one more light is believed as long as it explains much more.
 */
export function fitShading(normals: readonly Direction[], levels: readonly number[]): ShadingFit {
  const values = Float64Array.from(levels);
  const grid = new Grid(normals, values);
  const refined = (lights: 1 | 2 | 3): Candidate | undefined =>
    grid
      .best(lights)
      // The light that the camera's side sees most of is the one whose softness is looked for.
      .map(({ choice, strengths }) =>
        choice
          .map((n, k) => ({ direction: grid.directions[n], strength: strengths[k + 1], ambient: strengths[0] }))
          .sort((a, b) => frontal(b) - frontal(a)),
      )
      .map((found) =>
        refine(normals, values, {
          softness: GRID_SOFTNESS,
          directions: found.map(({ direction }) => direction),
          strengths: [found[0].ambient, ...found.map(({ strength }) => strength)],
          error: 0,
        }),
      )
      .reduce<Candidate | undefined>((least, one) => (least && least.error <= one.error ? least : one), undefined);
  let best: Candidate = refined(1) ?? {
    directions: [],
    softness: 0,
    strengths: [values.reduce((sum, v) => sum + v, 0) / values.length],
    error: 0,
  };
  for (const lights of [2, 3] as const) {
    const found = refined(lights);
    if (found && found.error < WORTH * best.error) best = found;
  }
  const { strengths, directions, softness, error } = best;
  const lights = directions.map((direction, n) => ({ direction, strength: strengths[n + 1] }));
  // The main light is the strongest that the camera's side sees; what only grazes from behind is an edge light.
  if (!lights.length) return { ambient: strengths[0], lights: [], softness: 0, error };
  const foremost = lights.reduce((most, light) => (frontal(light) > frontal(most) ? light : most));
  // A tall or broad source is well explained by two beside each other; they are one light.
  const parts = lights.filter(({ direction }) => dotOf(direction, foremost.direction) > ONE_SOURCE);
  const sum = parts.reduce(
    (v, { direction: d, strength }) => ({ x: v.x + d.x * strength, y: v.y + d.y * strength, z: v.z + d.z * strength }),
    { x: 0, y: 0, z: 0 },
  );
  const strength = Math.hypot(sum.x, sum.y, sum.z);
  const others = lights
    .filter((light) => !parts.includes(light) && light.strength > 0)
    .sort((p, q) => q.strength - p.strength);
  const main: FoundLight = {
    direction: { x: sum.x / (strength || 1), y: sum.y / (strength || 1), z: sum.z / (strength || 1) },
    strength,
  };
  const spread = Math.max(
    ...parts.map(({ direction }) => Math.sqrt(Math.max(0, 1 - dotOf(direction, main.direction) ** 2))),
  );
  return {
    ambient: strengths[0],
    lights: strength > 0 ? [main, ...others] : [],
    softness: Math.max(foremost === lights[0] ? softness : 0, spread),
    error,
  };
}

const dotOf = (a: Direction, b: Direction): number => a.x * b.x + a.y * b.y + a.z * b.z;
/** Cosine of the angle within which lights are parts of one source. */
const ONE_SOURCE = 0.85;

const frontal = ({ direction, strength }: FoundLight): number =>
  strength * Math.max(0.05, Math.min(1, direction.z + 0.35));

interface Candidate {
  directions: Direction[];
  /** Of the first light. */
  softness: number;
  /** Ambient, then each light. */
  strengths: number[];
  error: number;
}

/**
 * Directions over the sphere with all that least squares needs of their shadings. The ambient is taken out beforehand
 * by centring, so that two lights are a system of two, three of three, and all of them can be tried.
 */
class Grid {
  readonly directions = sphere();
  private readonly products: Float64Array[];
  private readonly rights: Float64Array;
  private readonly means: Float64Array;
  private readonly mean: number;
  private readonly square: number;

  constructor(normals: readonly Direction[], values: Float64Array) {
    const count = values.length;
    const centred = (list: Float64Array): { mean: number; rest: Float64Array } => {
      const mean = list.reduce((sum, v) => sum + v, 0) / count;
      return { mean, rest: list.map((v) => v - mean) };
    };
    const own = centred(values);
    const shadings = this.directions.map((direction) => centred(shadingOf(normals, direction, GRID_SOFTNESS)));
    this.mean = own.mean;
    this.square = dot(own.rest, own.rest);
    this.means = Float64Array.from(shadings, ({ mean }) => mean);
    this.rights = Float64Array.from(shadings, ({ rest }) => dot(rest, own.rest));
    this.products = shadings.map((a, i) => Float64Array.from(shadings, (b, j) => (j <= i ? dot(a.rest, b.rest) : 0)));
  }

  /** The few choices of so many directions that leave least with no strength below 0, with ambient and strengths. */
  best(lights: 1 | 2 | 3): GridChoice[] {
    const found: GridChoice[] = [];
    const offer = (choice: number[], strengths: number[]): void => {
      const ambient = this.mean - strengths.reduce((sum, k, n) => sum + k * this.means[choice[n]], 0);
      if (ambient < -1e-9) return;
      const error = this.square - strengths.reduce((sum, k, n) => sum + k * this.rights[choice[n]], 0);
      if (found.length === STARTS && error >= found[STARTS - 1].error) return;
      found.push({ choice, strengths: [ambient, ...strengths], error });
      found.sort((a, b) => a.error - b.error);
      found.length = Math.min(found.length, STARTS);
    };
    const r = this.rights;
    for (let i = 0; i < r.length; i++) {
      const a = this.products[i][i];
      if (lights === 1) {
        if (a > SINGULAR && r[i] >= 0) offer([i], [r[i] / a]);
        continue;
      }
      for (let j = 0; j < i; j++) {
        const b = this.products[i][j];
        const d = this.products[j][j];
        const minor = a * d - b * b;
        if (lights === 2) {
          const k1 = r[i] * d - r[j] * b;
          const k2 = a * r[j] - b * r[i];
          if (minor > SINGULAR && k1 >= 0 && k2 >= 0) offer([i, j], [k1 / minor, k2 / minor]);
          continue;
        }
        for (let k = 0; k < j; k++) {
          // Cramer's rule.
          const c = this.products[i][k];
          const e = this.products[j][k];
          const f = this.products[k][k];
          const det = a * (d * f - e * e) - b * (b * f - c * e) + c * (b * e - c * d);
          if (det < SINGULAR) continue;
          const k1 = r[i] * (d * f - e * e) - b * (r[j] * f - r[k] * e) + c * (r[j] * e - r[k] * d);
          const k2 = a * (r[j] * f - r[k] * e) - r[i] * (b * f - c * e) + c * (b * r[k] - c * r[j]);
          const k3 = a * (d * r[k] - e * r[j]) - b * (b * r[k] - c * r[j]) + r[i] * (b * e - c * d);
          if (k1 >= 0 && k2 >= 0 && k3 >= 0) offer([i, j, k], [k1 / det, k2 / det, k3 / det]);
        }
      }
    }
    return found;
  }
}

/** Directions by their place in the grid; ambient, then the strength of each; what they leave. */
interface GridChoice {
  choice: number[];
  strengths: number[];
  error: number;
}
const SINGULAR = 1e-9;

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
 * Levenberg–Marquardt over ambient, softness, nearness and each light as a vector (direction times strength), from a
 * start; slopes by differences, since the shading has no slope where a light sets.
 */
function refine(normals: readonly Direction[], values: Float64Array, start: Candidate): Candidate {
  let at = [
    start.strengths[0],
    start.softness,
    0.05,
    ...start.directions.flatMap((d, n) => [d.x, d.y, d.z].map((v) => v * Math.max(start.strengths[n + 1], 1e-3))),
  ];
  let model = modelOf(normals, at);
  let error = squares(model, values);
  let damping = 1e-3;
  for (let step = 0; step < MOST_STEPS && damping < 1e6; step++) {
    const slopes = at.map((v, k) => {
      const h = k === 1 || k === 2 ? 0.01 : 1e-4 * (1 + Math.abs(v));
      const moved = modelOf(
        normals,
        at.map((w, j) => (j === k ? w + h : w)),
      );
      for (let n = 0; n < moved.length; n++) moved[n] = (moved[n] - model[n]) / h;
      return moved;
    });
    const rest = values.map((v, n) => v - model[n]);
    const normal = slopes.map((a) => slopes.map((b) => dot(a, b)));
    const right = slopes.map((a) => dot(a, rest));
    const change = solveDamped(normal, right, damping);
    const next = at.map((v, k) =>
      k === 0
        ? Math.max(0, v + change[k])
        : k === 1
          ? between(0, MOST_SOFTNESS, v + change[k])
          : k === 2
            ? between(0, MOST_NEARNESS, v + change[k])
            : v + change[k],
    );
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
  return {
    softness: at[1],
    directions: lights.map(([x, y, z], n) => ({
      x: x / (lengths[n] || 1),
      y: y / (lengths[n] || 1),
      z: z / (lengths[n] || 1),
    })),
    strengths: [at[0], ...lengths],
    error,
  };
}

/** Levels by ambient, softness of the first light, nearness and the lights' vectors. */
function modelOf(normals: readonly Direction[], at: readonly number[]): Float64Array {
  const out = new Float64Array(normals.length).fill(at[0]);
  for (let k = 3; k < at.length; k += 3) {
    const strength = Math.hypot(at[k], at[k + 1], at[k + 2]);
    if (strength >= 1e-9)
      addShading(
        normals,
        at[k],
        at[k + 1],
        at[k + 2],
        strength * (k === 3 ? between(0, 1, at[1]) : 0),
        at[2] / strength,
        out,
      );
  }
  return out;
}

const between = (least: number, most: number, value: number): number => Math.max(least, Math.min(most, value));

/**
 * Adds the shading of one light.
 * @param edge level up to which, and down to minus which, the light sets.
 * @param nearer relative gain of what stands nearer to the lamp, for each unit of level.
 */
function addShading(
  normals: readonly Direction[],
  x: number,
  y: number,
  z: number,
  edge: number,
  nearer: number,
  out: Float64Array,
): void {
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
