import { isWithin, type ReadingId } from '../plan/readings.ts';
import type { CheckReading, Evidence } from './checkReading.ts';

/** The readings of a round as they are found, each against its bound. */
export class Collected {
  readonly list: CheckReading[] = [];
  add(id: ReadingId, value: number, reason: string, evidence: Evidence[]): void {
    if (Number.isFinite(value))
      this.list.push({ id, value, verdict: isWithin(id, value) ? 'within' : 'beyond', reason, evidence, minutes: 0 });
  }
}

/** Stops with their sign. */
export const signed = (stops: number): string => `${stops < 0 ? '−' : '+'}${Math.abs(stops).toFixed(2)}`;

/** Marks a point of the picture, in shares. */
export const mark = (x: number, y: number, words: string): Evidence => ({
  x: x - 0.03,
  y: y - 0.02,
  width: 0.06,
  height: 0.04,
  words,
});
