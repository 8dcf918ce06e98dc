import { doubtFacts, type DoubtKind } from '../cut/doubts.ts';
import { repairCauses, uncertainty, type Forecast } from '../plan/forecast.ts';
import { readingFacts, type ReadingId } from '../plan/readings.ts';
import { fitFactors, type FittedFactor, type Observation } from './fit.ts';
import type { CauseOfForecast, LoggedSetup } from './logged.ts';

/** What the own log makes of the shipped coefficients; what is not named stays as it shipped. */
export interface Factors {
  causes: Partial<Record<CauseOfForecast, number>>;
  doubts: Partial<Record<DoubtKind, number>>;
}
export const noFactors: Factors = { causes: {}, doubts: {} };

export const forecastCauses: readonly CauseOfForecast[] = ['base', ...(Object.keys(repairCauses) as ReadingId[])];
export const doubtKinds = Object.keys(doubtFacts) as DoubtKind[];

export function causeTitle(cause: CauseOfForecast): string {
  return cause === 'base' ? 'A look at every frame' : readingFacts[cause].title;
}

export interface FittedCause<C extends string> extends FittedFactor {
  id: C;
  title: string;
}

/** Before anything is logged a kind of doubt is known no better than a cause, and one frame scatters less than a mean. */
const doubtSpread = { prior: uncertainty.coefficient, frame: 1 };

/**
 * Fits the factors to what was logged. Of a setup counts what was measured at Check, else what was planned, scaled to the
 * frames that a hand has accepted.
 */
export function fitForecast(setups: readonly LoggedSetup[]): FittedCause<CauseOfForecast>[] {
  const observations = setups.flatMap(({ plan, check, accepted }): Observation[] => {
    const foreseen = check ?? plan;
    if (!foreseen || !accepted.frames) return [];
    const share = accepted.frames / foreseen.frames;
    return [
      {
        foreseen: forecastCauses.map((cause) => (foreseen.causes[cause] ?? 0) * share),
        spent: accepted.spent,
        frames: accepted.frames,
      },
    ];
  });
  const fitted = fitFactors(observations, forecastCauses.length, {
    prior: uncertainty.coefficient,
    frame: uncertainty.frame,
  });
  return fitted.map((one, i) => ({ ...one, id: forecastCauses[i], title: causeTitle(forecastCauses[i]) }));
}

/** The same for the kinds of doubt that Extract counts minutes by; one observation for each setup. */
export function fitDoubts(setups: readonly LoggedSetup[]): FittedCause<DoubtKind>[] {
  const observations = setups.map(({ accepted }): Observation => ({
    foreseen: doubtKinds.map((kind) => accepted.foreseen[kind] ?? 0),
    spent: accepted.spent,
    frames: accepted.frames,
  }));
  return fitFactors(observations, doubtKinds.length, doubtSpread).map((one, i) => ({
    ...one,
    id: doubtKinds[i],
    title: doubtFacts[doubtKinds[i]].title,
  }));
}

/** The factors that are worth taking: those of causes that were met. */
export function factorsFrom(
  causes: readonly FittedCause<CauseOfForecast>[],
  doubts: readonly FittedCause<DoubtKind>[],
): Factors {
  const met = <C extends string>(list: readonly FittedCause<C>[]) =>
    Object.fromEntries(
      list.filter(({ seen }) => seen > 0).map(({ id, factor }) => [id, Math.round(factor * 100) / 100]),
    );
  return { causes: met(causes), doubts: met(doubts) } as Factors;
}

/** A forecast by the own log: each cause’s minutes by its factor, costliest first; the spread goes with the sum. */
export function byOwnLog<
  F extends Pick<Forecast, 'minutes' | 'low' | 'high'> & { causes: { id: string; minutes: number }[] },
>(forecast: F, { causes: factors }: Factors): F {
  if (!Object.keys(factors).length) return forecast;
  const causes = forecast.causes
    .map((cause) => ({ ...cause, minutes: cause.minutes * (factors[cause.id as CauseOfForecast] ?? 1) }))
    .sort((a, b) => b.minutes - a.minutes);
  const minutes = causes.reduce((sum, cause) => sum + cause.minutes, 0);
  const times = forecast.minutes > 0 ? minutes / forecast.minutes : 1;
  return { ...forecast, causes, minutes, low: forecast.low * times, high: forecast.high * times };
}
