import { luminance } from '../colour/luminance.ts';
import { srgbToLinear } from '../colour/transfer.ts';
import { spillColour, type Recipe, type SpillMethod } from './recipe.ts';
import { firstBeside, secondBeside, type Channel } from '../colour/channels.ts';

/**
 * Weight of the larger of the other two channels in the limit that spill is measured against; the rest is their mean.
 */
const LIMIT_BY_LARGER = 0.7;

/** The highest value of the screen's channel that is taken for the colour's own. */
export function spillLimit(colour: Float32Array, channel: Channel, byLarger = LIMIT_BY_LARGER, o = 0): number {
  const a = colour[o + firstBeside[channel]];
  const b = colour[o + secondBeside[channel]];
  return byLarger * Math.max(a, b) + (1 - byLarger) * 0.5 * (a + b);
}

/** Weight of the larger other channel, by method. */
export const byLarger: Record<SpillMethod, number> = {
  share: LIMIT_BY_LARGER,
  larger: 1,
  average: 0,
  greying: LIMIT_BY_LARGER,
  complement: LIMIT_BY_LARGER,
};

/** How spill is taken away. */
export interface SpillWay {
  method: SpillMethod;
  /**
   * Hues so near to the screen's lose all of it, and less and less over `fade` more; sixths of the circle, where 3 is
   * the opposite.
   */
  hues: number;
  fade: number;
  /** How far what was spill is drawn to `tint`, 0–1; that is linear, of luminance 1. */
  replaced: number;
  tint: readonly [number, number, number];
}

export function spillWay(recipe: Pick<Recipe, 'spillMethod' | (typeof spillColour)[number]>): SpillWay {
  const { spillMethod, spillHues, spillFade, replaced, replacedHue, replacedPurity } = recipe;
  const tint = [0, 1, 2].map((c) => {
    // As far from the hue's own sixth as the channel is from full.
    const away = Math.abs(apart(replacedHue / 60, 2 * c));
    return srgbToLinear(1 - replacedPurity * Math.min(1, Math.max(0, away - 1)));
  });
  const level = luminance(tint[0], tint[1], tint[2]);
  const [r, g, b] = tint.map((v) => v / level);
  return { method: spillMethod, hues: spillHues / 60, fade: spillFade / 60, replaced, tint: [r, g, b] };
}

/** Between two hues, in sixths of the circle: 0–3. */
function apart(a: number, b: number): number {
  const way = Math.abs(a - b);
  return way > 3 ? 6 - way : way;
}

/** Hue in sixths of the circle, red 0, green 2, blue 4; below 0 for grey. */
function hueOf(colour: Float32Array): number {
  const [r, g, b] = colour;
  const most = Math.max(r, g, b);
  const range = most - Math.min(r, g, b);
  if (!(range > 0)) return -1;
  if (most === r) return (g - b) / range + (g < b ? 6 : 0);
  return most === g ? 2 + (b - r) / range : 4 + (r - g) / range;
}

/** How much of a colour's spill is taken, by how near its hue is to the screen's, 0–1. */
function shareByHue(F: Float32Array, B: Float32Array, { hues, fade }: SpillWay): number {
  if (hues >= 3) return 1;
  const [own, screen] = [hueOf(F), hueOf(B)];
  if (own < 0 || screen < 0) return 1;
  const beyond = apart(own, screen) - hues;
  if (beyond <= 0) return 1;
  return beyond < fade ? 1 - beyond / fade : 0;
}

/** How far a channel of the colour at `o` stands above the larger of the other two. */
export function leadOf(data: Float32Array, o: number, channel: Channel): number {
  return data[o + channel] - Math.max(data[o + firstBeside[channel]], data[o + secondBeside[channel]]);
}

/** Whether the screen's channel leads by more than the colour's own. */
export function leads(F: Float32Array, channel: Channel, method: SpillMethod): boolean {
  return F[channel] > spillLimit(F, channel, byLarger[method]);
}

/** How far coverage may be misjudged in the fringe, so that so much of the screen is left in its colours. */
const MISJUDGED = 0.05;
/** Least part of the limit that is taken for the colour's own. */
const LEAST_OWN = 0.55;
/**
 * Likeness of the other two channels' ratio from which the colours nearby are those of the same thing: hair before a
 * dark coat is not.
 */
const SAME_THING = 0.6;

/**
 * Takes from a colour of the fringe (linear, changed) what misjudged coverage left of the screen in it: where the
 * person's colours nearby (at `o` of `near`) have less of the screen's channel, measured by the others, than it has.
 * @param amount how much of it, 0–1.
 */
export function takeStray(
  F: Float32Array,
  B: Float32Array,
  near: Float32Array,
  o: number,
  channel: Channel,
  method: SpillMethod,
  amount: number,
): void {
  const [one, other] = [firstBeside[channel], secondBeside[channel]];
  const here = F[one] * near[o + other];
  const there = F[other] * near[o + one];
  if (Math.min(here, there) < SAME_THING * Math.max(here, there)) return;
  const larger = byLarger[method];
  const own = Math.min(
    1,
    Math.max(LEAST_OWN, near[o + channel] / Math.max(1e-4, spillLimit(near, channel, larger, o))),
  );
  const stray = amount * Math.min(F[channel] - own * spillLimit(F, channel, larger), MISJUDGED * B[channel]);
  if (!(stray > 0)) return;
  const share = stray / B[channel];
  for (let c = 0; c < 3; c++) F[c] = Math.max(0, F[c] - share * B[c]);
}

/**
 * Takes the screen's light from a foreground colour (linear, changed).
 * @param B the screen there.
 * @param amount how much of it, 0–1.
 * @param way of which hues, and what it leaves.
 * @param allowed lead of the screen's channel that is left, since the colours nearby have it too.
 */
export function removeSpill(
  F: Float32Array,
  B: Float32Array,
  channel: Channel,
  way: SpillWay,
  amount: number,
  allowed: number,
): void {
  const { method } = way;
  const larger = byLarger[method];
  const excess =
    amount * shareByHue(F, B, way) * (F[channel] - spillLimit(F, channel, larger) - (allowed > 0 ? allowed : 0));
  if (excess <= 0) return;
  if (method === 'larger' || method === 'average') F[channel] -= excess;
  else if (method === 'complement') {
    F[firstBeside[channel]] += excess;
    F[secondBeside[channel]] += excess;
    limitTo1(F);
  } else if (method === 'greying') {
    const grey = luminance(F[0], F[1], F[2]);
    const share = Math.min(1, excess / Math.max(1e-5, F[channel] - grey));
    for (let c = 0; c < 3; c++) F[c] += share * (grey - F[c]);
  } else {
    const keyB = B[channel] - spillLimit(B, channel, larger);
    if (keyB <= 1e-4) return;
    const before = luminance(F[0], F[1], F[2]);
    for (let c = 0; c < 3; c++) F[c] = Math.max(0, F[c] - (excess / keyB) * B[c]);
    // The bounce was light, but eyes miss the brightness more than they minded the tint: half of it is given back.
    const after = luminance(F[0], F[1], F[2]);
    const gain = after > 1e-5 ? Math.sqrt(Math.min(2, before / after)) : 1;
    for (let c = 0; c < 3; c++) F[c] *= gain;
    limitTo1(F);
  }
  if (way.replaced > 0) drawToTint(F, excess, way);
}

/** Draws a colour that spill was taken from to the tint, as far as it was spill; its brightness stays. */
function drawToTint(F: Float32Array, excess: number, { replaced, tint }: SpillWay): void {
  const level = luminance(F[0], F[1], F[2]);
  if (!(level > 0)) return;
  const share = (replaced * excess) / (excess + level);
  for (let c = 0; c < 3; c++) F[c] += share * (level * tint[c] - F[c]);
  limitTo1(F);
}

function limitTo1(F: Float32Array): void {
  for (let c = 0; c < 3; c++) if (F[c] > 1) F[c] = 1;
}
