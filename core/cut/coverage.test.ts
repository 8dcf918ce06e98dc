import { expect, test } from 'vitest';
import { coverageHistogram } from './coverage.ts';

test('every step holds its share of coverage; what is clear or solid is left out', () => {
  const alpha = Uint16Array.from([0, 0, 1, 16383, 16384, 40000, 65534, 65535]);
  expect(coverageHistogram({ alpha }, 4)).toEqual([2, 1, 1, 1]);
});
