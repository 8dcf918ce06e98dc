import { createPlane, type LinearRaster, type Mask, type Plane } from '../image/raster.ts';
import type { ScreenModel } from '../screen/screenModel.ts';
import { apartAtOwnLevel, chromaFlare, mostScreenIn } from './mostScreen.ts';
import type { Traits } from './traits.ts';
import { firstBeside, secondBeside, type Channel } from '../colour/channels.ts';

/** Names of the evidence planes, in their order; what each says stands in `evidenceOf`. */
export const evidenceNames = [
  'red',
  'other',
  'level',
  'key',
  'mostScreen',
  'leaning',
  'remainder',
  'rough',
  'apart',
  'person',
  'light',
  'outside',
  'noise',
  'plate',
  'known',
  'shade',
] as const;
export const EVIDENCE = evidenceNames.length;

export interface EvidenceNeed {
  reduced: LinearRaster;
  model: ScreenModel;
  traits: Traits;
  channel: Channel;
  /** Where persons are, as large as `reduced`. */
  persons?: Plane;
  outside: Mask;
  /** Whether the screen is known from a plate. */
  plate: boolean;
}

/** Least standard deviation of chromaticity that is reckoned with, and the light that its noise is no less at. */
const LEAST_NOISE = 0.0015;
const DARK = 0.03;
/** Unevenness that is told from none. */
const LEAST_ROUGH = 0.003;
/** Every value is limited to ±LIMIT. */
const LIMIT = 2;

/**
 * What each reduced pixel shows, relative to the screen at its place and to the noise, so that it means the same on
 * every screen and camera: one plane after the other, in the order of `evidenceNames`, most values within ±1.
 */
export function evidenceOf({ reduced, model, traits, channel, persons, outside, plate }: EvidenceNeed): Float32Array {
  const count = reduced.width * reduced.height;
  const out = new Float32Array(EVIDENCE * count);
  const plane = Object.fromEntries(
    evidenceNames.map((name, n) => [name, out.subarray(n * count, (n + 1) * count)]),
  ) as Record<(typeof evidenceNames)[number], Float32Array>;
  const f = reduced.data;
  const b = model.screen.data;
  const [one, other] = [firstBeside[channel], secondBeside[channel]];
  const noise = Math.max(LEAST_NOISE, model.chromaNoise);
  const grain = roughNoise(traits.rough, model.clear);
  for (let p = 0, i = 0; p < count; p++, i += 3) {
    const r = f[i];
    const g = f[i + 1];
    const u = f[i + 2];
    const sumF = r + g + u + 3 * chromaFlare;
    const sumB = b[i] + b[i + 1] + b[i + 2] + 3 * chromaFlare;
    const first = (f[i + one] + chromaFlare) / sumF - (b[i + one] + chromaFlare) / sumB;
    const second = (f[i + other] + chromaFlare) / sumF - (b[i + other] + chromaFlare) / sumB;
    const dark = (sumB + DARK) / (sumF + DARK);
    const most = mostScreenIn(f, b, p);
    const left = 1 / Math.max(0.05, 1 - most);
    const own = Math.max(0, (f[i + channel] - most * b[i + channel]) * left);
    const others = Math.max(0, (f[i + one] - most * b[i + one]) * left, (f[i + other] - most * b[i + other]) * left);
    const brightest = Math.max(own, others);
    const lead = own - others;
    plane.red[p] = 6 * first;
    plane.other[p] = 6 * second;
    plane.level[p] = -0.5 * Math.log2(sumB / sumF);
    plane.key[p] = traits.key[p] - 0.5;
    plane.mostScreen[p] = 2 * most - 1;
    plane.leaning[p] = lead / (brightest + chromaFlare);
    plane.remainder[p] = 2 * Math.sqrt(brightest) - 1;
    const uneven = traits.rough[p] * traits.rough[p] - grain * grain * dark;
    plane.rough[p] = Math.log10(Math.sqrt(uneven > 0 ? uneven : 0) + LEAST_ROUGH) + 1.5;
    plane.apart[p] = Math.log2(1 + Math.sqrt(first * first + second * second) / (noise * Math.sqrt(dark))) / 3;
    plane.shade[p] = Math.log2(1 + apartAtOwnLevel(f, b, i, one, other) / (noise * Math.sqrt(dark))) / 3;
    plane.light[p] = 2 * Math.sqrt(0.2126 * r + 0.7152 * g + 0.0722 * u) - 1;
  }
  if (persons) for (let p = 0; p < count; p++) plane.person[p] = 2 * persons.data[p] - 1;
  for (let p = 0; p < count; p++) plane.outside[p] = outside.data[p];
  plane.noise.fill(Math.log10(noise) + 2.3);
  plane.plate.fill(plate ? 1 : 0);
  plane.known.fill(persons ? 1 : 0);
  for (let i = 0; i < out.length; i++)
    if (!(out[i] < LIMIT)) out[i] = LIMIT;
    else if (out[i] < -LIMIT) out[i] = -LIMIT;
  return out;
}

/** Unevenness that noise alone gives on the plain screen. */
export function roughNoise(rough: Float32Array, clear: Mask): number {
  const values: number[] = [];
  const step = Math.max(1, Math.floor(rough.length / 20000));
  for (let p = 0; p < rough.length; p += step) if (clear.data[p]) values.push(rough[p]);
  return values.length ? Float64Array.from(values).sort()[values.length >> 1] : 0;
}

export function planeOf(
  evidence: Float32Array,
  name: (typeof evidenceNames)[number],
  width: number,
  height: number,
): Plane {
  const plane = createPlane(width, height);
  const n = evidenceNames.indexOf(name);
  plane.data.set(evidence.subarray(n * width * height, (n + 1) * width * height));
  return plane;
}
