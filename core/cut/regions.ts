import { boxBlur } from '../image/boxBlur.ts';
import { components, replaceSmall } from '../image/components.ts';
import { nearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { both, setWhere, where, without } from '../image/masks.ts';
import { spread } from '../image/spread.ts';
import { createMask, createPlane, type LinearRaster, type Mask, type Plane } from '../image/raster.ts';
import type { Prepared } from './analysis.ts';
import { givenBy, noGuidance, sheerBy, type Guidance } from './guidance.ts';
import { dyedOf, fillAmongDyed, hairBounds, hairyOf, strandMasses } from './hair.ts';
import { closeKept, growKept, leaveOutline } from './keptCloth.ts';
import { greenishOf, judgePatches, type GreenPatch } from './ledger.ts';
import type { Recipe } from './recipe.ts';
import { Region } from './region.ts';

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

/** Values tuned on the bench's tuning frames; see docs/accuracy.md for what they reach. */
const bounds = {
  /** Key coverage (colour difference) from which a pixel can be core. */
  coreKey: 0.96,
  /** The same for what is neutral, smooth and wide; largest difference of its channels, relative. */
  tintedKey: 0.85,
  neutral: 0.15,
  /** Coverage proven by one channel alone from which a pixel can be core, whatever its hue. */
  coreProven: 0.9,
  /** Clear islands and specks smaller than this share of the frame are not believed. */
  speckShare: 0.000015,
  /** How far inside the core-like area core begins, share of the frame's height. */
  coreInset: 0.004,
  /** How far inside samples of the person's colour are taken, share of the frame's height. */
  sampleInset: 0.008,
  /** Least key of a piece of fringe that touches no plain screen, for it to be part of the person. */
  enclosedKey: 0.4,
  /** Half the relative step between neighbours up to which a surface goes on, with so much level added; least key that core may grow over. */
  smoothStep: 0.04,
  smoothFlare: 0.02,
  smoothKey: 0.9,
  smoothNeutral: 0.7,
  /** Step of chromaticity up to which what is neutral and uneven, knitted cloth, goes on. */
  smoothHue: 0.009,
  /** Share of the hair's reach that is looked at where there is none. */
  bareReach: 0.4,
  /** Width over which solved coverage turns into core, reduced pixels. */
  softening: 2,
};

/** What sorting starts from. */
export type Sortable = Pick<Prepared, 'reduced' | 'model' | 'survey' | 'traits' | 'edgeCells'>;

/** Sorts the reduced frame into clear, fringe and core, and gives a verdict on every patch of green inside. */
export function classifyRegions({ reduced: frame, model: { screen, clear: found }, survey, traits: { key, proven, rough }, edgeCells }: Sortable, recipe: Pick<Recipe, 'hairReach' | 'greenKeep'>, guidance: Guidance = noGuidance): Regions {
  const { width, height } = frame;
  const count = width * height;
  // What the masks say is as sure as what is found.
  const clear: Mask = { width, height, data: found.data.slice() };
  const regions = createMask(width, height);
  const coreLike = createMask(width, height);
  const given = givenBy(guidance.masks, width, height);
  sortSingly(given, key, proven, clear, coreLike, regions);
  const masses = strandMasses(rough, clear);
  const { kept, labels, patches } = judgePatches(frame, screen, clear, greenishOf(frame, regions, key, bounds.coreKey, survey.channel), rough, masses, survey.channel, recipe.greenKeep, guidance.verdicts);
  const dyed = dyedOf(kept, labels, patches);
  growKept(frame, screen, kept, labels, patches, clear, masses, rough);
  closeKept(frame, screen, kept, key, regions);
  const gone = goneByHand(labels, patches, width, height);
  leaveOutline(kept, clear, edgeCells);
  setWhere(coreLike, kept, 1);
  setWhere(regions, both(kept, where(regions, Region.clear)), Region.fringe);
  addTinted(frame, screen, clear, key, rough, coreLike);
  setWhere(coreLike, gone, 0);
  replaceSmall(coreLike, 1, 0, Math.max(4, bounds.speckShare * count));
  const fromClear = nearestFeature(clear).distance;
  const neutral = (p: number): boolean => isNeutral(frame, screen, key, p);
  const grows = (p: number): boolean => key[p] >= bounds.smoothKey || (key[p] >= bounds.smoothNeutral && neutral(p));
  growSmoothly(frame, coreLike, masses, clear, fromClear, grows, neutral, edgeCells);
  const zone = growMask(masses, (recipe.hairReach / 100) * height);
  const hairy = hairyOf(frame, rough, zone, fromClear, key, coreLike, bounds.coreKey);
  const strands = where(hairy, 2);
  // A mixed pixel can look like core by chance, fair hair above all, whose own colour hides some screen. A step inside
  // the core-like area it no longer does; samples of the person's colour are taken another step inside.
  const inset = Math.max(1, bounds.coreInset * height);
  const core = growMask(coreLike, -inset);
  const mayGrow = both(coreLike, growMask(core, 1.5 * inset)).data;
  growSmoothly(frame, core, zone, clear, fromClear, (p) => mayGrow[p] === 1, neutral, edgeCells, 1 / Math.max(1, (edgeCells - 1) / 2));
  setWhere(regions, without(core, strands), Region.core);
  setWhere(regions, growMask(kept, -1), Region.core);
  replaceSmall(regions, Region.clear, Region.fringe, Math.max(3, bounds.speckShare * count));
  fillEnclosed(regions, key);
  fillAmongDyed(regions, dyed);
  openBand(regions, coreLike, zone, Math.max(1.5, (recipe.hairReach / 100) * height));
  // What a hand says goes is screen, whatever it looks like.
  setWhere(regions, gone, Region.clear);
  setWhere(regions, where(given, 1), Region.clear);
  setWhere(regions, where(given, 2), Region.core);
  const sheer = sheerBy(guidance.masks, width, height);
  openSheer(sheer, regions, kept, coreLike);
  const solid = samplesIn(coreLike, zone, Math.max(2, bounds.sampleInset * height), edgeCells);
  const pure = without(solid, hairy);
  return { regions, kept, solid: pure.data.includes(1) ? pure : solid.data.includes(1) ? solid : coreLike, masses, zone, dyed, sheer, strands, patches, labels };
}

/** Sorts each reduced pixel by what it shows itself, and by what the masks give: 1 for screen, 2 for person. Sets `clear`, `coreLike` and `regions`. */
function sortSingly({ data: given }: Mask, key: Float32Array, proven: Float32Array, { data: clear }: Mask, { data: coreLike }: Mask, { data: regions }: Mask): void {
  for (let p = 0; p < clear.length; p++) {
    if (given[p] !== 0) {
      clear[p] = given[p] === 1 ? 1 : 0;
      if (given[p] === 1) continue;
      coreLike[p] = 1;
      regions[p] = Region.core;
    } else if (clear[p] === 0) {
      regions[p] = Region.fringe;
      if (key[p] >= bounds.coreKey || proven[p] >= bounds.coreProven) coreLike[p] = 1;
    }
  }
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
  const gone = createMask(width, height);
  const numbers = new Set(patches.flatMap(({ byHand, verdict }, n) => (byHand && verdict === 'remove' ? [n + 1] : [])));
  if (numbers.size) for (let p = 0; p < labels.length; p++) if (numbers.has(labels[p])) gone.data[p] = 1;
  return gone;
}

/**
 * White, grey and black with a little of the screen's light on them are no sheer cloth: smooth, wide, and neutral when
 * what seems to be screen is taken out. Adds them to `core`.
 */
function addTinted(frame: LinearRaster, screen: LinearRaster, clear: Mask, key: Float32Array, rough: Float32Array, core: Mask): void {
  const { width, height } = core;
  const tinted = createMask(width, height);
  for (let p = 0; p < tinted.data.length; p++) {
    if (clear.data[p] || core.data[p]) tinted.data[p] = core.data[p];
    else if (key[p] >= bounds.tintedKey && rough[p] < hairBounds.roughness && isNeutral(frame, screen, key, p)) tinted.data[p] = 1;
  }
  const radius = hairBounds.halfWidth * height;
  setWhere(core, both(tinted, growMask(growMask(tinted, -radius), radius)), 1);
}

/** White, grey or black when what seems to be screen is taken out. */
function isNeutral({ data }: LinearRaster, screen: LinearRaster, key: Float32Array, p: number): boolean {
  const i = p * 3;
  const through = 1 - key[p];
  const r = data[i] - through * screen.data[i];
  const g = data[i + 1] - through * screen.data[i + 1];
  const b = data[i + 2] - through * screen.data[i + 2];
  const most = Math.max(r, g, b);
  return most - Math.min(r, g, b) < bounds.neutral * most;
}

/**
 * Lets the core grow where the picture goes on smoothly: the screen's light on white cloth looks like a little screen, but
 * it fades over centimetres, and the outline of a thing does not. Changes `core`. @param grows whether the key allows it.
 * @param edgeCells width of an outline; nothing grows nearer to the screen than that.
 */
function growSmoothly({ data }: LinearRaster, core: Mask, masses: Mask, clear: Mask, distance: Float32Array, grows: (p: number) => boolean, neutral: (p: number) => boolean, edgeCells: number, strict = 1): void {
  const goesOn = (p: number, q: number): boolean => {
    for (let c = 0; c < 3; c++) {
      const a = data[p * 3 + c] + bounds.smoothFlare;
      const b = data[q * 3 + c] + bounds.smoothFlare;
      if (Math.abs(a - b) > strict * bounds.smoothStep * (a + b)) return false;
    }
    return true;
  };
  const share = (p: number, c: number): number => (data[p * 3 + c] + bounds.smoothFlare) / (data[p * 3] + data[p * 3 + 1] + data[p * 3 + 2] + 3 * bounds.smoothFlare);
  const sameHue = (p: number, q: number): boolean => Math.abs(share(p, 0) - share(q, 0)) + Math.abs(share(p, 2) - share(q, 2)) < strict * bounds.smoothHue;
  const visit = (p: number, q: number): boolean => {
    if (core.data[q] || clear.data[q] || distance[q] < edgeCells || !(masses.data[q] ? sameHue(p, q) && neutral(q) : goesOn(p, q)) || !grows(q)) return false;
    core.data[q] = 1;
    return true;
  };
  spread(core, visit);
}

export function softenCore(regions: Mask): Plane {
  const core = createPlane(regions.width, regions.height);
  for (let p = 0; p < core.data.length; p++) core.data[p] = regions.data[p] === Region.core ? 1 : 0;
  const soft = boxBlur(core, bounds.softening);
  for (let p = 0; p < soft.data.length; p++) soft.data[p] = core.data[p] ? Math.max(0, 2 * soft.data[p] - 1) : 0;
  return soft;
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
