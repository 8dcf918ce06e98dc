import type { LinearRaster } from '../image/raster.ts';
import { fitBallLight, type BallLight } from '../place/ballLight.ts';
import { temperatureToRgb } from '../plan/lampLight.ts';
import { anglesOf, type Angles, type Direction } from './direction.ts';
import { fitShading, shadingOf } from './shading.ts';

/** A circle in shares of the frame's width. */
export interface Circle {
  x: number;
  y: number;
  radius: number;
}

/**
 * The light on a matt ball, as seen by the camera: azimuth to the right of it, 180° from behind; elevation above the
 * level.
 */
export interface BallReading extends Angles {
  circle: Circle;
  /** Second light, where one helps to explain the shading; its share is of the main light. */
  fill?: Angles & { share: number };
  /** Key with everything over everything without it, on the lit side, stops. */
  keyOverFill: number;
  /** How soft the main light is, the sine of half the angle under which it is seen: 0 a point, 1 half the sky. */
  softness: number;
  /** Of the main light, if the picture's white is daylight of 5500 K; tint above 0 magenta, hundredths. */
  temperature: number;
  tint: number;
  /** What the fit leaves unexplained, as a share of the brightest place. */
  residual: number;
  /** What comes from it by the way its surface faces, for matching a person to a background. */
  light?: BallLight;
}

/** Rim and screen light from behind are left out. */
const LEAST_FACING = 0.3;
const LEAST_RADIUS = 4;
const LEAST_SAMPLES = 40;
/** Samples across the radius; more would not be more exact. */
const ACROSS = 9;

/**
 * Light from the shading of a matt sphere; see `fitShading`.
 * @param frame linear RGB.
 * @param spared channel left out because the screen shines into it.
 * @returns undefined when the circle shows too little.
 */
export function readBall(frame: LinearRaster, circle: Circle, spared?: 1 | 2): BallReading | undefined {
  const { normals, colours } = sampleBall(frame, circle);
  if (normals.length < LEAST_SAMPLES) return undefined;
  const used = [0, 1, 2].filter((c) => c !== spared);
  const levels = colours.map((rgb) => used.reduce((sum, c) => sum + rgb[c], 0) / used.length);
  const { ambient, lights, softness, error } = fitShading(normals, levels);
  const [main, second] = lights;
  if (!main) return undefined;
  const facing = (a: Direction): number =>
    Math.max(0, main.direction.x * a.x + main.direction.y * a.y + main.direction.z * a.z);
  const without =
    ambient + lights.slice(1).reduce((sum, { direction, strength }) => sum + strength * facing(direction), 0);
  const others = lights.slice(1).map(({ direction }) => shadingOf(normals, direction, 0));
  const f = shadingOf(normals, main.direction, softness);
  const rgb = [0, 1, 2].map((c) =>
    strengthIn(
      f,
      colours.map((colour) => colour[c]),
      others,
    ),
  );
  return {
    circle,
    ...anglesOf(main.direction),
    fill: second && { ...anglesOf(second.direction), share: second.strength / main.strength },
    keyOverFill: Math.min(8, Math.log2((main.strength + without) / Math.max(1e-6, without))),
    softness,
    ...colourOf(rgb),
    light: fitBallLight(normals, colours),
    residual: Math.sqrt(error / normals.length) / Math.max(1e-6, Math.max(...levels)),
  };
}

function sampleBall(
  { width, height, data }: LinearRaster,
  circle: Circle,
): { normals: Direction[]; colours: number[][] } {
  const cx = circle.x * width;
  const cy = circle.y * width;
  const r = circle.radius * width;
  const normals: Direction[] = [];
  const colours: number[][] = [];
  if (!(r >= LEAST_RADIUS)) return { normals, colours };
  const step = Math.max(1, Math.floor(r / ACROSS));
  for (let y = Math.floor(cy - r); y < cy + r; y += step) {
    for (let x = Math.floor(cx - r); x < cx + r; x += step) {
      const nx = (x + step / 2 - cx) / r;
      const ny = (cy - y - step / 2) / r;
      const flat = nx * nx + ny * ny;
      if (flat >= 1 - LEAST_FACING ** 2 || x < 0 || y < 0 || x + step > width || y + step > height) continue;
      const rgb = [0, 0, 0];
      // The mean of a little square, so that noise counts less.
      for (let k = 0; k < step * step; k++)
        for (let c = 0; c < 3; c++)
          rgb[c] += data[((y + Math.floor(k / step)) * width + x + (k % step)) * 3 + c] / (step * step);
      if (Math.max(...rgb) >= 0.98) continue;
      normals.push({ x: nx, y: ny, z: Math.sqrt(1 - flat) });
      colours.push(rgb);
    }
  }
  return { normals, colours };
}

/**
 * Strength of the main light in one channel: slope of the level along its shading, ambient and the other lights
 * beside it.
 */
function strengthIn(f: Float64Array, levels: number[], others: Float64Array[]): number {
  // Gram–Schmidt: what is left of the main light's shading when ambient and the other lights are taken out of it.
  let own: Float64Array = f;
  const basis: Float64Array[] = [];
  for (const column of [new Float64Array(f.length).fill(1), ...others]) {
    const rest = basis.reduce(without, column);
    basis.push(rest);
    own = without(own, rest);
  }
  const square = own.reduce((sum, v) => sum + v * v, 0);
  return square > 1e-9 ? Math.max(0, own.reduce((sum, v, n) => sum + v * levels[n], 0) / square) : 0;
}

function without(a: Float64Array, b: Float64Array): Float64Array {
  const square = b.reduce((sum, v) => sum + v * v, 0);
  if (square < 1e-12) return a;
  const share = a.reduce((sum, v, n) => sum + v * b[n], 0) / square;
  return a.map((v, n) => v - share * b[n]);
}

const REFERENCE = 5500;

/** Colour temperature and tint of a light relative to a picture balanced for daylight. */
function colourOf([r, g, b]: number[]): { temperature: number; tint: number } {
  if (!(r > 0 && g > 0 && b > 0)) return { temperature: REFERENCE, tint: 0 };
  const reference = temperatureToRgb(REFERENCE);
  let best = { temperature: REFERENCE, distance: Infinity };
  for (let mired = 60; mired <= 500; mired += 2) {
    const [tr, , tb] = temperatureToRgb(1e6 / mired);
    const distance = Math.abs(Math.log(tr / reference[0] / (tb / reference[2]) / (r / b)));
    if (distance < best.distance) best = { temperature: 1e6 / mired, distance };
  }
  const [tr, tg, tb] = temperatureToRgb(best.temperature).map((v, c) => v / reference[c]);
  return {
    temperature: Math.round(best.temperature / 10) * 10,
    tint: Math.round(100 * Math.log10(Math.sqrt((r * b) / (tr * tb)) / (g / tg))),
  };
}

/** How the studio's main light has to move to stand as the background's does. */
export interface LightMove {
  /** Degrees as the camera sees it. */
  right: number;
  up: number;
  /** Stops of key over fill; above 0 the studio needs less fill. */
  ratio: number;
  /** Above 0 the light has to become softer: sine of half the angle it is seen under. */
  softer: number;
  /** Mired: above 0 warmer. */
  warmer: number;
}

export function moveTo(background: BallReading, studio: BallReading): LightMove {
  const wrapped = ((background.azimuth - studio.azimuth + 540) % 360) - 180;
  return {
    right: wrapped,
    up: background.elevation - studio.elevation,
    ratio: background.keyOverFill - studio.keyOverFill,
    softer: background.softness - studio.softness,
    warmer: 1e6 / background.temperature - 1e6 / studio.temperature,
  };
}
