import type { DoubtKind } from '../cut/doubts.ts';
import type { Forecast } from '../plan/forecast.ts';
import type { ReadingId } from '../plan/readings.ts';

/** Where time is spent in a shoot. */
export const workPlaces = {
  plan: 'Plan',
  check: 'Check',
  gather: 'Gather',
  extract: 'Extract',
  place: 'Place',
  handOver: 'Hand over',
  log: 'Log',
} as const;
export type WorkPlace = keyof typeof workPlaces;

/** A cause of the forecast, or the look that every frame costs. */
export type CauseOfForecast = ReadingId | 'base';

/** What was foreseen for a setup: for how many frames, and minutes by cause. */
export interface Foreseen {
  frames: number;
  causes: Partial<Record<CauseOfForecast, number>>;
}

/** What became of a setup, from plan to hand. */
export interface LoggedSetup {
  id: number;
  name: string;
  /** From its plan; null without one. */
  set: {
    material: string;
    colour: string;
    /** m² */
    area: number;
    /** What the screen cost for this shoot. */
    screenCost: number;
    /** What all of the kit cost for this shoot. */
    kitCost: number;
    /** From the person to the screen, m. */
    distance: number;
    /** How it is lit, in words. */
    light: string;
  } | null;
  /** The last round’s readings, else the plan’s. */
  readings: Partial<Record<ReadingId, number>>;
  measured: boolean;
  plan: Foreseen | null;
  check: Foreseen | null;
  /** Pictures and finished cuts; plates and dropped frames are none. */
  frames: number;
  cut: number;
  /** Frames that a hand has accepted: minutes foreseen by kind of doubt, and minutes spent. */
  accepted: { frames: number; foreseen: Partial<Record<DoubtKind, number>>; spent: number };
  /** Minutes that Extract foresees for all of its cuts. */
  doubts: number;
}

/** Time at a station on one day, seconds: measured by real activity, and as a hand set it right. */
export interface WorkTime {
  place: WorkPlace;
  day: string;
  seconds: number;
  corrected: number | null;
}

/** What work and other things cost, in the photographer’s own currency. */
export interface ShootCosts {
  /** An hour of work. */
  hour: number;
  /** Hours at the shoot itself, which no page sees. */
  hoursThere: number;
  other: number;
  otherWhat: string;
}
export const noCosts: ShootCosts = { hour: 0, hoursThere: 0, other: 0, otherWhat: '' };

/** Seconds at a station that count. */
export function secondsOf(times: readonly WorkTime[], place?: WorkPlace): number {
  return times.reduce((sum, time) => (place && time.place !== place ? sum : sum + (time.corrected ?? time.seconds)), 0);
}

export interface CostSum {
  kit: number;
  /** Hours at the shoot and at the stations, and what they cost. */
  hours: number;
  work: number;
  other: number;
  total: number;
  /** For each picture; null without any. */
  each: number | null;
}

export function costOf(
  setups: readonly LoggedSetup[],
  times: readonly WorkTime[],
  costs: ShootCosts,
  pictures: number,
): CostSum {
  const kit = setups.reduce((sum, { set }) => sum + (set?.kitCost ?? 0), 0);
  const hours = costs.hoursThere + secondsOf(times) / 3600;
  const work = hours * costs.hour;
  const total = kit + work + costs.other;
  return { kit, hours, work, other: costs.other, total, each: pictures ? total / pictures : null };
}

/** Minutes of a forecast by cause. */
export function foreseenBy(forecast: Pick<Forecast, 'frames' | 'causes'> | undefined): Foreseen | null {
  if (!forecast?.frames) return null;
  return {
    frames: forecast.frames,
    causes: Object.fromEntries(forecast.causes.map(({ id, minutes }) => [id, minutes])),
  };
}
