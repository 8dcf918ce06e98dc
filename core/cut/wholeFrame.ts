import { nearestFeature } from '../image/distance.ts';
import { fillUnknown } from '../image/fillUnknown.ts';
import { growMask } from '../image/growMask.ts';
import { sameDepth, whiteLevel, type EncodedRaster, type LinearRaster } from '../image/raster.ts';
import { reduceToLinear, reductionFactor } from '../image/reduce.ts';
import { encoderFor, linearTable } from '../colour/transfer.ts';
import { ColourTouches } from '../touch/onColour.ts';
import type { Stroke } from '../touch/touch.ts';
import type { Matte } from './coverage.ts';
import { coverageTable } from './finish.ts';
import { spillAlong, spillMasks, type Guidance } from './guidance.ts';
import { wholeMatte } from './matte.ts';
import { withOwnMatte, type OwnCoverage } from './ownMatte.ts';
import { ANALYSIS_PIXELS } from './prepare.ts';
import { extentOf, sampled, type Quality } from './quality.ts';
import { maskOf, rounded } from './places.ts';
import type { Recipe } from './recipe.ts';
import { leadOf, leads, removeSpill, spillWay } from './spill.ts';
import type { Finished } from './setRegions.ts';
import { shapeMatte } from './shape.ts';

/** A frame that is cut without a screen: what goes is said by a matte made elsewhere, by masks and touches. */

export const bounds = {
  /**
   * How far from its outline a cutout has the light of the screen that it once stood before, share of the height, and at
   * least so many reduced pixels.
   */
  spillReach: 0.02,
  leastReach: 8,
  /** Mean lead of a channel along the outline, of 1, from which it is taken for the screen’s. */
  tinted: 0.01,
};
/** A pure screen, linear, by which spill is taken where no screen can be seen. */
const SCREENS: Record<1 | 2, readonly [number, number, number]> = { 1: [0.05, 0.35, 0.08], 2: [0.04, 0.1, 0.4] };
/** Coverage from which a pixel is solid, and below which it is open; 0–65535. */
const SOLID = 0.98 * 65535;
const OPEN = 0.5 * 65535;

/**
 * @param scale pixels of this picture to one of the file.
 * @returns the cut as it was lit, and its coverage.
 */
export function cutWhole(
  frame: EncodedRaster,
  recipe: Recipe,
  { masks }: Pick<Guidance, 'masks'>,
  strokes: readonly Stroke[],
  own: OwnCoverage | undefined,
  scale = 1,
): Finished {
  const matte = shapeMatte(withOwnMatte(wholeMatte(frame), own), recipe, masks, strokes, scale);
  const reduced = atReducedSize(frame, matte);
  return {
    matte,
    cutout: finishWhole(frame, matte, reduced, recipe, { masks, strokes, cutElsewhere: own !== undefined }),
  };
}

/** What is to be said of such a cut: nothing is doubted where nothing was found. */
export function wholeQuality({ width, height }: EncodedRaster, matte: Matte): Quality {
  const factor = reductionFactor(width, height, ANALYSIS_PIXELS);
  const size = { width: Math.ceil(width / factor), height: Math.ceil(height / factor) };
  return {
    screen: 'none',
    screenShare: 0,
    fringeShare: 0,
    unexplained: 0,
    noisePercent: 0,
    greenKept: 0,
    greenRemoved: 0,
    ledger: [],
    doubts: [],
    extent: rounded(extentOf(sampled(matte, factor, size))),
    minutes: 0,
  };
}

interface Reduced {
  factor: number;
  colours: LinearRaster;
  /** 0–1, at one pixel of each reduced one. */
  coverage: { width: number; height: number; data: Float32Array };
}

function atReducedSize(frame: EncodedRaster, matte: Matte): Reduced {
  const factor = reductionFactor(frame.width, frame.height, ANALYSIS_PIXELS);
  const colours = reduceToLinear(frame, factor);
  return { factor, colours, coverage: sampled(matte, factor, colours) };
}

function finishWhole(
  frame: EncodedRaster,
  matte: Matte,
  reduced: Reduced,
  recipe: Recipe,
  { masks, strokes, cutElsewhere }: { masks: Guidance['masks']; strokes: readonly Stroke[]; cutElsewhere: boolean },
): EncodedRaster & { channels: 4 } {
  const { width, height, channels, data } = frame;
  const { factor, colours } = reduced;
  const final = coverageTable(recipe, 0, whiteLevel(frame));
  const touches = new ColourTouches(strokes, width, height);
  const local = spillMasks(masks);
  const inside = cutElsewhere || touches.aboutEdges ? insideOf(reduced) : undefined;
  const channel = cutElsewhere && inside ? screenOnceBehind(reduced, inside) : undefined;
  const reach = channel && spillReach(reduced);
  const out = sameDepth(data, width * height * 4);
  const pixels = sameDepth(data, width * 4);
  const [table, encode] = [linearTable(data), encoderFor(data)];
  const [amount, gone] = [new Float32Array(width), new Uint8Array(width)];
  const F = new Float32Array(3);
  const B = Float32Array.from(channel ? SCREENS[channel] : [0, 0, 0]);
  const spill = spillWay(recipe);
  for (let y = 0; y < height; y++) {
    spillAlong(local, recipe.spill, y, height, amount, gone);
    touches.spillAlong(y, amount, gone);
    const cells = ((y / factor) | 0) * colours.width;
    pixels.fill(0);
    for (let x = 0; x < width; x++) {
      const cover = final[matte.alpha[y * width + x]];
      if (cover === 0) continue;
      const i = (y * width + x) * channels;
      for (let c = 0; c < 3; c++) pixels[x * 4 + c] = data[channels === 1 ? i : i + c];
      pixels[x * 4 + 3] = cover;
      if (!channel || !reach) continue;
      const cell = cells + ((x / factor) | 0);
      const share = amount[x] * (gone[x] ? 1 : reach[cell]);
      for (let c = 0; c < 3; c++) F[c] = table[pixels[x * 4 + c]];
      if (share === 0 || !leads(F, channel, spill.method)) continue;
      // What the person has of that colour itself stays.
      removeSpill(F, B, channel, spill, share, gone[x] || !inside ? 0 : leadOf(inside.data, cell * 3, channel));
      for (let c = 0; c < 3; c++) pixels[x * 4 + c] = encode(F[c]);
    }
    if (inside) touches.colourAlong(y, pixels, inside, factor);
    out.set(pixels, y * width * 4);
  }
  return { width, height, channels: 4, data: out };
}

/**
 * The channel of the screen that a cutout once stood before, by the tint that it left along the outline and that the
 * person's own colours further inside have not.
 */
function screenOnceBehind({ colours: { data }, coverage }: Reduced, own: LinearRaster): 1 | 2 | undefined {
  const tint: Record<1 | 2, number> = { 1: 0, 2: 0 };
  let edge = 0;
  for (let p = 0; p < coverage.data.length; p++) {
    if (coverage.data[p] < 0.05 || coverage.data[p] > 0.98) continue;
    edge++;
    for (const channel of [1, 2] as const)
      tint[channel] += Math.max(0, leadOf(data, p * 3, channel) - Math.max(0, leadOf(own.data, p * 3, channel)));
  }
  const channel = tint[1] >= tint[2] ? 1 : 2;
  return edge && tint[channel] / edge >= bounds.tinted ? channel : undefined;
}

/** How much of a screen's light may be on each reduced pixel: all at the outline, none well inside. */
function spillReach({ coverage }: Reduced): Float32Array {
  const open = maskOf(coverage, (p) => coverage.data[p] < OPEN / 65535);
  const { distance } = nearestFeature(open);
  const far = reachOf(coverage);
  return distance.map((d) => Math.min(1, Math.max(0, 2 - (2 * d) / far)));
}

/** Colours of the solid as far inside as the screen's light does not reach, carried out over the outline. */
function insideOf({ colours, coverage }: Reduced): LinearRaster {
  const solid = maskOf(coverage, (p) => coverage.data[p] >= SOLID / 65535);
  const deep = growMask(solid, -reachOf(coverage));
  return fillUnknown(colours, deep.data.includes(1) ? deep : solid);
}

/** How far a screen's light may reach, reduced pixels. */
function reachOf({ height }: Reduced['coverage']): number {
  return Math.max(bounds.leastReach, bounds.spillReach * height);
}
