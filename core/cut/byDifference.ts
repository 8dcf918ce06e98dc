import { growMask } from '../image/growMask.ts';
import { nearestFeature } from '../image/distance.ts';
import { createMask, createPlane, type LinearRaster, type Mask, type Plane } from '../image/raster.ts';
import type { ScreenModel } from '../screen/screenModel.ts';
import type { Sorted } from './sorter/sortFrame.ts';

/**
 * Sorting before a grey wall, where a hand pointed at one: no channel leads, so that what is told from it is told by
 * its light alone or its own colour, and a shadow looks like something dark.
 */
export const bounds = {
  /** Least scatter of the wall's logarithmic light that is reckoned with: creases, marks, what the surface misses. */
  leastScatter: 0.02,
  /** Difference from the wall, in scatters, at which it is as likely the wall as not. */
  even: 5,
  /** What a map of persons says against a difference of none; and over how many scatters that fades by e. */
  byMap: 8,
  fades: 8,
  /** Likelihood of a person up to which what is dark in the wall's colour is its shadow. */
  nobody: 0.2,
  /** So far from the wall, reduced pixels, what differs is solid: at most, and where the map is sure. */
  solidFrom: 4,
  sureFrom: 2,
};

/** Stray light that every channel may have. */
const FLARE = 0.004;

/**
 * What each reduced pixel is likely to be, by how far it differs from the wall at its place.
 * @param dark 1 where it has the wall's colour at less light, as `shadedIn` finds it.
 * @param persons where persons are; without it enclosed places of the wall's own light are open.
 */
export function sortByDifference(frame: LinearRaster, model: ScreenModel, dark: Mask, persons?: Plane): Sorted {
  const { width, height } = frame;
  const count = width * height;
  const apart = differences(frame, model);
  const clear = createPlane(width, height);
  for (let p = 0; p < count; p++) {
    const map = persons ? persons.data[p] : 0.5;
    const shadow = persons !== undefined && map < bounds.nobody && dark.data[p] === 1;
    const own = shadow ? 0 : apart[p];
    const lean = 3 * (1 - own / bounds.even) + bounds.byMap * (0.5 - map) * Math.exp(-own / bounds.fades);
    clear.data[p] = 1 / (1 + Math.exp(-lean));
  }
  const open = createMask(width, height);
  for (let p = 0; p < count; p++) if (clear.data[p] >= 0.5) open.data[p] = 1;
  // Single noisy pixels on the person are no gaps; on the wall they are no strands.
  const plain = growMask(growMask(open, -1), 1);
  const { distance } = nearestFeature(plain.data.includes(1) ? plain : open);
  const solid = createPlane(width, height);
  const coverage = createPlane(width, height);
  for (let p = 0; p < count; p++) {
    const from = persons && persons.data[p] > 1 - bounds.nobody ? bounds.sureFrom : bounds.solidFrom;
    solid.data[p] = (1 - clear.data[p]) * Math.min(1, Math.max(0, distance[p] - from + 1));
    coverage.data[p] = solid.data[p] + 0.5 * (1 - clear.data[p] - solid.data[p]);
  }
  return { clear, solid, coverage };
}

/** How far each pixel's light differs from the wall's, the channel that differs most, in units of the wall's scatter. */
function differences({ data: f }: LinearRaster, { base: { data: b }, clear }: ScreenModel): Float32Array {
  const log = new Float32Array(f.length);
  for (let i = 0; i < f.length; i++) log[i] = Math.log((f[i] + FLARE) / (b[i] + FLARE));
  const scatter = [0, 1, 2].map((c) => {
    const seen: number[] = [];
    const step = Math.max(1, Math.floor(clear.data.length / 12000));
    for (let p = 0; p < clear.data.length; p += step) if (clear.data[p]) seen.push(Math.abs(log[p * 3 + c]));
    const middle = seen.sort((a, d) => a - d)[seen.length >> 1] ?? 0;
    return Math.max(bounds.leastScatter, 1.4826 * middle);
  });
  const out = new Float32Array(f.length / 3);
  for (let p = 0; p < out.length; p++)
    out[p] = Math.max(
      Math.abs(log[p * 3]) / scatter[0],
      Math.abs(log[p * 3 + 1]) / scatter[1],
      Math.abs(log[p * 3 + 2]) / scatter[2],
    );
  return out;
}

/** Coverage by how far a colour differs from the wall, as a share of the wall's own light: 1 for all that is plainly other. */
export function differenceKey({ data: f }: LinearRaster, { data: b }: LinearRaster): Float32Array {
  const out = new Float32Array(f.length / 3);
  for (let p = 0, i = 0; p < out.length; p++, i += 3) {
    const wall = b[i] + b[i + 1] + b[i + 2] + 3 * FLARE;
    const way = Math.abs(f[i] - b[i]) + Math.abs(f[i + 1] - b[i + 1]) + Math.abs(f[i + 2] - b[i + 2]);
    out[p] = Math.min(1, (2 * way) / wall);
  }
  return out;
}
