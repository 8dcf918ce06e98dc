import { describe, expect, test } from 'vitest';
import type { Findings } from '../../../contract/index.ts';
import { readingFacts, type ReadingFacts, type ReadingId } from '../../../core/plan/index.ts';
import { compareRounds } from './compareRounds.ts';

const facts: Record<string, ReadingFacts> = readingFacts;
const ids = Object.keys(facts) as ReadingId[];
const upper = ids.find((id) => facts[id].max !== undefined && facts[id].min === undefined) as ReadingId;
const lower = ids.find((id) => facts[id].min !== undefined && facts[id].max === undefined) as ReadingId;
const span = (id: ReadingId): number => facts[id].scale[1] - facts[id].scale[0];
const found = (values: Partial<Record<ReadingId, number>>): Findings =>
  ({ readings: Object.entries(values).map(([id, value]) => ({ id, value })) }) as unknown as Findings;

describe('compareRounds', () => {
  test('less of what has an upper bound is better, more of what has a lower one', () => {
    const bound = facts[upper].max as number;
    expect(compareRounds(found({ [upper]: bound + 0.2 * span(upper) }), found({ [upper]: bound }))).toMatchObject([
      { id: upper, verdict: 'better' },
    ]);
    expect(compareRounds(found({ [upper]: bound }), found({ [upper]: bound + 0.2 * span(upper) }))).toMatchObject([
      { id: upper, verdict: 'worse' },
    ]);
    const least = facts[lower].min as number;
    expect(compareRounds(found({ [lower]: least }), found({ [lower]: least + 0.2 * span(lower) }))).toMatchObject([
      { id: lower, verdict: 'better' },
    ]);
    expect(compareRounds(found({ [lower]: least }), found({ [lower]: least - 0.2 * span(lower) }))).toMatchObject([
      { id: lower, verdict: 'worse' },
    ]);
  });

  test('what hardly moved is the same, and both values are told', () => {
    const value = facts[upper].max as number;
    const now = value + 0.004 * span(upper);
    expect(compareRounds(found({ [upper]: value }), found({ [upper]: now }))).toEqual([
      { id: upper, before: value, now, verdict: 'same' },
    ]);
  });

  test('the largest change comes first; what was not read before is left out', () => {
    const before = found({ [upper]: facts[upper].max, [lower]: facts[lower].min });
    const now = found({
      [upper]: (facts[upper].max as number) + 0.1 * span(upper),
      [lower]: (facts[lower].min as number) - 0.5 * span(lower),
      ...Object.fromEntries(
        ids
          .filter((id) => id !== upper && id !== lower)
          .slice(0, 1)
          .map((id) => [id, 1]),
      ),
    });
    expect(compareRounds(before, now).map(({ id }) => id)).toEqual([lower, upper]);
  });
});
