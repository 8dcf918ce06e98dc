import { expect, test } from 'vitest';
import { seededRandom } from '../random.ts';
import { medianOf, nthOf, quantileOf } from './statistics.ts';

test.each([1, 2, 3, 10, 97, 1000])('any of %i values is found where sorting would put it', (count) => {
  const random = seededRandom(count);
  // Many alike among them, and runs that are in order already.
  const drawn = Float64Array.from({ length: count }, (_, n) => (n % 3 ? Math.floor(random() * 7) : n));
  const sorted = drawn.slice().sort();
  for (let n = 0; n < count; n += Math.ceil(count / 20)) expect(nthOf(drawn.slice(), n)).toBe(sorted[n]);
  expect(nthOf(drawn.slice(), count - 1)).toBe(sorted[count - 1]);
});

test('the middle and the share of a list; of an empty one there is none', () => {
  expect(medianOf([3, 1, 2])).toBe(2);
  expect(quantileOf([5, 4, 3, 2, 1], 0.9)).toBe(5);
  expect(medianOf([])).toBeNaN();
});
