import type { ReadingId } from '../plan/readings.ts';
import { causeTitle, type Factors } from './factors.ts';
import type { CauseOfForecast, LoggedSetup } from './logged.ts';

/** What would have saved minutes, over all that was logged. */
export interface Lesson {
  cause: CauseOfForecast;
  title: string;
  /** Minutes by hand that the cause had a part in, over all setups. */
  minutes: number;
  /** Whether a hand has spent any of them, or all are foreseen. */
  spent: boolean;
  /** The setups in which it cost most. */
  setups: { shoot: string; setup: string; reading: number | null; minutes: number }[];
  /** Minutes for each frame in setups where it cost, and in those where it hardly did; null where there are none. */
  withIt: number | null;
  without: number | null;
}

/** A setup with the shoot it belongs to. */
export type OfShoot = LoggedSetup & { shoot: string };

/** From so many minutes for each frame on a cause has cost something in a setup. */
const COSTS = 0.02;
const MOST_SETUPS = 4;
const LEAST_MINUTES = 0.5;

/**
 * What to change next time, costliest first. Minutes that were spent in a setup are shared out among its causes as the
 * forecast, corrected by the own log, weighs them; setups in which nobody has worked yet count by what is foreseen.
 */
export function lessonsOf(setups: readonly OfShoot[], { causes: factors }: Factors): Lesson[] {
  const shares = setups.map((setup) => ({ setup, ...sharedOut(setup, factors) }));
  const causes = [...new Set(shares.flatMap(({ minutes }) => [...minutes.keys()]))].filter((id) => id !== 'base');
  return causes
    .map((cause): Lesson => {
      const of = shares.map(({ setup, frames, spent, minutes }) => ({
        setup,
        frames,
        spent,
        minutes: minutes.get(cause) ?? 0,
      }));
      const costly = of.filter(({ minutes, frames }) => minutes > COSTS * frames);
      const rate = (list: typeof of): number | null => {
        const frames = list.reduce((sum, one) => sum + one.frames, 0);
        return frames ? list.reduce((sum, one) => sum + one.spent, 0) / frames : null;
      };
      return {
        cause,
        title: causeTitle(cause),
        minutes: of.reduce((sum, one) => sum + one.minutes, 0),
        spent: costly.some(({ setup }) => setup.accepted.frames > 0),
        setups: costly
          .toSorted((a, b) => b.minutes - a.minutes)
          .slice(0, MOST_SETUPS)
          .map(({ setup, minutes }) => ({
            shoot: setup.shoot,
            setup: setup.name,
            reading: setup.readings[cause as ReadingId] ?? null,
            minutes,
          })),
        withIt: rate(costly),
        without: rate(of.filter((one) => !costly.includes(one))),
      };
    })
    .filter(({ minutes, setups: of }) => minutes >= LEAST_MINUTES && of.length > 0)
    .sort((a, b) => b.minutes - a.minutes);
}

/** Frames of a setup, minutes spent on them or foreseen, and those minutes by cause. */
function sharedOut(
  { plan, check, accepted, cut }: LoggedSetup,
  factors: Factors['causes'],
): { frames: number; spent: number; minutes: Map<CauseOfForecast, number> } {
  const foreseen = check ?? plan;
  const frames = accepted.frames || cut;
  if (!foreseen || !frames) return { frames, spent: accepted.spent, minutes: new Map() };
  const causes = Object.entries(foreseen.causes) as [CauseOfForecast, number][];
  const each = causes.map(([id, minutes]): [CauseOfForecast, number] => [
    id,
    (minutes * (factors[id] ?? 1) * frames) / foreseen.frames,
  ]);
  const sum = each.reduce((total, [, minutes]) => total + minutes, 0);
  const spent = accepted.frames ? accepted.spent : sum;
  return { frames, spent, minutes: new Map(each.map(([id, minutes]) => [id, sum ? (minutes / sum) * spent : 0])) };
}

/** What is known of a screen’s material from the own log. */
export interface MaterialCard {
  material: string;
  uses: number;
  /** Largest, m². */
  area: number;
  /** Mean cost of one use. */
  cost: number;
  /** Middle values over its setups; null where never read. */
  spread: number | null;
  wrinkle: number | null;
  gloss: number | null;
  /** Minutes by hand for each frame, over accepted frames; null without any. */
  minutes: number | null;
  frames: number;
}

export function materialCards(setups: readonly LoggedSetup[]): MaterialCard[] {
  const materials = [...new Set(setups.flatMap(({ set }) => set?.material ?? []))];
  return materials
    .map((material): MaterialCard => {
      const of = setups.filter(({ set }) => set?.material === material);
      const frames = of.reduce((sum, { accepted }) => sum + accepted.frames, 0);
      const reading = (id: ReadingId): number | null => middle(of.flatMap(({ readings }) => readings[id] ?? []));
      return {
        material,
        uses: of.length,
        area: Math.max(...of.map(({ set }) => set?.area ?? 0)),
        cost: of.reduce((sum, { set }) => sum + (set?.screenCost ?? 0), 0) / of.length,
        spread: reading('spread'),
        wrinkle: reading('wrinkle'),
        gloss: reading('gloss'),
        minutes: frames ? of.reduce((sum, { accepted }) => sum + accepted.spent, 0) / frames : null,
        frames,
      };
    })
    .sort((a, b) => b.uses - a.uses);
}

function middle(values: number[]): number | null {
  const sorted = values.toSorted((a, b) => a - b);
  return sorted.length ? sorted[Math.floor(sorted.length / 2)] : null;
}
