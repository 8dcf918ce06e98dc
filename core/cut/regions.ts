import { boxBlur } from '../image/boxBlur.ts';
import { components, replaceSmall } from '../image/components.ts';
import { nearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { both, likely, setWhere, where, without } from '../image/masks.ts';
import { createMask, createPlane, type Mask, type Plane } from '../image/raster.ts';
import type { Prepared } from './analysis.ts';
import { givenBy, noGuidance, sheerBy, type Guidance } from './guidance.ts';
import { dyedOf, fillAmongDyed, hairyOf, strandMasses } from './hair.ts';
import { leaveOutline } from './keptCloth.ts';
import { greenishOf, judgePatches, type GreenPatch } from './ledger.ts';
import type { Recipe } from './recipe.ts';
import { Region } from './region.ts';
import type { Sorted } from './sorter/sortFrame.ts';

export interface Regions {
  regions: Mask;
  /** 1 where green is kept. */
  kept: Mask;
  /** 1 where the reduced pixel is surely person alone, so that its colour may serve as a sample. */
  solid: Mask;
  /** 1 in strands near the screen that seem solid but may let it shine through. */
  strands: Mask;
  /** 1 in masses of hair; and in and around them. */
  masses: Mask;
  zone: Mask;
  /** 1 in hair dyed nearly in the screen's colour; 2 around it. */
  dyed: Mask;
  /** 1 where a hand says that the screen shines through. */
  sheer: Mask;
  patches: GreenPatch[];
  /** For each reduced pixel the number of its patch, from 1 on; 0: none. */
  labels: Uint16Array;
}

const bounds = {
  /** Likelihood from which a place is taken for the person alone, and for the screen alone. */
  solid: +(globalThis as any).process?.env.BS || 0.5,
  clear: +(globalThis as any).process?.env.BC || 0.5,
  /** Likelihood from which a place's colour may serve as a sample of the person's. */
  sample: 0.8,
  /** Key coverage from which a colour is plainly not the screen's. */
  plainKey: 0.96,
  /** Clear islands and specks smaller than this share of the frame are not believed. */
  speckShare: 0.000015,
  /** How far inside samples of the person's colour are taken, share of the frame's height. */
  sampleInset: 0.008,
  /** Least key of a piece of fringe that touches no plain screen, for it to be part of the person. */
  enclosedKey: 0.4,
  /** Share of the hair's reach that is looked at where there is none. */
  bareReach: 0.4,
  /** Width over which solved coverage turns into core, reduced pixels. */
  softening: 2,
};

/** What sorting starts from. */
export type Sortable = Pick<Prepared, 'reduced' | 'screen' | 'sorted' | 'survey' | 'traits' | 'edgeCells'>;

/** Sorts the reduced frame into clear, fringe and core, and gives a verdict on every patch of green inside. */
export function classifyRegions({ reduced: frame, screen, sorted, survey, traits: { key, rough }, edgeCells }: Sortable, recipe: Pick<Recipe, 'hairReach' | 'greenKeep'>, guidance: Guidance = noGuidance): Regions {
  const { width, height } = frame;
  const count = width * height;
  const given = givenBy(guidance.masks, width, height);
  const { clear, regions } = sortSingly(given, sorted);
  const masses = strandMasses(rough, clear);
  const greenish = greenishOf(frame, both(where(clear, 0), unmixed(sorted)), key, bounds.plainKey, survey.channel);
  const { kept, labels, patches } = judgePatches(frame, screen, clear, greenish, rough, masses, sorted, survey.channel, recipe.greenKeep, guidance.verdicts);
  const dyed = dyedOf(kept, labels, patches);
  const gone = removedPatches(labels, patches, width, height);
  leaveOutline(kept, clear, edgeCells);
  setWhere(regions, both(gone, where(regions, Region.core)), Region.fringe);
  setWhere(regions, kept, Region.core);
  const coreLike = where(regions, Region.core);
  const fromClear = nearestFeature(clear).distance;
  const zone = growMask(masses, (recipe.hairReach / 100) * height);
  const hairy = hairyOf(frame, rough, zone, fromClear, key, coreLike, bounds.plainKey);
  const strands = where(hairy, 2);
  setWhere(regions, strands, Region.fringe);
  replaceSmall(regions, Region.clear, Region.fringe, Math.max(3, bounds.speckShare * count));
  fillEnclosed(regions, key);
  fillAmongDyed(regions, dyed);
  openBand(regions, coreLike, zone, Math.max(1.5, (recipe.hairReach / 100) * height));
  // What a hand says goes is screen, whatever it looks like.
  setWhere(regions, goneByHand(labels, patches, width, height), Region.clear);
  setWhere(regions, where(given, 1), Region.clear);
  setWhere(regions, where(given, 2), Region.core);
  const sheer = sheerBy(guidance.masks, width, height);
  openSheer(sheer, regions, kept, coreLike);
  const solid = samplesIn(both(coreLike, likely(sorted.solid, bounds.sample)), zone, Math.max(2, bounds.sampleInset * height), edgeCells);
  const pure = without(solid, hairy);
  return { regions, kept, solid: pure.data.includes(1) ? pure : solid.data.includes(1) ? solid : coreLike, masses, zone, dyed, sheer, strands, patches, labels };
}

/** 1 where one thing alone is likelier than a mixture: hair and sheer cloth over the screen are no patches of green. */
function unmixed({ clear, solid }: Sorted): Mask {
  const { width, height } = clear;
  const out = createMask(width, height);
  for (let p = 0; p < out.data.length; p++) if (clear.data[p] + solid.data[p] >= 0.5) out.data[p] = 1;
  return out;
}

/** Sorts each reduced pixel by what is likeliest and by what the masks give, 1 for screen, 2 for person, which is as sure. */
function sortSingly({ width, height, data: given }: Mask, { clear: likelyClear, solid }: Sorted): { clear: Mask; regions: Mask } {
  const clear = createMask(width, height);
  const regions = createMask(width, height);
  for (let p = 0; p < given.length; p++) {
    if (given[p] === 1 || (given[p] === 0 && likelyClear.data[p] >= bounds.clear)) clear.data[p] = 1;
    else regions.data[p] = given[p] === 2 || solid.data[p] >= bounds.solid ? Region.core : Region.fringe;
  }
  return { clear, regions };
}

/** Where the person's colour is taken from: well inside, and in things too thin for that, poles and straps but not hair, just inside their outline. */
function samplesIn(coreLike: Mask, zone: Mask, inset: number, edgeCells: number): Mask {
  const solid = growMask(coreLike, -inset);
  const wide = growMask(solid, inset + 1);
  const inner = growMask(coreLike, -edgeCells);
  for (let p = 0; p < solid.data.length; p++) if (inner.data[p] && !wide.data[p] && !zone.data[p]) solid.data[p] = 1;
  return solid;
}

/** What the screen shines through is solved, is no kept green, and no sample of anything's colour. Changes all but `sheer`. */
function openSheer(sheer: Mask, regions: Mask, kept: Mask, coreLike: Mask): void {
  if (!sheer.data.includes(1)) return;
  setWhere(regions, both(sheer, where(regions, Region.core)), Region.fringe);
  setWhere(kept, sheer, 0);
  setWhere(coreLike, sheer, 0);
}

/** 1 in patches of which a hand says that they go. */
function goneByHand(labels: Uint16Array, patches: GreenPatch[], width: number, height: number): Mask {
  return patchesWhere(({ byHand, verdict }) => byHand && verdict === 'remove', labels, patches, width, height);
}

function removedPatches(labels: Uint16Array, patches: GreenPatch[], width: number, height: number): Mask {
  return patchesWhere(({ verdict }) => verdict === 'remove', labels, patches, width, height);
}

/** 1 in the patches of which something holds. */
function patchesWhere(holds: (patch: GreenPatch) => boolean, labels: Uint16Array, patches: GreenPatch[], width: number, height: number): Mask {
  const mask = createMask(width, height);
  const held = Uint8Array.from([0, ...patches.map((patch) => (holds(patch) ? 1 : 0))]);
  for (let p = 0; p < labels.length; p++) mask.data[p] = held[labels[p]];
  return mask;
}

export function softenCore(regions: Mask): Plane {
  const core = createPlane(regions.width, regions.height);
  for (let p = 0; p < core.data.length; p++) core.data[p] = regions.data[p] === Region.core ? 1 : 0;
  const soft = boxBlur(core, bounds.softening);
  for (let p = 0; p < soft.data.length; p++) soft.data[p] = core.data[p] ? Math.max(0, 2 * soft.data[p] - 1) : 0;
  return soft;
}

const ENV = (n: string, d: number): number => +((globalThis as any).process?.env[n] ?? d);
export function solidityOf(regions: Mask, solid: Plane, strands: Mask, sheer: Mask): Plane {
  const soft = softenCore(regions);
  const s0 = ENV('S0', 2), s1 = ENV('S1', 3);
  for (let p = 0; p < soft.data.length; p++) if (!strands.data[p] && !sheer.data[p] && regions.data[p] !== Region.clear) soft.data[p] = Math.max(soft.data[p], Math.min(1, Math.max(0, (solid.data[p] - s0) / (s1 - s0))));
  return soft;
}
export function opennessOf(regions: Mask, clear: Plane, zone: Mask, sheer: Mask): Plane {
  const o0 = ENV('O0', 2), o1 = ENV('O1', 3);
  const out = createPlane(regions.width, regions.height);
  for (let p = 0; p < out.data.length; p++) if (!sheer.data[p] && (!zone.data[p] || ENV('OZ', 0)) && regions.data[p] !== Region.core) out.data[p] = Math.min(1, Math.max(0, (clear.data[p] - o0) / (o1 - o0)));
  return out;
}

/** Fringe that the person encloses without any plain screen in it is no gap, unless it is nearly as green: pearls, eyes, strands on a face. */
function fillEnclosed(regions: Mask, key: Float32Array): void {
  const { width } = regions;
  for (const { pixels } of components(where(regions, Region.fringe))) {
    const open = pixels.some((p) => (p % width > 0 && regions.data[p - 1] === Region.clear) || (p % width < width - 1 && regions.data[p + 1] === Region.clear) || regions.data[p - width] === Region.clear || regions.data[p + width] === Region.clear);
    if (!open && pixels.every((p) => key[p] > bounds.enclosedKey)) for (const p of pixels) regions.data[p] = Region.core;
  }
}

/** Near the person nothing is taken for clear unlooked: single hairs vanish at reduced size. Where there is no mass of hair they are looked for less far. */
function openBand(regions: Mask, solid: Mask, zone: Mask, reach: number): void {
  const { distance } = nearestFeature(solid);
  for (let p = 0; p < regions.data.length; p++) {
    if (regions.data[p] === Region.clear && distance[p] <= (zone.data[p] ? reach : bounds.bareReach * reach)) regions.data[p] = Region.fringe;
  }
}
