import { luminance } from '../colour/luminance.ts';
import type { Rgb } from '../plan/exposure.ts';
import { solve } from '../screen/polynomial.ts';

/**
 * The light at a place as a matt ball shows it: what comes from a matt surface by the way it faces, linear, as nine
 * terms for each channel. Light on a matt surface is smooth enough for polynomials of second degree in the direction
 * (Ramamoorthi & Hanrahan 2001); those of the half that faces the camera are fitted.
 */
export interface BallLight {
  red: number[];
  green: number[];
  blue: number[];
}
/** A unit vector as the camera sees it: x right, y up, z towards it. */
export interface Facing {
  x: number;
  y: number;
  z: number;
}
export const TERMS = 9;

function termsOf({ x, y, z }: Facing): number[] {
  return [1, x, y, z, x * y, x * z, y * z, x * x - y * y, z * z];
}

/** Keeps the fit steady where a ball shows some of its sides only, as a share of the samples. */
const RIDGE = 1e-4;

/** @returns undefined where there are too few samples. */
export function fitBallLight(
  facings: readonly Facing[],
  colours: readonly (readonly number[])[],
): BallLight | undefined {
  if (facings.length < 2 * TERMS) return undefined;
  const rows = facings.map(termsOf);
  const normal = new Float64Array(TERMS * TERMS);
  for (let i = 0; i < TERMS; i++)
    for (let j = 0; j < TERMS; j++)
      normal[i * TERMS + j] = rows.reduce((sum, row) => sum + row[i] * row[j], 0) + (i === j ? RIDGE * rows.length : 0);
  const [red, green, blue] = [0, 1, 2].map((c) => [
    ...solve(
      normal,
      Float64Array.from({ length: TERMS }, (_, i) => rows.reduce((sum, row, n) => sum + row[i] * colours[n][c], 0)),
    ),
  ]);
  return { red, green, blue };
}

/** Least light that a side is believed to get, as a share of what the side facing the camera does. */
const LEAST = 0.06;

/** What comes from a surface that faces there. */
export function lightAt(light: BallLight, facing: Facing): Rgb {
  const terms = termsOf(facing);
  const front = termsOf({ x: 0, y: 0, z: 1 });
  const of = (channel: readonly number[], by: readonly number[]): number =>
    channel.reduce((sum, v, n) => sum + v * by[n], 0);
  return [light.red, light.green, light.blue].map((channel) =>
    Math.max(of(channel, terms), LEAST * Math.max(1e-4, of(channel, front))),
  ) as Rgb;
}

/** The same light mirrored left to right. */
export function mirroredLight({ red, green, blue }: BallLight): BallLight {
  const turn = (channel: readonly number[]): number[] =>
    channel.map((v, n) => (n === 1 || n === 4 || n === 5 ? -v : v));
  return { red: turn(red), green: turn(green), blue: turn(blue) };
}

/** What a person's light has to be multiplied by, facing the camera: gains of brightness, and of colour at luminance 1. */
export function frontRatio(from: BallLight, to: BallLight): { stops: number; tint: Rgb } {
  const front = { x: 0, y: 0, z: 1 };
  const [a, b] = [lightAt(from, front), lightAt(to, front)];
  const ratio = b.map((v, c) => v / a[c]) as Rgb;
  const strength = luminance(...b) / luminance(...a);
  const grey = luminance(...ratio);
  return { stops: Math.log2(strength), tint: ratio.map((v) => v / grey) as Rgb };
}

/** Times that a side may get lighter or darker against the side facing the camera. */
const MOST_TURN = 3;

/** How much more of the new light than of the old a surface gets, against one that faces the camera. */
export function turnRatio(from: BallLight, to: BallLight, facing: Facing): Rgb {
  const front = { x: 0, y: 0, z: 1 };
  const [a, b, a0, b0] = [lightAt(from, facing), lightAt(to, facing), lightAt(from, front), lightAt(to, front)];
  return a.map((v, c) => Math.min(MOST_TURN, Math.max(1 / MOST_TURN, (b[c] / v) * (a0[c] / b0[c])))) as Rgb;
}
