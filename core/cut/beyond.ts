import { boxBlur } from '../image/boxBlur.ts';
import { components } from '../image/components.ts';
import { growMask } from '../image/growMask.ts';
import { guidedFilter } from '../image/guidedFilter.ts';
import { createMask, createPlane, type LinearRaster, type Mask, type Plane } from '../image/raster.ts';
import { spread } from '../image/spread.ts';
import { insideOf, type Outline } from '../screen/outline.ts';
import { Region } from './region.ts';

/** Less of the frame than this is no screen but a misunderstanding. */
const LEAST_INSIDE = 0.3;
/** The screen's hem, share of the frame's width, goes with what lies beyond it. */
const HEM = 0.004;

/** What lies beyond the screen: walls, stands, lamps. */
export function outsideOf({ polygon, share, missing }: Outline, { width, height }: Mask): Mask {
  const outside = createMask(width, height);
  if (share < LEAST_INSIDE || Object.values(missing).every((strip) => strip === 0)) return outside;
  const inside = insideOf(polygon, width, height);
  const hem = Math.max(1, Math.round(HEM * width));
  // Only from the sides where something is missing; the frame's own edge has no hem.
  const shrunk = growMask(inside, -hem);
  for (let p = 0; p < outside.data.length; p++) {
    const x = p % width;
    const y = (p / width) | 0;
    const atEdge =
      (x < hem && !missing.left) ||
      (x >= width - hem && !missing.right) ||
      (y < hem && !missing.top) ||
      (y >= height - hem && !missing.bottom);
    outside.data[p] = (atEdge ? inside : shrunk).data[p] ? 0 : 1;
  }
  return outside;
}

/**
 * How far the colour of what is followed beyond the screen may stray from where it crosses, and from neighbour to
 * neighbour, relative.
 */
const FOLLOWED = 0.35;
const FOLLOWED_STEP = 0.06;
/** Half the width of the thinnest limb, share of the frame's width. */
const THINNEST = 0.01;
/** Width of an outline that is not followed by colour, reduced pixels. */
const OUTLINE_CELLS = 1;

/**
 * Beyond the screen there is nothing to unmix with: all of it goes, but for the person's own surfaces that cross its
 * edge and go on smoothly. Sets `regions` there.
 * @returns coverage beyond the screen and of the core within it.
 */
export function followBeyond({ data }: LinearRaster, regions: Mask, outside: Mask): Plane {
  const { width, height } = outside;
  const beyond = createPlane(width, height);
  if (!outside.data.includes(1)) return beyond;
  const seeds = new Int32Array(width * height).fill(-1);
  const within = createMask(width, height);
  const near = (p: number, q: number, bound: number): boolean => {
    for (let c = 0; c < 3; c++)
      if (Math.abs(data[p * 3 + c] - data[q * 3 + c]) > bound * (Math.max(data[p * 3 + c], data[q * 3 + c]) + 0.02))
        return false;
    return true;
  };
  const visit = (p: number, q: number): boolean => {
    if (!outside.data[q] || seeds[q] >= 0 || !near(p, q, 2 * FOLLOWED_STEP) || !near(seeds[p], q, FOLLOWED))
      return false;
    seeds[q] = seeds[p];
    beyond.data[q] = 1;
    return true;
  };
  for (let p = 0; p < regions.data.length; p++) {
    if (outside.data[p] || regions.data[p] !== Region.core) continue;
    seeds[p] = p;
    within.data[p] = 1;
  }
  spread(within, visit);
  // Thin runs along stands are no limbs; small holes are.
  const radius = Math.max(1, Math.round(THINNEST * width));
  const followed: Mask = { width, height, data: within.data.map((v, p) => v || beyond.data[p]) };
  const limbs = growMask(growMask(growMask(growMask(followed, -radius), 2 * radius), -2 * radius), radius);
  const whole = growMask(limbs, OUTLINE_CELLS);
  // Mixed outlines were not followed; the core within counts, or a seam would show where it crosses the edge.
  for (let p = 0; p < beyond.data.length; p++) beyond.data[p] = whole.data[p] || within.data[p];
  const soft = boxBlur(beyond, 1);
  for (let p = 0; p < outside.data.length; p++)
    if (outside.data[p]) regions.data[p] = soft.data[p] > 0 ? Region.fringe : Region.clear;
  return soft;
}

export const bounds = {
  /**
   * Half the side of the window in which the map follows the frame's colour, share of the longer side; and how much
   * colour must differ for it, linear light squared.
   */
  window: 0.012,
  least: 1e-4,
  /** Of the refined map: what is surely nobody and surely somebody; between them it turns smoothly. */
  nobody: 0.3,
  somebody: 0.7,
  /**
   * A piece in which the map itself sees less of a person is the screen's rim, a stand or a lamp; pieces smaller than
   * this share of the frame too.
   */
  piece: 0.5,
  pieceShare: 0.0005,
  /** Of the map: what surely is nobody, and somebody, whose colours are counted; and the least share of the frame of both. */
  none: 0.15,
  sure: 0.85,
  sampled: 0.002,
  /** A colour that neither has so much of says nothing; and the most a colour says, as the logarithm of a ratio. */
  unseen: 0.001,
  says: 3,
  /** Difference from the plate up to which a place shows what the plate shows, relative to both. */
  same: 0.05,
};

/**
 * Beyond the screen there is nothing to unmix with: what is kept there is what the map says is person, and colour where
 * the map is unsure, brought to the frame's own outlines. Sets `regions` there. @param empty the frame without anybody, from a plate: what looks like it
 * there is nobody.
 * @returns coverage beyond the screen and of the core within it.
 */
export function personBeyond(
  frame: LinearRaster,
  persons: Plane,
  regions: Mask,
  outside: Mask,
  empty?: LinearRaster,
): Plane {
  const { width, height } = outside;
  const beyond = createPlane(width, height);
  if (!outside.data.includes(1)) return beyond;
  const seen = byColour(frame, persons, regions, outside);
  const refined = guidedFilter(
    frame,
    seen,
    Math.max(2, Math.round(bounds.window * Math.max(width, height))),
    bounds.least,
  ).data;
  const some = createMask(width, height);
  for (let p = 0; p < beyond.data.length; p++) {
    if (!outside.data[p]) beyond.data[p] = regions.data[p] === Region.core ? 1 : 0;
    else {
      beyond.data[p] = Math.min(1, Math.max(0, (refined[p] - bounds.nobody) / (bounds.somebody - bounds.nobody)));
      if (empty) beyond.data[p] *= Math.min(1, Math.max(0, unlike(frame.data, empty.data, p) / bounds.same - 1));
      if (beyond.data[p] > 0) some.data[p] = 1;
    }
  }
  for (const { pixels } of components(some)) {
    let sure = 0;
    for (const p of pixels) sure += seen.data[p];
    if (sure < bounds.piece * pixels.length || pixels.length < bounds.pieceShare * some.data.length)
      for (const p of pixels) beyond.data[p] = 0;
  }
  for (let p = 0; p < beyond.data.length; p++)
    if (outside.data[p]) regions.data[p] = beyond.data[p] > 0 ? Region.fringe : Region.clear;
  return beyond;
}

/**
 * The map, weighed by colour beyond the screen: where it is unsure of what has the colours of what is surely nobody
 * there, or those of the person, it follows them.
 */
function byColour({ data }: LinearRaster, persons: Plane, regions: Mask, outside: Mask): Plane {
  const { width, height } = outside;
  const bins = new Uint16Array(outside.data.length);
  const person = new Float64Array(BINS ** 3);
  const wall = new Float64Array(BINS ** 3);
  let [ofPerson, ofWall] = [0, 0];
  for (let p = 0; p < bins.length; p++) {
    const [r, g, b] = [binOf(data[p * 3]), binOf(data[p * 3 + 1]), binOf(data[p * 3 + 2])];
    bins[p] = (r * BINS + g) * BINS + b;
    const map = persons.data[p];
    if (outside.data[p] ? map > bounds.sure : regions.data[p] === Region.core) {
      person[bins[p]]++;
      ofPerson++;
    } else if (outside.data[p] && map < bounds.none) {
      wall[bins[p]]++;
      ofWall++;
    }
  }
  if (Math.min(ofWall, ofPerson) < bounds.sampled * bins.length) return persons;
  smooth(person);
  smooth(wall);
  const ratio = createPlane(width, height);
  for (let p = 0; p < bins.length; p++) {
    const of = (person[bins[p]] / ofPerson + bounds.unseen) / (wall[bins[p]] / ofWall + bounds.unseen);
    ratio.data[p] = Math.max(-bounds.says, Math.min(bounds.says, Math.log(of)));
  }
  const out = boxBlur(ratio, 1);
  for (let p = 0; p < bins.length; p++) {
    const map = Math.max(0.02, Math.min(0.98, persons.data[p]));
    out.data[p] = outside.data[p] ? 1 / (1 + ((1 - map) / map) * Math.exp(-out.data[p])) : persons.data[p];
  }
  return out;
}

/** Steps of a channel in the counts of colours. */
const BINS = 20;
function binOf(light: number): number {
  return Math.min(BINS - 1, Math.floor(Math.sqrt(Math.max(0, light)) * BINS));
}
/** Counts of colours spread over their neighbours. */
function smooth(counts: Float64Array): void {
  for (const step of [1, BINS, BINS * BINS]) {
    const before = counts.slice();
    for (let n = 0; n < counts.length; n++) {
      const at = Math.floor(n / step) % BINS;
      counts[n] = (before[n] * 2 + (at > 0 ? before[n - step] : 0) + (at < BINS - 1 ? before[n + step] : 0)) / 4;
    }
  }
}

/** Largest difference of a channel, relative to both values and some light. */
function unlike(a: Float32Array, b: Float32Array, p: number): number {
  let most = 0;
  for (let i = p * 3; i < p * 3 + 3; i++) most = Math.max(most, Math.abs(a[i] - b[i]) / (a[i] + b[i] + 0.02));
  return most;
}
