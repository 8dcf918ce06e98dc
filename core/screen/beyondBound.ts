import { readingFacts, type ReadingFacts, type ReadingId } from '../plan/readings.ts';
import type { CheckReading } from './checkReading.ts';

/** How far beyond an open or zero bound counts as far as the bound itself: % of the frame. */
const STEP: Partial<Record<ReadingId, number>> = { coverage: 4, clipped: 12 };

/** A reading against its bound: 1 at the bound, 2 twice as far, at most 1 within; 0 where there is no reading. */
export function beyondBound(id: ReadingId, value: number | undefined): number {
  if (value === undefined) return 0;
  const { min, max }: ReadingFacts = readingFacts[id];
  const step = STEP[id];
  if (step !== undefined) return 1 + (max !== undefined ? value - max : (min ?? 0) - value) / step;
  if (max !== undefined && value > Math.max(0, max)) return value / max;
  if (min !== undefined && value < min) return min < 0 ? value / min : 1 + (min - value);
  return 0;
}

/** As `beyondBound`, for a reading below its least. */
export function beyondLeast(id: ReadingId, value: number): number {
  const { min, scale }: ReadingFacts = readingFacts[id];
  return min === undefined || value >= min ? 0 : 1 + (min - value) / Math.max(0.1, (min - scale[0]) / 3);
}

/** How far a reading lies beyond its bound, in its unit. */
export function howFar({ id, value }: CheckReading): string {
  const { min, max, unit, digits }: ReadingFacts = readingFacts[id];
  const beyond = max !== undefined && value > max ? value - max : (min ?? 0) - value;
  return `${beyond.toFixed(digits)} ${unit} ${max !== undefined && value > max ? 'above' : 'below'} its bound`.replace(
    '  ',
    ' ',
  );
}
