import { boxBlur } from '../image/boxBlur.ts';
import { growMask } from '../image/growMask.ts';
import { either, where, without } from '../image/masks.ts';
import { createPlane, type EncodedRaster, type LinearRaster, type Mask, type Plane } from '../image/raster.ts';
import { Hint } from '../touch/hints.ts';
import type { Stroke } from '../touch/touch.ts';
import { followBeyond, personBeyond } from './beyond.ts';
import { candidateFields } from './candidates.ts';
import { linearRows } from './fringeRows.ts';
import type { GreenPatch } from './greenPatch.ts';
import { noGuidance, type Guidance, type HandMask } from './guidance.ts';
import { prepareFrame, type KnownBefore, type Prepared } from './prepare.ts';
import type { Recipe } from './recipe.ts';
import { Region } from './region.ts';
import { classifyRegions, solidityOf, opennessOf } from './regions.ts';
import type { Sorted } from './sorter/sortFrame.ts';

/** What is decided at reduced size, before any full-size pixel is touched. */
export interface Analysis extends Pick<
  Prepared,
  'survey' | 'plateFits' | 'factor' | 'reduced' | 'screen' | 'outside' | 'noise' | 'persons' | 'halving' | 'shadow'
> {
  /** Region.clear, .fringe or .core for each reduced pixel. */
  regions: Mask;
  /** 1 where green is kept and spill removal must not reach. */
  kept: Mask;
  /** 1 in hair dyed nearly in the screen's colour, 2 around it; see Regions. */
  dyed: Mask;
  /** 1 where a hand says that the screen shines through. */
  sheer: Mask;
  /** How far, 0–1, solved coverage gives way to full coverage, and to none. */
  solidity: Plane;
  openness: Plane;
  /**
   * What each reduced pixel is likely to be, and which coverage to expect; and 1 where it may be the screen in shadow
   * as well as something dark, outlines of the solid aside.
   */
  sorted: Sorted;
  shaded: Mask;
  /** The coverage of what is followed beyond the screen's edge; 1 too in the core within. */
  beyond: Plane;
  /** Patches of screen-like colour inside the person, largest first. */
  patches: GreenPatch[];
  /** For each reduced pixel the number of its patch, from 1 on; 0: none. */
  labels: Uint16Array;
  /** Candidate foreground colours, each a field at reduced size. */
  candidates: LinearRaster[];
  /** The same for the finished colour. */
  colours: LinearRaster[];
  /** Masks by hand, laid over the coverage when it is solved. */
  masks: HandMask[];
}

export const bounds = {
  /** Mean coverage of strands, as solved from purer ones, from which they are solid. */
  solidStrands: 0.94,
};

/**
 * Sorts a prepared frame into clear, fringe and core by the settings and what a hand said; may be repeated with others.
 */
export function analysePrepared(
  prepared: Prepared,
  recipe: Pick<Recipe, 'hairReach' | 'greenKeep'>,
  guidance: Guidance = noGuidance,
  strokes: readonly Stroke[] = [],
): Analysis {
  const { survey, plateFits, factor, reduced, screen, persons, outside, noise, halving } = prepared;
  const { regions, kept, strands, masses, zone, dyed, sheer, patches, labels, solid, hints } = classifyRegions(
    prepared,
    recipe,
    guidance,
    strokes,
  );
  const { candidates, colours } = candidateFields(
    prepared,
    { solid, masses, zone, regions, kept, dyed },
    survey.channel,
  );
  settleStrands(reduced, screen, candidates, strands, regions, noise);
  const beyond = persons
    ? personBeyond(reduced, persons, regions, outside, prepared.byPlate ? screen : undefined)
    : followBeyond(reduced, regions, outside);
  // There is no screen to solve anything with, but a hand may say what is there.
  for (let p = 0; p < hints.data.length; p++)
    if (outside.data[p] && (hints.data[p] === Hint.person || hints.data[p] === Hint.screen))
      beyond.data[p] = hints.data[p] === Hint.person ? 1 : 0;
  return {
    survey,
    plateFits,
    factor,
    persons,
    outside,
    noise,
    halving,
    reduced,
    screen,
    regions,
    kept,
    dyed,
    sheer,
    solidity: solidityOf(
      regions,
      prepared.sorted.solid,
      without(either(strands, hints), where(hints, Hint.person)),
      sheer,
    ),
    openness: opennessOf(regions, prepared.sorted.clear, without(either(sheer, hints), where(hints, Hint.screen))),
    sorted: prepared.sorted,
    shadow: prepared.shadow,
    shaded: without(
      either(
        without(prepared.shaded, growMask(where(regions, Region.core), prepared.edgeCells)),
        where(hints, Hint.screen),
      ),
      without(hints, where(hints, Hint.screen)),
    ),
    beyond,
    patches,
    labels,
    candidates,
    colours,
    masks: guidance.masks,
  };
}

/** Both steps. @returns undefined if the frame shows no green or blue screen and a hand points at none. */
export function analyseFrame(
  frame: EncodedRaster,
  recipe: Pick<Recipe, 'hairReach' | 'greenKeep'>,
  guidance: Guidance = noGuidance,
  known: KnownBefore = {},
  strokes: readonly Stroke[] = [],
): Analysis | undefined {
  const prepared = prepareFrame(frame, { ...known, masks: guidance.masks });
  return prepared && analysePrepared(prepared, recipe, guidance, strokes);
}

/** Strands that purer ones explain as solid become core. Single places scatter, so each counts with those around it. */
function settleStrands(
  frame: LinearRaster,
  screen: LinearRaster,
  candidates: LinearRaster[],
  strands: Mask,
  regions: Mask,
  noise: number,
): void {
  if (!strands.data.includes(1)) return;
  const { width, height } = frame;
  const coverage = createPlane(width, height);
  const weight = createPlane(width, height);
  const rows = linearRows(screen, candidates, Math.max(0.012, noise));
  for (let y = 0, p = 0; y < height; y++) {
    let count = 0;
    for (const end = p + width; p < end; p++) {
      if (!strands.data[p]) continue;
      for (let c = 0; c < 3; c++) {
        rows.reading[c][count] = frame.data[p * 3 + c];
        rows.back[c][count] = screen.data[p * 3 + c];
      }
      rows.cells[count++] = p;
    }
    rows.solve(count);
    for (let k = 0; k < count; k++) {
      coverage.data[rows.cells[k]] = rows.coverage[k];
      weight.data[rows.cells[k]] = 1;
    }
  }
  const mean = boxBlur(coverage, 2).data;
  const share = boxBlur(weight, 2).data;
  for (let p = 0; p < strands.data.length; p++)
    if (strands.data[p] && mean[p] >= bounds.solidStrands * share[p]) regions.data[p] = Region.core;
}
