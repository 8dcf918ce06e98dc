import type { Findings } from '../../../contract/index.ts';
import { readingFacts, type ReadingFacts, type ReadingId } from '../../../core/plan/index.ts';

export interface Change {
  id: ReadingId;
  before: number;
  now: number;
  /** Nearer to its bound or farther within it: better. */
  verdict: 'better' | 'worse' | 'same';
}

/** A reading has changed when it moved by more than this share of its scale. */
const NOTICEABLE = 0.01;

/** What became better and worse from one round to the next, the largest change first. */
export function compareRounds(before: Findings, now: Findings): Change[] {
  return now.readings
    .flatMap(({ id, value }): (Change & { size: number })[] => {
      const old = before.readings.find((reading) => reading.id === id);
      if (!old) return [];
      const { scale }: ReadingFacts = readingFacts[id];
      const size = (excess(id, old.value) - excess(id, value)) / (scale[1] - scale[0]);
      return [
        {
          id,
          before: old.value,
          now: value,
          size: Math.abs(size),
          verdict: Math.abs(size) < NOTICEABLE ? 'same' : size > 0 ? 'better' : 'worse',
        },
      ];
    })
    .sort((a, b) => b.size - a.size)
    .map(({ id, before: was, now: is, verdict }) => ({ id, before: was, now: is, verdict }));
}

/** How far beyond its bound a reading lies; below 0 within it. */
function excess(id: ReadingId, value: number): number {
  const { min = -Infinity, max = Infinity }: ReadingFacts = readingFacts[id];
  return Math.max(value - max, min - value);
}
