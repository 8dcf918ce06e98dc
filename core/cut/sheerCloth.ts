import { components } from '../image/components.ts';
import type { LinearRaster, Mask } from '../image/raster.ts';
import { medianOf, quantileOf } from '../screen/statistics.ts';
import { firstBeside, secondBeside, type Channel } from '../colour/channels.ts';

/** Cloth that the screen shines through, by evidence or as a hand says: one colour in each place, thicker in folds and hems. */

export const bounds = {
  /** Sine up to which a pixel lies on the way from the screen to the cloth's colour. */
  offWay: 0.28,
  /** Share of what differs from the screen that has to lie on one way, or its cloth has no one colour. */
  ofOneColour: 0.3,
  /** Share of a place's pixels up to which it is thin; what is beyond may be a hem, or a thing that is no cloth. */
  thickest: 0.98,
  /** Nearer to the screen than this, of its brightest channel, a pixel says nothing about the cloth. */
  nothing: 0.05,
  /** Cloth darker than this share of the screen, or with less of its own hue (sine), is not told from shadow. */
  dark: 0.2,
  ownHue: 0.3,
  /** How far off all mixtures of both a pixel may lie, share of its light. */
  off: 0.12,
};

/** The own colour of the cloth at each place of the mask. */
export interface SheerCloth {
  /** For each reduced pixel the number of its place, from 1 on; 0 outside. */
  labels: Uint16Array;
  /** By number less one; undefined where no one colour explains the place. */
  colours: (readonly [number, number, number] | undefined)[];
}

/**
 * All mixtures of one colour with the screen lie on one way from the screen to that colour. How far along it lies is
 * not seen where nothing is thick; then it is as far as the thickest place, and no nearer than a colour that leans to
 * the screen's no more than grey.
 */
export function sheerClothOf(frame: LinearRaster, screen: LinearRaster, sheer: Mask, channel: Channel): SheerCloth {
  const labels = new Uint16Array(sheer.data.length);
  const places = components(sheer);
  const colours = places.map(({ pixels }, n) => {
    for (const p of pixels) labels[p] = n + 1;
    return colourOf(frame.data, screen.data, pixels, channel);
  });
  return { labels, colours };
}

function colourOf(
  f: Float32Array,
  b: Float32Array,
  pixels: Int32Array,
  channel: Channel,
): [number, number, number] | undefined {
  const seen = pixels.filter((p) => {
    const bright = Math.max(b[p * 3], b[p * 3 + 1], b[p * 3 + 2]);
    return wayLength(f, b, p) > bounds.nothing * bright;
  });
  const onWay = (p: number, way: readonly number[]): boolean =>
    along(f, b, p, way) > onWayCosine() * wayLength(f, b, p);
  // The way that most lie on: of some pixels' own, then of all that lie on it.
  const some = fewOf(seen, COUNTED);
  const counted = Array.from(fewOf(seen, TRIED), (p) => {
    const way = meanDirection(f, b, Int32Array.of(p));
    return { way, count: some.reduce((n, other) => n + (onWay(other, way) ? 1 : 0), 0) };
  });
  if (!counted.length) return undefined;
  let direction = counted.reduce((best, one) => (one.count > best.count ? one : best)).way;
  let on = seen;
  for (let n = 0; n < 3; n++) {
    on = seen.filter((p) => onWay(p, direction));
    if (on.length < bounds.ofOneColour * seen.length) return undefined;
    direction = meanDirection(f, b, on);
  }
  const steps = Array.from(on, (p) => along(f, b, p, direction));
  const screen = [0, 1, 2].map((c) => medianOf(Array.from(on, (p) => b[p * 3 + c])));
  // To where the screen's channel leads over neither of the others.
  const neutral = [firstBeside[channel], secondBeside[channel]].map((c) => {
    const gains = direction[c] - direction[channel];
    return gains > 0 ? (screen[channel] - screen[c]) / gains : 0;
  });
  const length = Math.max(quantileOf(steps, bounds.thickest), ...neutral);
  return [0, 1, 2].map((c) => screen[c] + length * direction[c]) as [number, number, number];
}

/**
 * Coverage of a pixel that shows cloth of a place's colour over the screen, A of the one and U of the other as lit: in
 * shadow there is less of both, so it is A/(A+U). Dark cloth, and cloth of the screen's hue, cannot be told from the
 * screen in shadow; they are measured on the way from the screen as lit. @returns undefined for what is no such mixture.
 */
export function coverageOfCloth(
  reading: readonly Float32Array[],
  back: readonly Float32Array[],
  k: number,
  colour: readonly [number, number, number],
): number | undefined {
  let [cc, cb, bb, cf, bf, ff] = [0, 0, 0, 0, 0, 0];
  for (let c = 0; c < 3; c++) {
    const [C, B, F] = [colour[c], back[c][k], reading[c][k]];
    cc += C * C;
    cb += C * B;
    bb += B * B;
    cf += C * F;
    bf += B * F;
    ff += F * F;
  }
  const own = cc * bb - cb * cb;
  if (cc < bounds.dark ** 2 * bb || own < bounds.ownHue ** 2 * cc * bb) return coverageOnWay(reading, back, k, colour);
  const cloth = Math.max(0, (cf * bb - bf * cb) / own);
  const seen = Math.max(0, (bf * cc - cf * cb) / own);
  const off = ff - 2 * (cloth * cf + seen * bf) + cloth * cloth * cc + 2 * cloth * seen * cb + seen * seen * bb;
  if (off > bounds.off ** 2 * ff) return undefined;
  return cloth / Math.max(1e-6, cloth + seen);
}

/** Coverage of a pixel between the screen and a place's colour; undefined if it lies off the way between them. */
function coverageOnWay(
  reading: readonly Float32Array[],
  back: readonly Float32Array[],
  k: number,
  colour: readonly [number, number, number],
): number | undefined {
  let [dot, whole, own] = [0, 0, 0];
  for (let c = 0; c < 3; c++) {
    const way = colour[c] - back[c][k];
    const step = reading[c][k] - back[c][k];
    dot += way * step;
    whole += way * way;
    own += step * step;
  }
  if (dot < onWayCosine() * Math.sqrt(whole * own) && dot < whole && own > bounds.nothing ** 2 * whole)
    return undefined;
  return whole > 0 ? Math.min(1, Math.max(0, dot / whole)) : undefined;
}

function onWayCosine(): number {
  return Math.sqrt(1 - bounds.offWay ** 2);
}

/** Ways that are tried, and pixels by which they are compared. */
const TRIED = 48;
const COUNTED = 1500;

/** So many of a list at most, spread over all of it. */
function fewOf(list: Int32Array, most: number): Int32Array {
  const every = Math.max(1, list.length / most);
  return Int32Array.from({ length: Math.min(most, list.length) }, (_, n) => list[Math.floor(n * every)]);
}

function wayLength(f: Float32Array, b: Float32Array, p: number): number {
  return Math.hypot(f[p * 3] - b[p * 3], f[p * 3 + 1] - b[p * 3 + 1], f[p * 3 + 2] - b[p * 3 + 2]);
}

function along(f: Float32Array, b: Float32Array, p: number, direction: readonly number[]): number {
  let sum = 0;
  for (let c = 0; c < 3; c++) sum += direction[c] * (f[p * 3 + c] - b[p * 3 + c]);
  return sum;
}

function meanDirection(f: Float32Array, b: Float32Array, pixels: Int32Array): number[] {
  const sum = [0, 0, 0];
  for (const p of pixels) {
    const length = wayLength(f, b, p) || 1;
    for (let c = 0; c < 3; c++) sum[c] += (f[p * 3 + c] - b[p * 3 + c]) / length;
  }
  const length = Math.hypot(...sum) || 1;
  return sum.map((v) => v / length);
}
