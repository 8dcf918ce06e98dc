import { growMask } from '../image/growMask.ts';
import type { LinearRaster, Mask } from '../image/raster.ts';
import { quantileOf } from './statistics.ts';

/** How the person is exposed, without a card: stops above what skin and white cloth usually come to. */
export interface PersonLevel {
  stops: number;
  /** Level of the skin that was found, and of the lightest that is worn, linear 0–1. */
  skin?: number;
  lightest: number;
}

/**
 * Linear level of skin of middle tone, and of the lightest things on a person, when both are exposed well. Skin spans
 * two stops either way.
 */
const SKIN = 0.22;
const LIGHTEST = 0.55;
/** Share of the person that is skin, at least, for it to count. */
const LEAST_SKIN = 0.004;
/** Share of a person above which a channel that clips is no white cloth, and stops that it is over, at the least. */
const MOST_CLIPPED = 0.12;
const OVER = 1.4;

/**
 * Estimates a person's exposure. Dark skin and dark cloth are dark by themselves, so too dark is only what is dark in
 * both; too light is told by the skin, since white cloth may well stand near clipping.
 * @param frame linear RGB, reduced.
 * @param channel of the screen, whose light on the rim is passed over.
 */
export function personLevelOf(frame: LinearRaster, person: Mask, channel: 1 | 2): PersonLevel | undefined {
  const { data } = frame;
  const inner = growMask(person, -3);
  const skin: number[] = [];
  const all: number[] = [];
  let clippedCount = 0;
  for (let p = 0; p < inner.data.length; p++) {
    if (!inner.data[p]) continue;
    const [r, g, b] = [data[p * 3], data[p * 3 + 1], data[p * 3 + 2]];
    const level = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    // What the screen lights, or what is worn in its colour, tells nothing.
    if ((channel === 1 ? g : b) > 1.15 * Math.max(r, channel === 1 ? b : g)) continue;
    all.push(level);
    if (Math.max(r, g, b) > 0.985) clippedCount++;
    if (isSkin(r, g, b)) skin.push(level);
  }
  if (all.length < 60) return undefined;
  const clipped = clippedCount / all.length;
  const lightest = quantileOf(all, 0.985);
  // Skin that clips has no colour by which to know it; white cloth alone never clips over so much of a person.
  if (clipped > MOST_CLIPPED) return { stops: OVER + clipped, lightest };
  const ofLightest = Math.log2(Math.max(1e-4, lightest) / LIGHTEST);
  if (skin.length < LEAST_SKIN * all.length || skin.length < 20) return { stops: Math.min(0, ofLightest), lightest };
  const level = quantileOf(skin, 0.6);
  const ofSkin = Math.log2(Math.max(1e-4, level) / SKIN);
  return { stops: ofSkin > 0 ? ofSkin : Math.min(0, Math.max(ofSkin, ofLightest)), skin: level, lightest };
}

/**
 * Chromaticity of human skin under white light, from very light to very dark: red leads, blue is least, neither grey
 * nor vivid.
 */
function isSkin(r: number, g: number, b: number): boolean {
  const sum = r + g + b;
  if (sum < 1e-4) return false;
  const red = r / sum;
  const green = g / sum;
  return red > 0.38 && red < 0.62 && green > 0.24 && green < 0.36 && b < g * 1.05 && r > g * 1.15;
}
