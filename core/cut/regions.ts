import { boxBlur } from '../image/boxBlur.ts';
import { components, replaceSmall } from '../image/components.ts';
import { nearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { createMask, createPlane, type LinearRaster, type Mask, type Plane } from '../image/raster.ts';
import type { ScreenModel } from '../screen/screenModel.ts';
import type { Survey } from '../screen/survey.ts';
import type { Recipe } from './recipe.ts';

/** Where the answer is known and where it has to be solved. */
export const Region = { clear: 0, fringe: 1, core: 2 } as const;

/** A patch of screen-like colour in or beside the person, with what speaks for and against it. */
export interface GreenPatch {
  /** Bounding box in reduced pixels: left, top, right, bottom (exclusive). */
  box: [number, number, number, number];
  /** Share of the frame, 0–1. */
  share: number;
  /** Least coverage that the darkest and brightest channel prove, mean over the patch, 0–1. */
  provenCoverage: number;
  /** Chromaticity distance from the screen at that place. */
  chromaDistance: number;
  verdict: 'keep' | 'remove';
  /** True where the evidence lies so near the limit that the verdict may be wrong. */
  doubtful: boolean;
}

export interface Regions {
  regions: Mask;
  /** 1 where green is kept. */
  kept: Mask;
  /** 1 where the reduced pixel is surely person alone, so that its colour may serve as a sample. */
  solid: Mask;
  /** 0 where coverage is as solved, 1 where it is surely full; between the two along the edge of the core. */
  solidity: Plane;
  /** 0 near anything clear, 1 deep inside the person, where nearly full coverage is full. */
  lift: Plane;
  patches: GreenPatch[];
}

/** Values tuned on the bench's tuning frames; see docs/accuracy.md for what they reach. */
const bounds = {
  /** Key coverage (colour difference) from which a pixel can be core. */
  coreKey: 0.96,
  /** Coverage proven by one channel alone from which a pixel can be core, whatever its hue. */
  coreProven: 0.9,
  /** Clear islands and specks smaller than this share of the frame are not believed. */
  speckShare: 0.000015,
  /** A green patch smaller than this share of the frame is left to the unmixing. */
  patchShare: 0.0004,
  /** How far inside the core-like area core begins, share of the frame's height. */
  coreInset: 0.004,
  /** How far inside samples of the person's colour are taken, share of the frame's height. */
  sampleInset: 0.008,
  /** A kept patch has this sum of proven coverage and chromaticity distance, and this distance, at “green kept” 0; none at 1. */
  keepEvidence: 1.64,
  keepDistance: 0.2,
  /** A verdict is doubtful within this logarithm of the limit, for patches from this share of the frame on. */
  doubtRange: 0.2,
  doubtShare: 0.002,
  /** Dents of a kept patch up to twice this wide, share of the frame's height, are closed where no other hue stands out. */
  keepClosing: 0.02,
  closingKey: 1.02,
  /** Width over which solved coverage turns into core, reduced pixels. */
  softening: 2,
  /** Beyond these distances from anything clear, share of the frame's height, coverage is lifted towards solid. */
  liftFrom: 0.01,
  liftTo: 0.03,
};

/** Sorts the reduced frame into clear, fringe and core, and gives a verdict on every patch of green inside. */
export function classifyRegions(frame: LinearRaster, model: ScreenModel, survey: Survey, recipe: Pick<Recipe, 'hairReach' | 'greenKeep'>): Regions {
  const { width, height } = frame;
  const count = width * height;
  const key = keyCoverage(frame, model.screen, survey.channel);
  const proven = provenCoverage(frame, model.screen);
  const regions = createMask(width, height);
  const coreLike = createMask(width, height);
  for (let p = 0; p < count; p++) {
    if (model.clear.data[p]) continue;
    regions.data[p] = Region.fringe;
    if (key[p] >= bounds.coreKey || proven[p] >= bounds.coreProven) coreLike.data[p] = 1;
  }
  const { kept, patches } = judgePatches(frame, model, key, proven, regions, recipe.greenKeep);
  for (let p = 0; p < count; p++) if (kept.data[p]) coreLike.data[p] = 1;
  replaceSmall(coreLike, 1, 0, Math.max(4, bounds.speckShare * count));
  // A mixed pixel can look like core by chance, fair hair above all, whose own colour hides some screen. A step inside
  // the core-like area it no longer does; samples of the person's colour are taken another step inside.
  const core = growMask(coreLike, -Math.max(1, bounds.coreInset * height));
  const keptCore = growMask(kept, -1);
  for (let p = 0; p < count; p++) if (core.data[p] || keptCore.data[p]) regions.data[p] = Region.core;
  replaceSmall(regions, Region.clear, Region.fringe, Math.max(3, bounds.speckShare * count));
  openBand(regions, coreLike, Math.max(1.5, (recipe.hairReach / 100) * height));
  const solid = growMask(coreLike, -Math.max(2, bounds.sampleInset * height));
  return { regions, kept, solid: solid.data.includes(1) ? solid : coreLike, solidity: softenCore(regions), lift: liftInside(model.clear), patches };
}

function softenCore(regions: Mask): Plane {
  const core = createPlane(regions.width, regions.height);
  for (let p = 0; p < core.data.length; p++) core.data[p] = regions.data[p] === Region.core ? 1 : 0;
  const soft = boxBlur(core, bounds.softening);
  for (let p = 0; p < soft.data.length; p++) soft.data[p] = core.data[p] ? Math.max(0, 2 * soft.data[p] - 1) : 0;
  return soft;
}

function liftInside(clear: Mask): Plane {
  const { distance } = nearestFeature(clear);
  const lift = createPlane(clear.width, clear.height);
  const from = bounds.liftFrom * clear.height;
  const to = bounds.liftTo * clear.height;
  for (let p = 0; p < lift.data.length; p++) lift.data[p] = Math.max(0, Math.min(1, (distance[p] - from) / (to - from)));
  return lift;
}

/** Near the person nothing is taken for clear unlooked: single hairs vanish at reduced size. */
function openBand(regions: Mask, solid: Mask, reach: number): void {
  const { distance } = nearestFeature(solid);
  for (let p = 0; p < regions.data.length; p++) {
    if (regions.data[p] === Region.clear && distance[p] <= reach) regions.data[p] = Region.fringe;
  }
}

/** Coverage by colour difference, taking the person as having none: 1 − K(I)/K(B), K = primary − larger of the others (Vlahos). Above 1 for colours that lean away from the screen. */
function keyCoverage(frame: LinearRaster, screen: LinearRaster, channel: 1 | 2): Float32Array {
  const other = channel === 1 ? 2 : 1;
  const out = new Float32Array(frame.width * frame.height);
  const f = frame.data;
  const b = screen.data;
  for (let p = 0, i = 0; p < out.length; p++, i += 3) {
    const keyB = b[i + channel] - Math.max(b[i], b[i + other]);
    const keyI = f[i + channel] - Math.max(f[i], f[i + other]);
    out[p] = keyB <= 1e-4 ? 1 : Math.max(0, 1 - keyI / keyB);
  }
  return out;
}

/** Lower bound of coverage: with F in 0–1, each channel alone proves a ≥ 1 − I/B and a ≥ (I − B)/(1 − B). */
function provenCoverage(frame: LinearRaster, screen: LinearRaster): Float32Array {
  const out = new Float32Array(frame.width * frame.height);
  const f = frame.data;
  const b = screen.data;
  for (let p = 0, i = 0; p < out.length; p++, i += 3) {
    let bound = 0;
    for (let c = 0; c < 3; c++) {
      const B = Math.max(1e-4, b[i + c]);
      // Dim channels of a screen prove nothing: a little glare or noise changes their ratio at will.
      if (B > 0.06) bound = Math.max(bound, 1 - f[i + c] / B);
      if (B < 0.95) bound = Math.max(bound, (f[i + c] - B) / (1 - B));
    }
    out[p] = bound;
  }
  return out;
}

function judgePatches(
  frame: LinearRaster,
  model: ScreenModel,
  key: Float32Array,
  proven: Float32Array,
  regions: Mask,
  greenKeep: number,
): { kept: Mask; patches: GreenPatch[] } {
  const { width, height } = frame;
  const count = width * height;
  const greenish = createMask(width, height);
  for (let p = 0; p < count; p++) if (regions.data[p] === Region.fringe && key[p] < bounds.coreKey) greenish.data[p] = 1;
  // Opening by the width of a lock of hair: what survives is a thing of its own, not the fringe of another.
  const opening = Math.max(2, 0.006 * Math.max(width, height));
  const opened = growMask(growMask(greenish, -opening), opening);
  for (let p = 0; p < count; p++) opened.data[p] &= greenish.data[p];
  const kept = createMask(width, height);
  const patches: GreenPatch[] = [];
  for (const { pixels } of components(opened)) {
    if (pixels.length < bounds.patchShare * count) continue;
    const patch = measurePatch(frame, model.screen, proven, pixels, width, count);
    // Cloth that hides the screen proves high coverage by its dark channel; sheer cloth cannot, dark hair only part of it.
    const asked = 1 - greenKeep;
    const evidence = patch.provenCoverage + patch.chromaDistance;
    patch.verdict = greenKeep > 0 && evidence >= bounds.keepEvidence * asked && patch.chromaDistance >= bounds.keepDistance * asked ? 'keep' : 'remove';
    const near = (value: number, limit: number): number => Math.log(Math.max(1e-3, value) / Math.max(1e-3, limit * asked));
    patch.doubtful = patch.share >= bounds.doubtShare && Math.abs(near(evidence, bounds.keepEvidence)) < bounds.doubtRange && near(patch.chromaDistance, bounds.keepDistance) > -bounds.doubtRange;
    patches.push(patch);
    if (patch.verdict === 'keep') for (const p of pixels) kept.data[p] = 1;
  }
  closeKept(kept, key, regions);
  patches.sort((a, b) => b.share - a.share);
  return { kept, patches };
}

/** Dark folds of kept cloth are too dark to be green by themselves; what a kept patch encloses belongs to it. */
function closeKept(kept: Mask, key: Float32Array, regions: Mask): void {
  if (!kept.data.includes(1)) return;
  const reach = Math.max(1, Math.round(bounds.keepClosing * kept.height));
  const closed = growMask(growMask(kept, reach), -reach);
  for (let p = 0; p < kept.data.length; p++) {
    if (closed.data[p] && regions.data[p] === Region.fringe && key[p] < bounds.closingKey) kept.data[p] = 1;
  }
}

function measurePatch(frame: LinearRaster, screen: LinearRaster, proven: Float32Array, pixels: Int32Array, width: number, count: number): GreenPatch {
  let left = Infinity;
  let top = Infinity;
  let right = 0;
  let bottom = 0;
  let coverage = 0;
  let distance = 0;
  for (const p of pixels) {
    const x = p % width;
    const y = (p / width) | 0;
    left = Math.min(left, x);
    right = Math.max(right, x + 1);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y + 1);
    coverage += proven[p];
    const i = p * 3;
    const sumF = frame.data[i] + frame.data[i + 1] + frame.data[i + 2] + 1e-5;
    const sumB = screen.data[i] + screen.data[i + 1] + screen.data[i + 2] + 1e-5;
    distance += Math.hypot(frame.data[i] / sumF - screen.data[i] / sumB, frame.data[i + 2] / sumF - screen.data[i + 2] / sumB);
  }
  return {
    box: [left, top, right, bottom],
    share: pixels.length / count,
    provenCoverage: coverage / pixels.length,
    chromaDistance: distance / pixels.length,
    verdict: 'remove',
    doubtful: false,
  };
}
