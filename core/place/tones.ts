import { luminance } from '../colour/luminance.ts';
import { linearTable } from '../colour/transfer.ts';
import { gaussianBlur } from '../image/boxBlur.ts';
import { createPlane, whiteLevel, type EncodedRaster, type Plane } from '../image/raster.ts';
import type { Rgb } from '../plan/exposure.ts';

/** What is measured of a person or a background, so that one can be matched to the other. */
export interface Tones {
  /** Linear colours of the darkest, the middle and the lightest part. */
  black: Rgb;
  middle: Rgb;
  white: Rgb;
  /** Geometric mean of luminance, 0–1. */
  level: number;
  /** Colour of the light as it seems, linear, of luminance 1. */
  light: Rgb;
  /** Middle strength of colours: (largest − smallest channel) ÷ largest, 0–1. */
  saturation: number;
  /** Standard deviation of the blur of the sharpest edges, pixels of the file; 0 if there are none to tell by. */
  blur: number;
  /** Standard deviation of grain in plain places, encoded, 0–1. */
  grain: number;
  /** From which side it is lit: −1 left, 1 right, 0 from neither; of luminance to both sides of the middle. */
  side: number;
}

/** From how much on one side is plainly the lighter, of a person and of a background. */
export const plainSides = { person: 0.06, scene: 0.1 };

/**
 * Whether a person and a scene are plainly lit from opposite sides: by their sides, −1 left to 1 right, as both lie once
 * they are mirrored or not.
 */
export function litApart(person: number, scene: number): boolean {
  return Math.abs(person) >= plainSides.person && Math.abs(scene) >= plainSides.scene && person * scene < 0;
}

/** Samples that tones are read from, at most. */
const SAMPLES = 50_000;
/** Coverage from which a pixel counts as the person's own. */
const SOLID = 0.98;
/** Shares of the samples that are the darkest and the lightest, and half the width of the middle. */
const BLACKS = 0.02;
const WHITES = 0.03;
const MIDDLE = 0.1;
/** Clipped light says nothing about its colour. */
const CLIPPED = 0.98;
/** Order of the mean that the colour of the light is read by (Finlayson & Trezzi 2004, “shades of grey”). */
const ORDER = 5;

/**
 * Measures a background (RGB) or a cut (RGBA: where it is solid).
 * @returns undefined where nothing is solid.
 */
export function tonesOf(picture: EncodedRaster): Tones | undefined {
  const { width, height, channels, data } = picture;
  const table = linearTable(data);
  const white = whiteLevel(picture);
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / SAMPLES)));
  const samples: { y: number; i: number; x: number }[] = [];
  for (let row = step >> 1; row < height; row += step)
    for (let x = step >> 1; x < width; x += step) {
      const i = (row * width + x) * channels;
      if (channels === 4 && data[i + 3] < SOLID * white) continue;
      samples.push({ i, x, y: luminance(table[data[i]], table[data[i + 1]], table[data[i + 2]]) });
    }
  if (!samples.length) return undefined;
  const middleX = median(samples.map(({ x }) => x));
  const sides = [0, 0];
  const counts = [0, 0];
  for (const { x, y } of samples) {
    const right = x > middleX ? 1 : 0;
    sides[right] += y;
    counts[right]++;
  }
  const [left, right] = sides.map((sum, n) => sum / Math.max(1, counts[n]));
  samples.sort((a, b) => a.y - b.y);
  const mean = (from: number, to: number): Rgb => {
    const sum: Rgb = [0, 0, 0];
    const first = Math.min(samples.length - 1, Math.floor(from * samples.length));
    const end = Math.max(first + 1, Math.ceil(to * samples.length));
    for (let n = first; n < end; n++)
      for (let c = 0; c < 3; c++) sum[c] += table[data[samples[n].i + c]] / (end - first);
    return sum;
  };
  const powers: Rgb = [0, 0, 0];
  let logs = 0;
  for (const { i, y } of samples) {
    logs += Math.log(y + 1e-3);
    const rgb = [table[data[i]], table[data[i + 1]], table[data[i + 2]]];
    if (Math.max(...rgb) < CLIPPED) for (let c = 0; c < 3; c++) powers[c] += rgb[c] ** ORDER;
  }
  const light = powers.map((power) => (power + 1e-12) ** (1 / ORDER)) as Rgb;
  const strength = luminance(...light);
  return {
    black: mean(0, BLACKS),
    middle: mean(0.5 - MIDDLE, 0.5 + MIDDLE),
    white: mean(1 - WHITES, 1),
    level: Math.exp(logs / samples.length),
    light: light.map((v) => v / strength) as Rgb,
    saturation: median(
      samples.map(({ i }) => {
        const [r, g, b] = [table[data[i]], table[data[i + 1]], table[data[i + 2]]];
        const most = Math.max(r, g, b);
        return most > 0 ? (most - Math.min(r, g, b)) / most : 0;
      }),
    ),
    side: (right - left) / Math.max(1e-4, right + left),
    ...detailOf(picture),
  };
}

function median(values: number[]): number {
  return values.sort((a, b) => a - b)[values.length >> 1];
}

/** Side of the middle part that sharpness and grain are read from, pixels: reading them needs the file's own pixels. */
const PART = 900;
/** Standard deviation of the blur that is added to see how much it changes, pixels. */
const ADDED = Math.SQRT2;
/** Share of the pixels that are the sharpest edges. */
const EDGES = 0.004;
/** A gradient below this is no edge, encoded. */
const LEAST_EDGE = 0.04;

/**
 * Blur by blurring again (after Crété-Roffet and others 2007): an edge of blur s that is blurred by a keeps
 * s ÷ √(s² + a²) of its steepness.
 */
function detailOf(picture: EncodedRaster): { blur: number; grain: number } {
  const { plane, solid } = middlePart(picture);
  const { width, height, data } = plane;
  if (width < 8 || height < 8) return { blur: 0, grain: 0 };
  const again = gaussianBlur(plane, ADDED).data;
  const edges: { g: number; p: number }[] = [];
  const steepness = (of: Float32Array, p: number): number =>
    Math.hypot(of[p + 1] - of[p - 1], of[p + width] - of[p - width]) / 2;
  const fine: number[] = [];
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const p = y * width + x;
      if (!solid[p] || !solid[p - 2] || !solid[p + 2] || !solid[p - 2 * width] || !solid[p + 2 * width]) continue;
      const g = steepness(data, p);
      if (g > LEAST_EDGE) edges.push({ g, p });
      // Differences of second order leave out slopes; every third pixel is enough.
      else if (p % 3 === 0)
        fine.push(Math.abs(data[p] - (data[p - 1] + data[p + 1] + data[p - width] + data[p + width]) / 4));
    }
  // Of noise that differs from pixel to pixel the fourth of four neighbours leaves √(1 + 1/4).
  const grain = fine.length > 200 ? (1.4826 * lowest(fine, 0.3)) / Math.sqrt(1.25) : 0;
  if (edges.length < 40) return { blur: 0, grain };
  edges.sort((a, b) => b.g - a.g);
  const kept = edges
    .slice(0, Math.max(40, Math.round(EDGES * width * height)))
    .map(({ g, p }) => Math.min(0.98, steepness(again, p) / g));
  const ratio = median(kept);
  return { blur: (ADDED * ratio) / Math.sqrt(1 - ratio * ratio), grain };
}

/** The median of the plainest places stands for all: what part of a normal deviation lies below, times two. */
function lowest(values: number[], share: number): number {
  values.sort((a, b) => a - b);
  // The value below which `share` of the magnitudes lie, brought to their median by the normal distribution.
  return values[Math.floor(share * values.length)] * (0.6745 / 0.3853);
}

function middlePart({ width, height, channels, data }: EncodedRaster): { plane: Plane; solid: Uint8Array } {
  const white = data instanceof Uint16Array ? 65535 : 255;
  const across = Math.min(width, PART);
  const down = Math.min(height, PART);
  const plane = createPlane(across, down);
  const solid = new Uint8Array(across * down);
  const left = (width - across) >> 1;
  const top = Math.floor((height - down) / 3);
  for (let y = 0, p = 0; y < down; y++)
    for (let x = 0; x < across; x++, p++) {
      const i = ((top + y) * width + left + x) * channels;
      plane.data[p] = luminance(data[i], data[i + 1], data[i + 2]) / white;
      solid[p] = channels < 4 || data[i + 3] >= SOLID * white ? 1 : 0;
    }
  return { plane, solid };
}
