import { components } from '../image/components.ts';
import { both, either, without } from '../image/masks.ts';
import { growMask } from '../image/growMask.ts';
import { lengthOf } from '../image/length.ts';
import { createMask, type LinearRaster, type Mask, type Plane } from '../image/raster.ts';
import { medianOf } from '../screen/statistics.ts';
import type { GreenPatch, PatchEvidence } from './greenPatch.ts';
import { chromaFlare } from './mostScreen.ts';
import { seenThroughIn } from './seenThrough.ts';
import { patchOf, type HandVerdict } from './guidance.ts';
import { patternsIn } from './patterns.ts';
import { boxAround, chromaApart, evidenceOf, middleOf } from './patchEvidence.ts';
import type { Sorted } from './sorter/sortFrame.ts';
import { spillLimit } from './spill.ts';
import { firstBeside, secondBeside, type Channel } from '../colour/channels.ts';

/** Found on the bench's tuning frames; see docs/accuracy.md for what they reach. */
export const bounds = {
  /** A patch smaller than this share of the frame is left to the unmixing. */
  patchShare: 0.0004,
  /**
   * Lead of the screen's channel over the mean of the others from which a colour is looked at though it keys well:
   * teal, olive.
   */
  coloured: 0.4,
  /** Half the width of a lock of hair, share of the longer side: what is thinner is fringe. */
  opening: 0.006,
  /** Unevenness from which what seems to be plain screen is looked at as well, and in units of the screen's own. */
  unevenScreen: 0.03,
  timesScreen: 3.5,
  /** Half the width of what is more than an outline, share of the height. */
  wide: 0.009,
  /** From here on a patch is made of strands. */
  strands: 0.033,
  /** Unevenness that green strands do not reach. */
  darkStrands: 0.16,
  /**
   * Kept strands nearer to the screen's chromaticity than this cannot be unmixed from it by colour; a head of them,
   * share of the frame, is dyed hair.
   */
  dyedApart: 0.08,
  dyedLeaning: 0.1,
  dyedShare: 0.005,
  /**
   * The same where mixtures are likely: how much farther from the screen's chromaticity its darkest fifth may be, how
   * much of it may be screen, and how likely it is a thing then.
   */
  dyedDark: 1.05,
  dyedScreen: 0.75,
  dyed: 0.75,
  /**
   * Green hair as bright as the screen: strands so near to its chromaticity, and their darkest fifth so much nearer.
   * Other hair is farther from it where it is dark.
   */
  greenHair: [0.04, 0.08],
  greenHairDark: 0.75,
  /**
   * Lead of the screen's channel over what spill removal would leave, of its own, from which a patch is green itself;
   * less of it is the screen's light upon it.
   */
  ownGreen: 0.1,
  /** The same for a pattern, which may be fair hair that the screen's light falls on. */
  patternGreen: 0.38,
  /** Share of a smooth patch's mean distance from the screen's chromaticity that a pixel of it has at least. */
  belonging: 0.5,
  /** A verdict nearer than this to the limit is doubtful, for patches from this share of the frame on. */
  doubt: 0.3,
  doubtShare: 0.002,
  /** Likelihood of a person from which a place is not taken for see-through cloth only because it is beside some. */
  person: 0.9,
  /** Mean likelihood of a person below which a kept patch lies beside the persons. */
  away: 0.3,
};

/**
 * The green ledger: every connected patch of screen-like colour that is not plainly screen, judged by what no mixture
 * of screen and another colour could look like.
 * @param greenish 1 where colour leans to the screen's and is not plainly it.
 * @param strands 1 in masses of hair: cloth and the hair over it are patches of their own, or kept cloth would keep
 * the screen between the hairs.
 * @param persons where persons are, if that is known.
 * @returns masks of what is kept in its green, in wide patches and in patterns, and of what the screen is seen through;
 * the patches, largest first, and for each pixel its patch's number from 1 on, or 0.
 */
export function judgePatches(
  frame: LinearRaster,
  screen: LinearRaster,
  clear: Mask,
  greenish: Mask,
  rough: Float32Array,
  strands: Mask,
  sorted: Sorted,
  channel: Channel,
  greenKeep: number,
  verdicts: readonly HandVerdict[],
  persons?: Plane,
): { kept: Mask; patterned: Mask; sheer: Mask; labels: Uint16Array; patches: GreenPatch[] } {
  const { width, height } = frame;
  const count = width * height;
  const candidates: Mask = { width, height, data: greenish.data.slice() };
  const plain = medianOf(everyFew(clear).map((p) => rough[p])) || 0;
  const uneven = Math.max(bounds.unevenScreen, bounds.timesScreen * plain);
  // What seems plain screen may be green hair; outlines too are uneven, but thin.
  const unevenAny = createMask(width, height);
  for (let p = 0; p < count; p++) if (strands.data[p] || (clear.data[p] && rough[p] > uneven)) unevenAny.data[p] = 1;
  const wide = growMask(growMask(unevenAny, -bounds.wide * height), bounds.wide * height);
  for (let p = 0; p < count; p++) if (clear.data[p] && unevenAny.data[p] && wide.data[p]) candidates.data[p] = 1;
  const opening = Math.max(2, bounds.opening * Math.max(width, height));
  const opened = (part: Mask): Mask => both(growMask(growMask(part, -opening), opening), part);
  const mixed = mixedIn(sorted);
  const hair = both(candidates, strands);
  const wideParts = [opened(without(candidates, strands)), opened(without(hair, mixed)), opened(both(hair, mixed))];
  const patterns = patternsIn(without(candidates, wideParts.reduce(either)), sorted.solid, opening);
  let dyedShare = 0;
  const found: { patch: GreenPatch; pixels: Int32Array }[] = [];
  const parts = [
    ...wideParts.flatMap(components).map((part) => ({ ...part, pattern: false })),
    ...patterns.map((part) => ({ ...part, pattern: true })),
  ];
  for (const { pixels, touchesBorder, pattern } of parts) {
    if (pixels.length < bounds.patchShare * count) continue;
    const middle = middleOf(frame, pixels);
    if (pattern && leadOf(middle.chroma, channel) < bounds.patternGreen) continue;
    const evidence = evidenceOf(frame, screen, clear, rough, pixels, touchesBorder, channel);
    const share = pixels.length / count;
    const mixture = strands.data[pixels[0]] === 1 && mixed.data[pixels[0]] === 1;
    if (mixture && !likeDyed(evidence) && !mayBeGreenHair(evidence)) continue;
    const likelihood = !mixture ? likelihoodOf(sorted, pixels) : likeDyed(evidence) ? bounds.dyed : 1 - bounds.dyed;
    if (mixture && likeDyed(evidence)) dyedShare += share;
    found.push({
      patch: {
        box: boxAround(pixels, width),
        share,
        ...middle,
        evidence,
        pattern,
        ...judged(likelihood, share, greenKeep),
        byHand: false,
      },
      pixels,
    });
  }
  // Less than a head of it are strands over the screen.
  if (dyedShare < bounds.dyedShare)
    for (const { patch, pixels } of found)
      if (strands.data[pixels[0]] === 1 && mixed.data[pixels[0]] === 1)
        Object.assign(patch, judged(1 - bounds.dyed, patch.share, greenKeep));
  if (greenKeep > 0)
    for (const { patch } of found)
      patch.doubtful ||=
        patch.verdict === 'remove' && patch.share >= bounds.doubtShare && mayBeGreenHair(patch.evidence);
  // What is kept where nobody seems to be is a thing, or cloth that the screen shines through.
  if (persons)
    for (const { patch, pixels } of found)
      patch.doubtful ||=
        patch.verdict === 'keep' && patch.share >= bounds.doubtShare && meanOf(persons, pixels) < bounds.away;
  found.sort((a, b) => b.patch.share - a.patch.share);
  for (const verdict of verdicts) {
    const patch =
      found[
        patchOf(
          verdict,
          found.map((one) => one.patch),
        )
      ]?.patch;
    if (patch) Object.assign(patch, { verdict: verdict.keep ? 'keep' : 'remove', byHand: true, doubtful: false });
  }
  // By its colour a person's cloth may be a mixture of the screen with another's; only what varies tells it then.
  const open = either(candidates, without(mixed, clear));
  for (let p = 0; p < count; p++) if (!persons || persons.data[p] > bounds.person) open.data[p] = 0;
  const sheer = seenThroughIn(
    found.filter(({ patch }) => !patch.pattern),
    frame,
    screen,
    { open, clear },
  );
  const [kept, patterned] = [createMask(width, height), createMask(width, height)];
  const labels = new Uint16Array(count);
  found.forEach(({ patch, pixels }, n) => {
    const green = patch.byHand || leadOf(patch.chroma, channel) >= bounds.ownGreen;
    for (const p of pixels) {
      labels[p] = n + 1;
      if (
        green &&
        patch.verdict === 'keep' &&
        (patch.byHand || (sorted.solid.data[p] >= sorted.clear.data[p] && belongs(frame, screen, p, patch)))
      )
        (patch.pattern ? patterned : kept).data[p] = 1;
    }
  });
  return { kept, patterned, sheer, labels, patches: found.map(({ patch }) => patch) };
}

/** Lead of the screen's channel over the spill limit, as a share of its own, from red and blue as shares of the sum. */
function leadOf([red, blue]: readonly [number, number], channel: Channel): number {
  const shares = Float32Array.of(red, 1 - red - blue, blue);
  return 1 - spillLimit(shares, channel) / Math.max(1e-3, shares[channel]);
}

function judged(
  likelihood: number,
  share: number,
  greenKeep: number,
): Pick<GreenPatch, 'likelihood' | 'verdict' | 'doubtful'> {
  return {
    likelihood,
    verdict: greenKeep > 0 && likelihood >= 1 - greenKeep ? 'keep' : 'remove',
    doubtful: share >= bounds.doubtShare && Math.abs(likelihood - (1 - greenKeep)) < bounds.doubt,
  };
}

/**
 * Numbers, from 1 on, of the patches that are hair dyed nearly in the screen's colour. Less than a head of it are
 * outlines and shaded folds.
 */
export function dyedHair(patches: readonly GreenPatch[]): Set<number> {
  const found = new Set<number>();
  let share = 0;
  patches.forEach((patch, n) => {
    const { rough, apart, leaning } = patch.evidence;
    if (
      patch.pattern ||
      patch.verdict !== 'keep' ||
      rough < bounds.strands ||
      apart > bounds.dyedApart ||
      leaning > bounds.dyedLeaning
    )
      return;
    found.add(n + 1);
    share += patch.share;
  });
  return share >= bounds.dyedShare ? found : new Set();
}

/** How likely a patch is a thing: what its pixels are likely to be, mixed ones left out. */
function likelihoodOf({ clear, solid }: Sorted, pixels: Int32Array): number {
  let thing = 0;
  let screen = 0;
  for (const p of pixels) {
    thing += solid.data[p];
    screen += clear.data[p];
  }
  return thing / (thing + screen + 1e-6);
}

function meanOf({ data }: Plane, pixels: Int32Array): number {
  return pixels.reduce((sum, p) => sum + data[p], 0) / pixels.length;
}

/** 1 where a mixture is likelier than one thing alone. */
export function mixedIn({ clear, solid }: Sorted): Mask {
  const out = createMask(clear.width, clear.height);
  for (let p = 0; p < out.data.length; p++) if (clear.data[p] + solid.data[p] < 0.5) out.data[p] = 1;
  return out;
}

/**
 * Whether what looks like hair over the screen may be hair dyed in its colour: as near to the screen's chromaticity
 * where it is dark as where it is bright, which no mixture is, and too dark for much screen.
 */
function likeDyed({ apart, leaning, rough, darkApart, mostScreen }: PatchEvidence): boolean {
  return (
    rough >= bounds.strands &&
    rough < bounds.darkStrands &&
    apart < bounds.dyedApart &&
    leaning < bounds.dyedLeaning &&
    darkApart < bounds.dyedDark * apart &&
    mostScreen < bounds.dyedScreen
  );
}

/**
 * No mixture rule tells green hair as bright as the screen from fair hair over it; that it is nearer to the screen
 * where it is dark is only a sign.
 */
function mayBeGreenHair({ apart, rough, darkApart }: PatchEvidence): boolean {
  const [from, to] = bounds.greenHair;
  return (
    rough >= bounds.strands &&
    rough < bounds.darkStrands &&
    apart >= from &&
    apart < to &&
    darkApart < bounds.greenHairDark * apart
  );
}

/** Hair that lies against green cloth over the screen is in one patch with it, but nearer to the screen's colour. */
function belongs(frame: LinearRaster, screen: LinearRaster, p: number, { chroma, evidence }: GreenPatch): boolean {
  const apart = chromaApart(frame.data, screen.data, p);
  if (evidence.rough < bounds.strands) return apart >= bounds.belonging * evidence.apart;
  if (evidence.apart < bounds.dyedApart) return true;
  const [r, g, b] = frame.data.subarray(p * 3, p * 3 + 3);
  const sum = r + g + b + 1e-5;
  return lengthOf(r / sum - chroma[0], b / sum - chroma[1]) <= apart;
}

function everyFew(clear: Mask): number[] {
  const out: number[] = [];
  for (let p = 0; p < clear.data.length; p += 13) if (clear.data[p]) out.push(p);
  return out;
}

/** 1 where, in `open`, the colour leans to the screen's but is neither plainly screen nor plainly something else. */
export function greenishOf(
  { data }: LinearRaster,
  open: Mask,
  key: Float32Array,
  coreKey: number,
  channel: Channel,
): Mask {
  const out = createMask(open.width, open.height);
  for (let p = 0; p < out.data.length; p++) {
    if (!open.data[p]) continue;
    const own = data[p * 3 + channel];
    const mean = (data[p * 3 + firstBeside[channel]] + data[p * 3 + secondBeside[channel]]) / 2;
    if (key[p] < coreKey || own - mean > bounds.coloured * (own + chromaFlare)) out.data[p] = 1;
  }
  return out;
}
