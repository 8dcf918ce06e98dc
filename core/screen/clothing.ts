import { components } from '../image/components.ts';
import { nearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { createMask, type LinearRaster, type Mask } from '../image/raster.ts';
import { roughness } from '../image/roughness.ts';
import type { Rgb } from '../plan/exposure.ts';
import { chromaDistance, wardrobeRisk } from '../plan/wardrobe.ts';
import { boxOf, type Box } from './box.ts';
import { medianOf } from './statistics.ts';

/** A patch of clothing, hair or prop near the screen's colour. */
export interface NearPatch extends Box {
  /** Distance from the screen's colour, OKLab chroma; 0.085 is as likely to be lost as kept. */
  apart: number;
  risk: number;
  /** Share of the person. */
  share: number;
  /** Its mean colour, linear. */
  colour: Rgb;
}

/**
 * Half the width that a patch must have, share of the frame's width: the fringe is a mixture with the screen, not a
 * thing.
 */
const LEAST_RADIUS = 0.022;
/** A patch must be this much of the screen's level: in black cloth a little stray light has a hue. */
const LEAST_LEVEL = 0.1;
/**
 * Unevenness between neighbours beyond the plain screen's, relative to level: cloth in focus is rougher than a screen
 * out of it; strands before the screen are rougher still.
 */
const CLOTH = 0.0145;
const STRANDS = 0.042;
/** … but never less than this share of the screen's own unevenness, which is noise. */
const OF_NOISE = 0.7;
/** So near to the screen's colour nothing is a mixture: strands would have to be of that colour themselves. */
const SAME = 0.022;
/**
 * Natural logarithm of a level's change that neither noise nor a soft shadow makes; share of the width that counts as
 * touching.
 */
const LEAST_CHANGE = 0.07;
const TOUCHING = 0.04;
const LEAST_SHARE = 0.015;
const MOST_PATCHES = 8;

/**
 * Patches that are likely to go with the screen, largest first.
 * @param screen the screen's colour at every place.
 * @param clear 1 where the screen seems to be plainly seen: cloth of its very colour does too, and is told by its
 * texture.
 * @param inside 1 within the screen's outline.
 */
export function nearPatches(
  frame: LinearRaster,
  screen: LinearRaster,
  person: Mask,
  clear: Mask,
  inside: Mask,
  channel: 1 | 2,
  empty?: LinearRaster,
): NearPatch[] {
  const { width, height, data } = frame;
  const near = createMask(width, height);
  const rough = roughness(frame, channel);
  const plain = medianOf(everyFew(clear, inside).map((p) => rough[p]));
  if (!(plain > 0)) return [];
  const beside = empty ? undefined : nearestFeature(person).distance;
  /** Whether a place that seems to be plain screen may be something worn. */
  const mayBeWorn = (p: number): boolean =>
    empty
      ? Math.abs(Math.log((data[p * 3 + channel] + 0.005) / (empty.data[p * 3 + channel] + 0.005))) > LEAST_CHANGE
      : (beside?.[p] ?? 0) < TOUCHING * width;
  let area = 0;
  const apartAt = (p: number): number =>
    chromaDistance(
      [data[p * 3], data[p * 3 + 1], data[p * 3 + 2]],
      [screen.data[p * 3], screen.data[p * 3 + 1], screen.data[p * 3 + 2]],
    );
  for (let p = 0; p < near.data.length; p++) {
    if (person.data[p]) area++;
    else if (!inside.data[p]) continue;
    const texture = Math.sqrt(Math.max(0, rough[p] ** 2 - plain ** 2));
    const isCloth = texture >= Math.max(CLOTH, OF_NOISE * plain);
    if (clear.data[p] && (!isCloth || !mayBeWorn(p))) continue;
    if (data[p * 3 + channel] < LEAST_LEVEL * screen.data[p * 3 + channel]) continue;
    const apart = apartAt(p);
    if (
      apart < SAME
        ? isCloth && texture < 2 * STRANDS
        : apart < wardrobeRisk.middle + 2 * wardrobeRisk.width && texture < STRANDS && person.data[p]
    )
      near.data[p] = 1;
  }
  const radius = Math.max(2, LEAST_RADIUS * width);
  const opened = growMask(growMask(near, -radius), radius);
  return components(opened)
    .filter(({ pixels }) => pixels.length > LEAST_SHARE * area)
    .map(({ pixels }): NearPatch => {
      const colour: Rgb = [0, 0, 0];
      let apart = 0;
      for (const p of pixels) {
        apart += apartAt(p) / pixels.length;
        for (let c = 0; c < 3; c++) colour[c] += data[p * 3 + c] / pixels.length;
      }
      return {
        ...boxOf(pixels, width, height),
        apart,
        risk: 1 / (1 + Math.exp((apart - wardrobeRisk.middle) / wardrobeRisk.width)),
        share: Math.min(1, pixels.length / area),
        colour,
      };
    })
    .sort((a, b) => b.share - a.share)
    .slice(0, MOST_PATCHES);
}

function everyFew(clear: Mask, inside: Mask): number[] {
  const out: number[] = [];
  for (let p = 0; p < clear.data.length; p += 17) if (clear.data[p] && inside.data[p]) out.push(p);
  return out;
}
