import type { Plan } from './plan.ts';
import { readingFacts, type PlanReading, type ReadingId } from './readings.ts';

/**
 * One cause of hand repair. The coefficients are first estimates, written down in docs/forecast.md, to be fitted to
 * the log.
 */
export interface RepairCause {
  /** Minutes that a frame costs when the cause is full. */
  minutes: number;
  /** Reading at which it begins to cost, and at which it is full; either may be the larger one. */
  from: number;
  to: number;
}

export const repairCauses: Partial<Record<ReadingId, RepairCause>> = {
  coverage: { minutes: 0.25, from: 100, to: 60 },
  arms: { minutes: 0.9, from: 0.25, to: -0.5 },
  spread: { minutes: 0.9, from: 0.35, to: 2.6 },
  mismatch: { minutes: 0.4, from: 3, to: 30 },
  keyScreen: { minutes: 0.35, from: 0.5, to: 2.5 },
  screenOnPerson: { minutes: 0.35, from: 3, to: 60 },
  level: { minutes: 0.6, from: 12, to: 2 },
  clipped: { minutes: 1.4, from: 0, to: 35 },
  purity: { minutes: 2.2, from: 62, to: 15 },
  gloss: { minutes: 0.8, from: 0.08, to: 1.2 },
  shadow: { minutes: 1.1, from: 0.08, to: 1.2 },
  bounce: { minutes: 1.6, from: 4.5, to: 1 },
  wrinkle: { minutes: 0.6, from: 1, to: 12 },
  sharpness: { minutes: 0.5, from: 2, to: 10 },
  group: { minutes: 0.4, from: 3, to: 16 },
  motion: { minutes: 0.7, from: 7, to: 60 },
  noise: { minutes: 0.8, from: 1.5, to: 7 },
  wardrobe: { minutes: 3.5, from: 0, to: 100 },
  cardScreen: { minutes: 0.35, from: 0.5, to: 2.5 },
  nearColour: { minutes: 3.5, from: 0, to: 100 },
  whiteBalance: { minutes: 0.3, from: 3, to: 40 },
  edge: { minutes: 0.8, from: 3, to: 14 },
  smear: { minutes: 0.8, from: 3, to: 20 },
};

/** What even a perfect frame costs on average: a look, and now and then a strand. Halved chroma costs a little more. */
export const baseMinutes = { look: 0.05, jpeg: 0.03 };
/** Relative uncertainty of each coefficient, and spread of one frame around its mean. */
export const uncertainty = { coefficient: 0.4, frame: 1.6 };

export interface Forecast {
  frames: number;
  minutes: number;
  /** Four times in five it lies between these. */
  low: number;
  high: number;
  /** Costliest first. */
  causes: { id: ReadingId | 'base'; title: string; minutes: number }[];
}

/** Minutes of hand repair for all expected frames. Causes add up: each is repaired on its own. */
export function forecastOf(plan: Plan, readings: readonly PlanReading[]): Forecast {
  const frames = Math.round(plan.event.guests * plan.event.framesPerGuest);
  const causes: Forecast['causes'] = [
    {
      id: 'base',
      title: 'A look at every frame',
      minutes: frames * (baseMinutes.look + (plan.camera.file === 'jpeg' ? baseMinutes.jpeg : 0)),
    },
  ];
  for (const { id, value } of readings) {
    const cause = repairCauses[id];
    if (!cause) continue;
    const minutes =
      frames *
      cause.minutes *
      weightOf(id, plan) *
      severity(cause, id === 'keyScreen' || id === 'cardScreen' ? keyOffset(value) : value);
    if (minutes > 0.05) causes.push({ id, title: readingFacts[id].title, minutes });
  }
  const minutes = causes.reduce((sum, cause) => sum + cause.minutes, 0);
  const perFrame = frames ? minutes / frames : 0;
  const variance =
    causes.reduce((sum, cause) => sum + (uncertainty.coefficient * cause.minutes) ** 2, 0) +
    frames * (uncertainty.frame * perFrame) ** 2;
  const reach = 1.28 * Math.sqrt(variance);
  return {
    frames,
    minutes,
    low: Math.max(0, minutes - reach),
    high: minutes + reach,
    causes: causes.sort((a, b) => b.minutes - a.minutes),
  };
}

/**
 * 0 where the cause begins, 1 where it is full, growing with the square between; beyond that on along the tangent, so
 * that worse is always dearer.
 */
export function severity({ from, to }: RepairCause, value: number): number {
  const t = Math.max(0, Math.min(20, (value - from) / (to - from)));
  return t <= 1 ? t * t : 2 * t - 1;
}

/**
 * The key is right at the screen's level and up to half a stop above; what counts is the distance from the middle of
 * that.
 */
function keyOffset(stops: number): number {
  return Math.abs(stops - 0.25) + 0.25;
}

/** Shares of the frames that a cause can strike at all. */
function weightOf(id: ReadingId, { event }: Plan): number {
  if (id === 'arms') return event.gesturing + event.jumping;
  if (id === 'motion') return Math.min(1, event.gesturing + 2.5 * event.jumping);
  return 1;
}
