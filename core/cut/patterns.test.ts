import { expect, test } from 'vitest';
import { createMask, createPlane } from '../image/raster.ts';
import { bounds, patternsIn } from './patterns.ts';

const SIZE = 80;
const GAP = 4;

/** Checks 6 pixels wide, every second green, from 24 to 60 both ways, and one piece far from them. */
function checks(solidity: number): ReturnType<typeof patternsIn> {
  const green = createMask(SIZE, SIZE);
  const solid = createPlane(SIZE, SIZE);
  for (let p = 0; p < SIZE * SIZE; p++) {
    const [x, y] = [p % SIZE, Math.floor(p / SIZE)];
    if (x < 15 || (x >= 22 && x < 62 && y >= 22 && y < 62)) solid.data[p] = solidity;
    const within = x >= 24 && x < 60 && y >= 24 && y < 60;
    if (within && (Math.floor(x / 6) + Math.floor(y / 6)) % 2 === 0) green.data[p] = 1;
    if (x >= 4 && x < 10 && y >= 4 && y < 10) green.data[p] = 1;
  }
  return patternsIn(green, solid, GAP);
}

test('the green of checks is one patch, without what lies between; what is far away is another', () => {
  const parts = checks(0.95).sort((a, b) => b.pixels.length - a.pixels.length);
  expect(parts.map(({ pixels }) => pixels.length)).toEqual([36 * 18, 36]);
  expect(parts[0].pixels).toContain(30 * SIZE + 30);
  expect(parts[0].pixels).not.toContain(30 * SIZE + 36);
});

test('where a thing is not sure, and at its outline, nothing is a pattern', () => {
  expect(checks(bounds.solid - 0.1)).toEqual([]);
  const green = createMask(SIZE, SIZE);
  const solid = createPlane(SIZE, SIZE);
  green.data.fill(1);
  for (let p = 0; p < SIZE * SIZE; p++) if (p % SIZE >= 30 && p % SIZE < 50) solid.data[p] = 1;
  const [{ pixels }] = patternsIn(green, solid, GAP);
  const columns = [...pixels].map((p) => p % SIZE);
  expect([Math.min(...columns), Math.max(...columns)]).toEqual([30 + bounds.inset, 49 - bounds.inset]);
});
