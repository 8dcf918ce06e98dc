import { nearestFeature } from '../image/distance.ts';
import { where } from '../image/masks.ts';
import type { LinearRaster, Mask } from '../image/raster.ts';
import type { Rgb } from '../plan/exposure.ts';
import { chromaDistance } from '../plan/wardrobe.ts';
import { quantileOf } from './statistics.ts';

/** Screen light on the person's outline. */
export interface Spill {
  /** Of the screen's channel, below the light on the same material farther in, stops. */
  stops: number;
  /** Against the same material farther in, OKLab chroma. */
  difference: number;
  /** Where it is strongest, shares of the frame. */
  worst: { x: number; y: number };
  places: number;
}

/**
 * Where the sample next to the outline is taken, share of the frame's width, never nearer than lens and chroma
 * halving smear.
 */
const RIM_DEPTH = 0.005;
const LEAST_DEPTH = 7;
/** The material farther in is looked for at so many times that depth. */
const INNER = [2.5, 3.5, 5];
/**
 * What a surface gets of the light of a screen behind it, by how far it faces the camera (0 sideways, 1 full): none
 * from 0.72 on.
 */
const fromBehind = (facing: number): number => Math.max(0, 0.42 - 0.58 * facing);
const LEAST_PLACES = 30;
const LEAST_BEHIND = 0.06;
/**
 * What an edge gets that faces sideways and a little back, as a plan's reading counts it, against a back that faces
 * the screen.
 */
const EDGE = 0.4;
/** In a smaller frame the rim lies within what lens and halved chroma smear, pixels across. */
const LEAST_WIDTH = 1400;

/**
 * Excess of the screen's channel along the outline: what stands there beyond what the same material shows farther in,
 * each in units of the light on it, told by the two other channels.
 * @param factor full-size pixels per reduced pixel.
 * @returns undefined where too little of the outline tells, or the frame is small.
 */
export function spillOn(
  { width, height, data }: LinearRaster,
  person: Mask,
  clear: Mask,
  channel: 1 | 2,
  factor: number,
): Spill | undefined {
  if (width * factor < LEAST_WIDTH) return undefined;
  const outside = where(person, 0);
  const { distance, index } = nearestFeature(outside);
  const depth = Math.max(LEAST_DEPTH / factor, RIM_DEPTH * width, 2);
  const other = 3 - channel;
  const light = (p: number): number => (data[p * 3] + data[p * 3 + other]) / 2;
  const found: { share: number; weight: number; apart: number; x: number; y: number }[] = [];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const p = y * width + x;
      if (!person.data[p] || distance[p] < depth || distance[p] > depth + 1) continue;
      const edge = index[p];
      if (edge < 0 || !clear.data[edge]) continue;
      const ux = (x - (edge % width)) / distance[p];
      const uy = (y - Math.floor(edge / width)) / distance[p];
      for (const times of INNER) {
        const ix = Math.round(x + ux * depth * (times - 1));
        const iy = Math.round(y + uy * depth * (times - 1));
        if (ix < 0 || iy < 0 || ix >= width || iy >= height) break;
        const q = iy * width + ix;
        if (
          !person.data[q] ||
          distance[q] < depth * (times - 0.6) ||
          !isSameMaterial(data, p, q, other, light(p), light(q))
        )
          continue;
        // Limbs and bodies are about round: how far a place faces the camera follows from how deep it lies in one.
        const radius = Math.max(distance[q], distance[p], radiusAlong(distance, width, height, x, y, ux, uy));
        const facing = (d: number): number =>
          Math.sqrt(Math.max(0, 1 - ((radius - Math.min(radius, d)) / radius) ** 2));
        const behind = fromBehind(facing(distance[p])) - (light(p) / light(q)) * fromBehind(facing(distance[q]));
        if (behind < LEAST_BEHIND) break;
        // In units of the light on the material where it faces the camera.
        const share = (data[p * 3 + channel] - (light(p) / light(q)) * data[q * 3 + channel]) / data[q * 3 + channel];
        found.push({
          share: share / behind,
          weight: Math.min(1, light(q) / 0.25) * behind,
          apart: chromaDistance(colourAt(data, p), colourAt(data, q)),
          x: x / width,
          y: y / height,
        });
        break;
      }
    }
  }
  if (found.length < LEAST_PLACES) return undefined;
  // Light materials tell it best; dark ones are mostly noise.
  found.sort((a, b) => a.share - b.share);
  const whole = found.reduce((sum, { weight }) => sum + weight, 0);
  let passed = 0;
  const typical = found.find(({ weight }) => (passed += weight) >= whole / 2) ?? found[found.length >> 1];
  const worst = found[Math.floor(found.length * 0.9)];
  return {
    stops: Math.min(8, -Math.log2(Math.max(0.002, typical.share * EDGE))),
    difference: quantileOf(
      found.map(({ apart }) => apart),
      0.5,
    ),
    worst: { x: worst.x, y: worst.y },
    places: found.length,
  };
}

/** Greatest depth on the way inwards, pixels. */
function radiusAlong(
  distance: Float32Array,
  width: number,
  height: number,
  x: number,
  y: number,
  ux: number,
  uy: number,
): number {
  let most = 0;
  for (let k = 1; k < width; k++) {
    const ix = Math.round(x + ux * k);
    const iy = Math.round(y + uy * k);
    if (ix < 0 || iy < 0 || ix >= width || iy >= height) break;
    const d = distance[iy * width + ix];
    if (d < most - 1) break;
    most = Math.max(most, d);
  }
  return most;
}

const colourAt = (data: Float32Array, p: number): Rgb => [data[p * 3], data[p * 3 + 1], data[p * 3 + 2]];

/**
 * The two channels that the screen leaves alone stand in the same ratio, at not too different a level, and light
 * enough to tell.
 */
function isSameMaterial(
  data: Float32Array,
  p: number,
  q: number,
  other: number,
  lightP: number,
  lightQ: number,
): boolean {
  if (lightP < 0.012 || lightQ < 0.02 || lightP / lightQ < 0.3 || lightP / lightQ > 1.8) return false;
  const ratio =
    (data[p * 3] + 0.002) / (data[p * 3 + other] + 0.002) / ((data[q * 3] + 0.002) / (data[q * 3 + other] + 0.002));
  return ratio > 0.85 && ratio < 1.18;
}
