import { LEVELS, type RehearsalResult } from '../../../contract/index.ts';

/** Right answers in a row after which the next level is offered. */
const ROW = 3;

/**
 * The level after the one that was answered rightly some times in a row, or that of the last try.
 * @param results the latest first.
 */
export function offeredLevel(results: readonly RehearsalResult[]): number {
  const answered = results.filter(({ answered: done }) => done);
  const last = answered[0]?.level ?? 1;
  const row = answered.filter(({ level }) => level === last).slice(0, ROW);
  return row.length === ROW && row.every(({ causesRight }) => causesRight) ? Math.min(LEVELS, last + 1) : last;
}
