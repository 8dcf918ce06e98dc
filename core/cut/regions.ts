import { boxBlur } from '../image/boxBlur.ts';
import { components, replaceSmall } from '../image/components.ts';
import { nearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { both, either, likely, setWhere, where, without } from '../image/masks.ts';
import { createMask, createPlane, type LinearRaster, type Mask, type Plane } from '../image/raster.ts';
import { Hint, hintsOf } from '../touch/hints.ts';
import type { Stroke } from '../touch/touch.ts';
import type { Prepared } from './prepare.ts';
import { givenBy, noGuidance, sheerBy, type Guidance } from './guidance.ts';
import { dyedOf, fillAmongDyed, hairyOf, strandMasses } from './hair.ts';
import { bounds as keptBounds, closeKept, growKept, keepBeside, leaveOutline } from './keptCloth.ts';
import type { GreenPatch } from './greenPatch.ts';
import { greenishOf, judgePatches, mixedIn } from './ledger.ts';
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
  /** 1 where the screen shines through, as a hand says or by evidence. */
  sheer: Mask;
  patches: GreenPatch[];
  /** For each reduced pixel the number of its patch, from 1 on; 0: none. */
  labels: Uint16Array;
  /** What a hand said that places are, as Hint. */
  hints: Mask;
}

export const bounds = {
  /** Likelihood from which a place is taken for the person alone, and for the screen alone. */
  solid: 0.5,
  clear: 0.5,
  /** Likelihoods between which what is solved gives way to full coverage, and to none. */
  solidFrom: 0.6,
  solidTo: 1,
  openFrom: 0.8,
  openTo: 0.98,
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
  /** Share of core around a cell on its straight outline, which is solved as if it were none. */
  outlineShare: 0.6,
  /** Width over which solved coverage turns into core, reduced pixels. */
  softening: 2,
};

/**
 * Where a hand says the person is: difference from the screen, as a share of it, from which that is believed of a
 * place; how wide a gap of the screen's very colour is closed, reduced pixels; and the key below which green is kept.
 */
const personBounds = { apart: 0.12, gap: 4, keptKey: 0.6 };

/** What sorting starts from. */
export type Sortable = Pick<Prepared, 'reduced' | 'screen' | 'sorted' | 'survey' | 'traits' | 'edgeCells' | 'persons'>;

/** Sorts the reduced frame into clear, fringe and core, and gives a verdict on every patch of green inside. */
export function classifyRegions(
  { reduced: frame, screen, sorted, survey, traits: { key, rough }, edgeCells, persons }: Sortable,
  recipe: Pick<Recipe, 'hairReach' | 'greenKeep'>,
  guidance: Guidance = noGuidance,
  strokes: readonly Stroke[] = [],
): Regions {
  const { width, height } = frame;
  const count = width * height;
  const given = givenBy(guidance.masks, width, height);
  const { clear, regions } = sortSingly(given, sorted);
  const hints = hintsOf(strokes, width, height);
  const masses = either(strandMasses(rough, clear), where(hints, Hint.hair));
  // Sheer cloth over the screen is no patch of green; hair may be dyed, and is left to the ledger.
  const greenish = greenishOf(
    frame,
    without(where(clear, 0), without(mixedIn(sorted), masses)),
    key,
    bounds.plainKey,
    survey.channel,
  );
  const {
    kept,
    patterned,
    sheer: through,
    labels,
    patches,
  } = judgePatches(
    frame,
    screen,
    clear,
    greenish,
    rough,
    masses,
    sorted,
    survey.channel,
    recipe.greenKeep,
    guidance.verdicts,
    persons,
  );
  const dyed = dyedOf(kept, labels, patches);
  const gone = removedPatches(labels, patches, width, height);
  leaveOutline(kept, clear, edgeCells);
  setWhere(regions, both(gone, where(regions, Region.core)), Region.fringe);
  setWhere(regions, kept, Region.core);
  // Folds of what is kept keep their green with it.
  growKept(frame, screen, kept, labels, patches, clear, masses, rough);
  closeKept(frame, screen, kept, key, regions);
  keepBeside(frame, kept, regions, survey.channel);
  // A pattern ends where its pieces do: what lies between and around them is of other colours.
  keepBeside(frame, patterned, regions, survey.channel, keptBounds.besidePattern);
  setWhere(kept, patterned, 1);
  setWhere(regions, patterned, Region.core);
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
  takeHints(hints, frame, screen, key, regions, kept, coreLike);
  setWhere(strands, where(hints, Hint.hair), 1);
  const byHand = either(given, hints);
  const sheer = either(
    either(sheerBy(guidance.masks, width, height), where(hints, Hint.sheer)),
    without(through, byHand),
  );
  openSheer(sheer, regions, kept, coreLike);
  const solid = samplesIn(
    both(coreLike, likely(sorted.solid, bounds.sample)),
    zone,
    Math.max(2, bounds.sampleInset * height),
    edgeCells,
  );
  const pure = without(solid, hairy);
  return {
    regions,
    kept,
    solid: pure.data.includes(1) ? pure : solid.data.includes(1) ? solid : coreLike,
    masses,
    zone,
    dyed,
    sheer,
    strands,
    patches,
    labels,
    hints,
  };
}

/**
 * Solves anew what a hand named: as the screen or hair behind and between what else is there; as the person wherever it
 * is not the very screen, and where the screen's colour does not go on beyond it. Changes all but the first four.
 */
function takeHints(
  hints: Mask,
  frame: LinearRaster,
  screen: LinearRaster,
  key: Float32Array,
  regions: Mask,
  kept: Mask,
  coreLike: Mask,
): void {
  if (!hints.data.some((hint) => hint !== Hint.none)) return;
  const open = either(where(hints, Hint.screen), where(hints, Hint.hair));
  setWhere(regions, open, Region.fringe);
  setWhere(kept, open, 0);
  setWhere(coreLike, open, 0);
  const person = where(hints, Hint.person);
  const unlike = enclosedIn(person, regions);
  for (let p = 0; p < person.data.length; p++)
    if (person.data[p] && apartFrom(frame.data, screen.data, p * 3) > personBounds.apart) unlike.data[p] = 1;
  const whole = both(person, growMask(growMask(unlike, personBounds.gap), -personBounds.gap));
  setWhere(regions, both(person, where(regions, Region.clear)), Region.fringe);
  setWhere(regions, whole, Region.core);
  setWhere(coreLike, whole, 1);
  for (let p = 0; p < whole.data.length; p++) if (whole.data[p] && key[p] < personBounds.keptKey) kept.data[p] = 1;
}

/** 1 in what of a zone is no screen that goes on beyond the zone. */
function enclosedIn(zone: Mask, regions: Mask): Mask {
  const core = where(regions, Region.core);
  const enclosed = both(zone, core);
  for (const { pixels, touchesBorder } of components(where(core, 0))) {
    if (!touchesBorder && pixels.every((p) => zone.data[p] !== 0)) for (const p of pixels) enclosed.data[p] = 1;
  }
  return enclosed;
}

/** How far a colour lies from another, as a share of the latter's sum. */
function apartFrom(a: Float32Array, b: Float32Array, i: number): number {
  const sum = b[i] + b[i + 1] + b[i + 2];
  return (Math.abs(a[i] - b[i]) + Math.abs(a[i + 1] - b[i + 1]) + Math.abs(a[i + 2] - b[i + 2])) / Math.max(1e-4, sum);
}

/**
 * Sorts each reduced pixel by what is likeliest and by what the masks give, 1 for screen, 2 for person, which is as
 * sure.
 */
function sortSingly(
  { width, height, data: given }: Mask,
  { clear: likelyClear, solid }: Sorted,
): { clear: Mask; regions: Mask } {
  const clear = createMask(width, height);
  const regions = createMask(width, height);
  for (let p = 0; p < given.length; p++) {
    if (given[p] === 1 || (given[p] === 0 && likelyClear.data[p] >= bounds.clear)) clear.data[p] = 1;
    else regions.data[p] = given[p] === 2 || solid.data[p] >= bounds.solid ? Region.core : Region.fringe;
  }
  return { clear, regions };
}

/**
 * Where the person's colour is taken from: well inside, and in things too thin for that, poles and straps but not
 * hair, just inside their outline.
 */
function samplesIn(coreLike: Mask, zone: Mask, inset: number, edgeCells: number): Mask {
  const solid = growMask(coreLike, -inset);
  const wide = growMask(solid, inset + 1);
  const inner = growMask(coreLike, -edgeCells);
  for (let p = 0; p < solid.data.length; p++) if (inner.data[p] && !wide.data[p] && !zone.data[p]) solid.data[p] = 1;
  return solid;
}

/**
 * What the screen shines through is solved, is no kept green, and no sample of anything's colour. Changes all but
 * `sheer`.
 */
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
function patchesWhere(
  holds: (patch: GreenPatch) => boolean,
  labels: Uint16Array,
  patches: GreenPatch[],
  width: number,
  height: number,
): Mask {
  const mask = createMask(width, height);
  const held = Uint8Array.from([0, ...patches.map((patch) => (holds(patch) ? 1 : 0))]);
  for (let p = 0; p < labels.length; p++) mask.data[p] = held[labels[p]];
  return mask;
}

/** 1 within the core, 0 on its outline and outside. */
function softenCore(regions: Mask): Plane {
  const core = createPlane(regions.width, regions.height);
  for (let p = 0; p < core.data.length; p++) core.data[p] = regions.data[p] === Region.core ? 1 : 0;
  const soft = boxBlur(core, bounds.softening);
  for (let p = 0; p < soft.data.length; p++)
    soft.data[p] = core.data[p] ? ramp(soft.data[p], bounds.outlineShare, 1) : 0;
  return soft;
}

/**
 * How far what is solved gives way to full coverage: in and around the core, and where the person alone is likely,
 * with all around, so that outlines are solved. Not in strands nor in sheer cloth.
 */
export function solidityOf(regions: Mask, solid: Plane, strands: Mask, sheer: Mask): Plane {
  const out = softenCore(regions);
  const likelihood = leastAround(solid).data;
  for (let p = 0; p < out.data.length; p++) {
    if (!strands.data[p] && !sheer.data[p] && regions.data[p] !== Region.clear)
      out.data[p] = Math.max(out.data[p], ramp(likelihood[p], bounds.solidFrom, bounds.solidTo));
  }
  return out;
}

/** How far what is solved gives way to no coverage: where the screen alone is likely. */
export function opennessOf(regions: Mask, clear: Plane, sheer: Mask): Plane {
  const out = createPlane(regions.width, regions.height);
  for (let p = 0; p < out.data.length; p++)
    if (!sheer.data[p] && regions.data[p] !== Region.core)
      out.data[p] = ramp(clear.data[p], bounds.openFrom, bounds.openTo);
  return out;
}

/** From 0 to 1 between two values. */
const ramp = (v: number, from: number, to: number): number =>
  Math.min(1, Math.max(0, (v - from) / Math.max(1e-6, to - from)));

/**
 * Fringe that the person encloses without any plain screen in it is no gap, unless it is nearly as green: pearls,
 * eyes, strands on a face.
 */
function fillEnclosed(regions: Mask, key: Float32Array): void {
  const { width } = regions;
  for (const { pixels } of components(where(regions, Region.fringe))) {
    const open = pixels.some(
      (p) =>
        (p % width > 0 && regions.data[p - 1] === Region.clear) ||
        (p % width < width - 1 && regions.data[p + 1] === Region.clear) ||
        regions.data[p - width] === Region.clear ||
        regions.data[p + width] === Region.clear,
    );
    if (!open && pixels.every((p) => key[p] > bounds.enclosedKey))
      for (const p of pixels) regions.data[p] = Region.core;
  }
}

/**
 * Near the person nothing is taken for clear unlooked: single hairs vanish at reduced size. Where there is no mass of
 * hair they are looked for less far.
 */
function openBand(regions: Mask, solid: Mask, zone: Mask, reach: number): void {
  const { distance } = nearestFeature(solid);
  for (let p = 0; p < regions.data.length; p++) {
    if (regions.data[p] === Region.clear && distance[p] <= (zone.data[p] ? reach : bounds.bareReach * reach))
      regions.data[p] = Region.fringe;
  }
}

/** Least value among each pixel and its eight neighbours. */
function leastAround({ width, height, data }: Plane): Plane {
  const rows = data.slice();
  for (let p = 0; p < data.length; p++) {
    const x = p % width;
    if (x > 0) rows[p] = Math.min(rows[p], data[p - 1]);
    if (x < width - 1) rows[p] = Math.min(rows[p], data[p + 1]);
  }
  const out = rows.slice();
  for (let p = 0; p < data.length; p++) {
    if (p >= width) out[p] = Math.min(out[p], rows[p - width]);
    if (p < data.length - width) out[p] = Math.min(out[p], rows[p + width]);
  }
  return { width, height, data: out };
}
