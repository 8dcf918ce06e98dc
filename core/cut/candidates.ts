import { boxBlur } from '../image/boxBlur.ts';
import { components } from '../image/components.ts';
import { nearestFeature, type NearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { fillUnknown } from '../image/fillUnknown.ts';
import { both, either, likely, where, without } from '../image/masks.ts';
import { lengthOf } from '../image/length.ts';
import { createLinear, createMask, createPlane, type LinearRaster, type Mask, type Plane } from '../image/raster.ts';
import { installedKernels, placesIn, type PlaneKernel } from '../kernels/kernels.ts';
import type { Prepared } from './prepare.ts';
import { Region } from './region.ts';
import type { Regions } from './regions.ts';
import type { Channel } from '../colour/channels.ts';

/** How many reduced pixels behind the nearest sure pixel of the person further samples are taken. */
const DEPTHS = [0, 6, 20];
/** Strands farther away than this share of the height say nothing about a place. */
const STRANDS_REACH = 0.15;
/** So near to kept cloth strands lie over it. */
const CLOTH_REACH = 0.008;

export const bounds = {
  /** Likelihood, of the person alone, from which a place among strands says what colour hair has there. */
  sureHair: 0.9,
  /** The same where no such place lies so near, share of the height. */
  likelyHair: 0.6,
  hairReach: 0.05,
  /**
   * How far around, share of the height, strands that cover more than half say what colour hair has where none that is
   * more lies near, nor any other sample within `samplesReach`; and how bright that must be, in parts of the screen.
   */
  strandsAround: 0.03,
  samplesReach: 0.03,
  brightStrands: 0.5,
};
/** Half the side of the square over which hair is averaged, reduced pixels, and the least weight of what there is of it. */
const HAIR_AROUND = 6;
const LEAST_HAIR = 0.01;

/** Colours that the person may have in the fringe. */
export interface CandidateFields {
  /** By which coverage is solved. */
  candidates: LinearRaster[];
  /** From which the finished colour is taken: the same, but for an average that leans less to the screen. */
  colours: LinearRaster[];
}

/**
 * Colours that the foreground may have at each fringe pixel, as fields at reduced size: the nearest sure pixel of the
 * person, two further inside along the same line (the rim is lit differently from what lies behind it), and a smooth
 * average of all that is sure nearby. They compete in the fringe solve; no single one is right everywhere. Among
 * strands only samples of strands count: skin mixed with the screen looks like fair hair, and kept green like any. Hair
 * that is loose all through holds no sample that is sure in itself: there the mean of what is likely to be hair alone,
 * with the screen between it taken out, is one of them, and where even that lacks the mean of fair strands.
 * @param screen B(x) at reduced size.
 * @param masses 1 in masses of hair.
 * @param zone 1 in and around them.
 */
export function candidateFields(
  { reduced: frame, screen, sorted }: Pick<Prepared, 'reduced' | 'screen' | 'sorted'>,
  {
    solid,
    masses,
    zone,
    regions,
    kept,
    dyed,
  }: Pick<Regions, 'solid' | 'masses' | 'zone' | 'regions' | 'kept' | 'dyed'>,
  channel: Channel,
): CandidateFields {
  const { width, height } = frame;
  const loose = looseHair(sorted.solid, without(zone, kept));
  const unmixed = unmixedIn(frame, screen, sorted.coverage, loose);
  const known = either(solid, loose);
  const average = fillUnknown(unmixed, known);
  if (!solid.data.includes(1)) return { candidates: [average], colours: [average] };
  const any = nearestFeature(solid);
  const dense = hairSamples(without(solid, without(kept, where(dyed, 1))), solid, masses);
  const hair = either(dense, both(loose, masses));
  const ofHair = hair.data.includes(1) ? nearestFeature(hair) : any;
  const wanted = without(where(growMask(where(regions, Region.core), -SOFT), 0), where(regions, Region.clear));
  const among = amongStrands(wanted, zone, kept, any, ofHair.distance);
  const sampled = createMask(width, height);
  const samples = DEPTHS.map((depth) =>
    samplesAt(depth, wanted, among, hair.data, known.data, ofHair.index, any.index, sampled),
  );
  const colours = purerAround(unmixed, known, sampled, channel);
  const fields = samples.map((places) => fieldOf(places, colours, width, height));
  const deepest = fields[DEPTHS.length - 1];
  const bare = layMean(deepest, meanAround(unmixed, weighted(loose), HAIR_AROUND), among);
  for (let p = 0; p < bare.data.length; p++)
    if (bare.data[p] && ofHair.distance[p] < bounds.samplesReach * height) bare.data[p] = 0;
  if (bare.data.includes(1)) {
    const strands = both(without(without(masses, solid), kept), likely(sorted.coverage, LEAST_COVER));
    const there = unmixedIn(frame, screen, sorted.coverage, strands);
    const mean = meanAround(there, weighted(strands, sorted.coverage), Math.round(bounds.strandsAround * height));
    layMean(deepest, mean, brighter(mean, screen, bare));
  }
  if (dyed.data.includes(1)) colourDyed(frame, dyed, fields);
  return {
    candidates: [...fields, average],
    colours: [
      ...fields,
      loose.data.includes(1)
        ? fillUnknown(purerIn(unmixed, known, both(loose, growMask(wanted, PURER_REACH)), channel), known)
        : average,
    ],
  };
}

/** Hair that is likely to be hair alone; where none is surely that, what is likeliest. */
function looseHair(solid: Plane, zone: Mask): Mask {
  const sure = both(zone, likely(solid, bounds.sureHair));
  const perhaps = both(zone, likely(solid, bounds.likelyHair));
  if (!sure.data.includes(1)) return perhaps;
  const { distance } = nearestFeature(sure);
  for (let p = 0; p < perhaps.data.length; p++)
    if (distance[p] <= bounds.hairReach * zone.height) perhaps.data[p] = sure.data[p];
  return perhaps;
}

/** Farther from the fringe than this, reduced pixels, a colour is hardly asked for. */
const PURER_REACH = 8;

/** Colours of masked pixels without the screen that is expected between their strands; the others as they are. */
function unmixedIn(frame: LinearRaster, screen: LinearRaster, coverage: Plane, mask: Mask): LinearRaster {
  const data = frame.data.slice();
  for (let p = 0, i = 0; p < mask.data.length; p++, i += 3) {
    const a = coverage.data[p];
    if (mask.data[p] === 0 || a < LEAST_COVER) continue;
    for (let c = i; c < i + 3; c++) data[c] = Math.max(0, (data[c] - (1 - a) * screen.data[c]) / a);
  }
  return { ...frame, data };
}
/** Expected coverage from which the screen can be taken out of a colour. */
const LEAST_COVER = 0.5;

/** How much masked pixels weigh, 0–1: all alike, or as much as they are covered. */
function weighted(mask: Mask, coverage?: Plane): Plane {
  const plane = createPlane(mask.width, mask.height);
  for (let p = 0; p < mask.data.length; p++) if (mask.data[p]) plane.data[p] = coverage ? coverage.data[p] : 1;
  return plane;
}

/** A mean of colours around each pixel, and how much weighed in it, 0–1. */
type Around = LinearRaster & { share: Float32Array };

function meanAround(colours: LinearRaster, weights: Plane, radius: number): Around {
  const { width, height } = weights;
  const share = boxBlur(weights, radius).data;
  const mean = createLinear(width, height);
  const plane = createPlane(width, height);
  for (let c = 0; c < 3; c++) {
    for (let p = 0; p < plane.data.length; p++) plane.data[p] = weights.data[p] * colours.data[p * 3 + c];
    const sum = boxBlur(plane, radius).data;
    for (let p = 0; p < plane.data.length; p++) if (share[p] > LEAST_HAIR) mean.data[p * 3 + c] = sum[p] / share[p];
  }
  return { ...mean, share };
}

/** Lays a mean where it is asked for and there is one. Changes `field`. @returns 1 where there was none. */
function layMean(field: LinearRaster, { data, share }: Around, at: Mask): Mask {
  const none = createMask(at.width, at.height);
  for (let p = 0, i = 0; p < at.data.length; p++, i += 3) {
    if (!at.data[p]) continue;
    if (share[p] > LEAST_HAIR) field.data.set(data.subarray(i, i + 3), i);
    else none.data[p] = 1;
  }
  return none;
}

/** Where a colour is bright enough beside the screen's that a coverage a little off does not change it much. */
function brighter({ data }: LinearRaster, { data: screen }: LinearRaster, among: Mask): Mask {
  const out = createMask(among.width, among.height);
  const brightest = (of: Float32Array, i: number): number => Math.max(of[i], of[i + 1], of[i + 2]);
  for (let p = 0, i = 0; p < out.data.length; p++, i += 3)
    if (among.data[p] && brightest(data, i) >= bounds.brightStrands * brightest(screen, i)) out.data[p] = 1;
  return out;
}

/** Colours with those of hair by its purer half. */
function purerIn(colours: LinearRaster, known: Mask, hair: Mask, channel: Channel): LinearRaster {
  const purer = purerAround(colours, known, hair, channel);
  const data = colours.data.slice();
  for (let p = 0, i = 0; p < hair.data.length; p++, i += 3) if (hair.data[p]) data.set(purer.subarray(i, i + 3), i);
  return { ...colours, data };
}

/**
 * Samples of hair. Skin and cloth beside it are as uneven, where the window that tells unevenness reaches over their
 * border: they are left out of masses of which more is left.
 */
function hairSamples(own: Mask, solid: Mask, masses: Mask): Mask {
  const hair = both(own, masses);
  const inner = without(hair, growMask(without(solid, masses), BESIDE));
  for (const { pixels } of components(masses)) {
    if (pixels.some((p) => inner.data[p] === 1)) continue;
    for (const p of pixels) inner.data[p] = hair.data[p];
  }
  return inner;
}
/** Reduced pixels that unevenness is told over. */
const BESIDE = 4;

/** 1 where samples of strands alone count: in and around masses of hair, but not beside cloth that is kept. */
function amongStrands(
  wanted: Mask,
  zone: Mask,
  kept: Mask,
  { distance, index }: NearestFeature,
  toHair: Float32Array,
): Mask {
  const { width, height } = wanted;
  const among = createMask(width, height);
  for (let p = 0; p < among.data.length; p++) {
    if (wanted.data[p] === 0 || zone.data[p] === 0 || toHair[p] >= STRANDS_REACH * height) continue;
    if (distance[p] >= CLOTH_REACH * height || kept.data[index[p]] === 0) among.data[p] = 1;
  }
  return among;
}

/** For each wanted pixel the sample so far behind the nearest one; −1 elsewhere. Marks what is taken in `sampled`. */
function samplesAt(
  depth: number,
  wanted: Mask,
  { data: among }: Mask,
  hair: Uint8Array,
  solid: Uint8Array,
  nearestHair: Int32Array,
  nearestAny: Int32Array,
  sampled: Mask,
): Int32Array {
  const { width, height } = wanted;
  const samples = new Int32Array(width * height).fill(-1);
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p++) {
      if (wanted.data[p] === 0) continue;
      const nearest = among[p] ? nearestHair[p] : nearestAny[p];
      const ny = (nearest / width) | 0;
      const nx = nearest - ny * width;
      const length = lengthOf(nx - x, ny - y);
      const ux = length > 0 ? (nx - x) / length : 0;
      const uy = length > 0 ? (ny - y) / length : 0;
      const sx = Math.max(0, Math.min(width - 1, Math.round(nx + ux * depth)));
      const sy = Math.max(0, Math.min(height - 1, Math.round(ny + uy * depth)));
      const behind = sy * width + sx;
      const sample = (among[p] ? hair[behind] : solid[behind]) ? behind : nearest;
      samples[p] = sample;
      sampled.data[sample] = 1;
    }
  }
  return samples;
}

function fieldOf(places: Int32Array, colours: Float32Array, width: number, height: number): LinearRaster {
  const field = createLinear(width, height);
  for (let p = 0, i = 0; p < places.length; p++, i += 3) {
    if (places[p] < 0) continue;
    const s = places[p] * 3;
    field.data[i] = colours[s];
    field.data[i + 1] = colours[s + 1];
    field.data[i + 2] = colours[s + 2];
  }
  return field;
}

/**
 * In and around hair dyed nearly in the screen's colour that hair alone counts, and all of it: its purest part is
 * what least looks like it. Changes `fields`.
 */
function colourDyed(frame: LinearRaster, dyed: Mask, fields: LinearRaster[]): void {
  const hair = where(dyed, 1);
  const mean = meanWithin(frame, hair, DYED_AROUND);
  const { index } = nearestFeature(hair);
  for (let p = 0; p < dyed.data.length; p++) {
    if (!dyed.data[p]) continue;
    for (const { data } of fields) for (let c = 0; c < 3; c++) data[p * 3 + c] = mean.data[index[p] * 3 + c];
  }
}
const DYED_AROUND = 8;

/** Mean over the masked pixels of a square, at masked pixels. */
function meanWithin({ width, height, data }: LinearRaster, mask: Mask, radius: number): LinearRaster {
  const out = createLinear(width, height);
  const plane = createPlane(width, height);
  for (let p = 0; p < mask.data.length; p++) plane.data[p] = mask.data[p];
  const share = boxBlur(plane, radius).data;
  for (let c = 0; c < 3; c++) {
    for (let p = 0; p < mask.data.length; p++) plane.data[p] = mask.data[p] ? data[p * 3 + c] : 0;
    const sum = boxBlur(plane, radius).data;
    for (let p = 0; p < mask.data.length; p++) if (mask.data[p]) out.data[p * 3 + c] = sum[p] / share[p];
  }
  return out;
}

/** Half the side of the square over which samples are averaged, reduced pixels. */
const AROUND = 3;

/** Reduced pixels from the border of the core over which coverage is still solved. */
const SOFT = 3;

/**
 * Mean over the purer half of the sure pixels around one: those that lean least to the screen's colour. Between hairs
 * the screen shines through even where the hair looks dense, and what leans to the screen there is not the hair's own.
 * @returns the means at the sampled pixels, all of which are sure.
 */
function purerAround(
  { width, height, data }: LinearRaster,
  { data: solid }: Mask,
  sampled: Mask,
  channel: Channel,
): Float32Array {
  const leans = leaningOf(data, solid, channel);
  const list = listOf(sampled);
  const kernel = installedKernels()?.planes;
  if (kernel) return purerCompiled(kernel, width, height, data, solid, leans, list);
  const out = new Float32Array(data.length);
  for (const p of list) {
    const x = p % width;
    const y = (p / width) | 0;
    const y0 = Math.max(0, y - AROUND);
    const y1 = Math.min(height - 1, y + AROUND);
    const x0 = Math.max(0, x - AROUND);
    const x1 = Math.min(width - 1, x + AROUND);
    let mean = 0;
    let count = 0;
    for (let yy = y0; yy <= y1; yy++) {
      for (let q = yy * width + x0, end = yy * width + x1; q <= end; q++) {
        if (solid[q] === 0) continue;
        mean += leans[q];
        count++;
      }
    }
    const most = mean / count + 1e-6;
    let r = 0;
    let g = 0;
    let b = 0;
    let n = 0;
    for (let yy = y0; yy <= y1; yy++) {
      for (let q = yy * width + x0, end = yy * width + x1; q <= end; q++) {
        if (solid[q] === 0 || leans[q] > most) continue;
        r += data[q * 3];
        g += data[q * 3 + 1];
        b += data[q * 3 + 2];
        n++;
      }
    }
    out[p * 3] = r / n;
    out[p * 3 + 1] = g / n;
    out[p * 3 + 2] = b / n;
  }
  return out;
}

function leaningOf(data: Float32Array, solid: Uint8Array, channel: Channel): Float32Array {
  const leans = new Float32Array(solid.length);
  for (let p = 0; p < leans.length; p++)
    if (solid[p]) leans[p] = data[p * 3 + channel] / (data[p * 3] + data[p * 3 + 1] + data[p * 3 + 2] + 0.01);
  return leans;
}

function listOf({ data }: Mask): Int32Array {
  const list = new Int32Array(data.length);
  let count = 0;
  for (let p = 0; p < data.length; p++) if (data[p]) list[count++] = p;
  return list.subarray(0, count);
}

function purerCompiled(
  kernel: PlaneKernel,
  width: number,
  height: number,
  data: Float32Array,
  solid: Uint8Array,
  leans: Float32Array,
  list: Int32Array,
): Float32Array {
  const [listAt, dataAt, solidAt, leansAt, outAt] = placesIn(
    kernel,
    list.byteLength,
    data.byteLength,
    solid.length,
    leans.byteLength,
    data.byteLength,
  );
  const { buffer } = kernel.memory;
  new Int32Array(buffer, listAt, list.length).set(list);
  new Float32Array(buffer, dataAt, data.length).set(data);
  new Uint8Array(buffer, solidAt, solid.length).set(solid);
  new Float32Array(buffer, leansAt, leans.length).set(leans);
  kernel.purer(listAt, list.length, dataAt, solidAt, leansAt, outAt, width, height, AROUND);
  return new Float32Array(buffer, outAt, data.length).slice();
}
