import { luminance } from '../colour/luminance.ts';
import type { SpillMethod } from './recipe.ts';

/**
 * Weight of the larger of the other two channels in the limit that spill is measured against; the rest is their mean.
 */
const LIMIT_BY_LARGER = 0.7;

/** The highest value of the screen's channel that is taken for the colour's own. */
export function spillLimit(colour: Float32Array, channel: 1 | 2, byLarger = LIMIT_BY_LARGER, o = 0): number {
  const a = colour[o];
  const b = colour[o + 3 - channel];
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

/** How far a channel of the colour at `o` stands above the larger of the other two. */
export function leadOf(data: Float32Array, o: number, channel: 1 | 2): number {
  return data[o + channel] - Math.max(data[o], data[o + 3 - channel]);
}

/** Whether the screen's channel leads by more than the colour's own. */
export function leads(F: Float32Array, channel: 1 | 2, method: SpillMethod): boolean {
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
  channel: 1 | 2,
  method: SpillMethod,
  amount: number,
): void {
  const here = F[0] * near[o + 3 - channel];
  const there = F[3 - channel] * near[o];
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
 * @param allowed lead of the screen's channel that is left, since the colours nearby have it too.
 */
export function removeSpill(
  F: Float32Array,
  B: Float32Array,
  channel: 1 | 2,
  spillMethod: SpillMethod,
  amount: number,
  allowed: number,
): void {
  const larger = byLarger[spillMethod];
  const excess = amount * (F[channel] - spillLimit(F, channel, larger) - (allowed > 0 ? allowed : 0));
  if (excess <= 0) return;
  if (spillMethod === 'larger' || spillMethod === 'average') F[channel] -= excess;
  else if (spillMethod === 'complement') {
    F[0] += excess;
    F[3 - channel] += excess;
    limitTo1(F);
  } else if (spillMethod === 'greying') {
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
}

function limitTo1(F: Float32Array): void {
  for (let c = 0; c < 3; c++) if (F[c] > 1) F[c] = 1;
}
