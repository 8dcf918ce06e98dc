import { stringify } from 'csv-stringify/sync';
import type { ShootLog } from '../../../contract/index.ts';
import { costOf, secondsOf, workPlaces, type WorkPlace } from '../../../core/log/index.ts';
import { readingFacts, type ReadingId } from '../../../core/plan/index.ts';

/** Logs as lists for spreadsheets; formulas are escaped. */

const csv = (rows: unknown[][], columns: string[]): string =>
  stringify(rows, { header: true, columns, escape_formulas: true, bom: true });

/** Everything that happened and was written down, a line each. */
export function eventsCsv(logs: readonly ShootLog[]): string {
  const rows = logs.flatMap(({ shoot, events, notes, setups }) =>
    [
      ...events.map(({ at, place, setup, words, details }) => [at, place, setup, words, details.join('; ')]),
      ...notes.map(({ at, place, setupId, words, kind }) => [
        at,
        place,
        setups.find(({ id }) => id === setupId)?.name ?? '',
        words,
        kind,
      ]),
    ]
      .sort(([a], [b]) => (String(a) < String(b) ? -1 : 1))
      .map(([at, place, ...rest]) => [shoot.name, shoot.date, at, workPlaces[place as WorkPlace], ...rest]),
  );
  return csv(rows, ['shoot', 'date', 'at', 'station', 'setup', 'what', 'details']);
}

const readingIds = Object.keys(readingFacts) as ReadingId[];

/** Every setup with its set, its readings, what was foreseen and what was spent, a line each. */
export function setupsCsv(logs: readonly ShootLog[]): string {
  const rows = logs.flatMap(({ shoot, setups }) =>
    setups.map(({ name, set, readings, measured, plan, check, frames, cut, accepted, doubts }) => [
      shoot.name,
      shoot.date,
      name,
      set?.material,
      set?.colour,
      set?.area,
      set?.distance,
      set?.light,
      measured ? 'measured' : 'planned',
      ...readingIds.map((id) => readings[id]),
      frames,
      cut,
      accepted.frames,
      plan && sum(Object.values(plan.causes)),
      check && sum(Object.values(check.causes)),
      doubts,
      accepted.spent,
      set?.kitCost,
    ]),
  );
  return csv(rows, [
    ...['shoot', 'date', 'setup', 'material', 'colour', 'area_m2', 'distance_m', 'light', 'readings'],
    ...readingIds,
    ...['frames', 'cut', 'accepted', 'minutes_plan', 'minutes_check', 'minutes_extract', 'minutes_spent', 'kit_cost'],
  ]);
}

/** Every shoot with its times and costs, a line each. */
export function shootsCsv(logs: readonly ShootLog[]): string {
  const places = Object.keys(workPlaces) as WorkPlace[];
  const rows = logs.map(({ shoot, setups, times, costs, pictures, handedOver }) => {
    const cost = costOf(setups, times, costs, pictures);
    return [
      shoot.name,
      shoot.date,
      pictures,
      handedOver,
      ...places.map((place) => secondsOf(times, place) / 60),
      cost.hours,
      cost.kit,
      cost.work,
      cost.other,
      cost.total,
      cost.each,
    ];
  });
  return csv(rows, [
    ...['shoot', 'date', 'pictures', 'hand_overs'],
    ...places.map((place) => `minutes_${place}`),
    ...['hours', 'cost_kit', 'cost_work', 'cost_other', 'cost', 'cost_each'],
  ]);
}

const sum = (values: (number | undefined)[]): number => values.reduce<number>((total, v) => total + (v ?? 0), 0);
