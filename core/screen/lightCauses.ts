import type { ReadingId } from '../plan/readings.ts';
import { beyondBound } from './beyondBound.ts';
import type { Add, Observed } from './cause.ts';
import type { Evidence } from './checkReading.ts';

/** A main light seen under less than this (sine of half the angle) draws a shadow with an edge. */
const HARD = 0.15;
/**
 * Share by which one side's shadow is deeper than the other's, at which a hard key becomes likelier than a near
 * screen; and what counts as much as full hardness.
 */
const ONE_SIDED = 0.82;
const ONE_SIDED_STEP = 0.06;

/** What the lamps that light the screen do wrong: its slope, its bulge and its drift of colour tell them apart. */
export function lightCauses(
  { spread, difference }: Observed,
  over: (id: ReadingId) => number,
  evidence: (id: ReadingId) => Evidence[],
  add: Add,
): void {
  if (!spread) return;
  const slopes = evidence('tilt');
  const { tilt } = spread;
  const side = tilt > 0 ? 'left' : 'right';
  const other = tilt > 0 ? 'right' : 'left';
  const hue = over('mismatch');
  const slope = over('tilt');
  const weakest = difference?.lamps.length
    ? difference.lamps.reduce((least, lamp) => (lamp.share < least.share ? lamp : least))
    : undefined;
  const words =
    weakest && weakest.share < 0.85
      ? `${weakest.name} gives ${Math.round(weakest.share * 100)} % of what was planned beside the others`
      : `The ${side} edge is ${Math.abs(tilt).toFixed(1)} stops darker than the ${other} one`;
  if (hue > 1 && slope > 1)
    add(
      'window',
      Math.max(hue, slope),
      `Light and colour change together towards the ${other}. Close the blind on the ${other}, or flag that light off the screen.`,
      slopes,
    );
  else {
    add(
      'weakLamp',
      slope,
      `${words}. Raise the ${side} lamp by ${Math.abs(tilt).toFixed(1)} stops, or check its dimmer, gel and tube.`,
      slopes,
    );
    add(
      'mixedLamps',
      hue,
      'Use the same lamps on both sides, or correct the odd one with a gel until both thirds agree.',
    );
  }
  add(
    'hotMiddle',
    over('bulge'),
    `The middle is ${Math.max(spread.bulge, spread.arch).toFixed(1)} stops above the rim. Aim each lamp at the far third, or move both back.`,
    evidence('bulge'),
  );
  add(
    'lampsNear',
    over('sides'),
    `The sides are ${(-spread.bulge).toFixed(1)} stops above the middle. Take both screen lamps back to half the screen’s width and turn them across.`,
    evidence('sides'),
  );
}

/** A hard key draws its shadow on one side; a person who is too close stands in everybody's light, on both. */
export function shadowCauses(
  { shadow, ball }: Observed,
  spillOver: number,
  evidence: Evidence[],
  bounce: number,
  add: Add,
): void {
  if (!shadow) {
    add(
      'tooClose',
      spillOver,
      `The screen’s light on the edges is ${bounce.toFixed(1)} stops below the key. Bring the person and the lamps on them forward, by half a metre for each half stop.`,
      evidence,
    );
    return;
  }
  const deep = beyondBound('shadow', shadow.depth);
  const oneSided = Math.abs(shadow.left - shadow.right) / Math.max(0.05, shadow.left + shadow.right);
  // Either sign may be missing, and creases and windows blur both; together they decide.
  const soft = ball ? (HARD - ball.softness) / HARD : 0;
  const hard = soft + (oneSided - ONE_SIDED) / ONE_SIDED_STEP > 0;
  const spill =
    spillOver > 1 ? ` The screen’s light on the edges is only ${bounce.toFixed(1)} stops below the key.` : '';
  add(
    'tooClose',
    Math.max(hard ? deep * 0.3 : deep, spillOver),
    `The person shades the screen by ${shadow.depth.toFixed(1)} stops.${spill} Bring the person and the lamps on them forward, by half a metre for each half stop.`,
    evidence,
  );
  add(
    'keyShadow',
    hard ? deep : deep * 0.3,
    `The shadow is ${shadow.depth.toFixed(1)} stops deep. Raise the key and take it farther to the side until its shadow leaves the frame, use a larger source, or bring the person forward.`,
    evidence,
  );
}
