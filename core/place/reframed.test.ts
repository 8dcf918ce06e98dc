import { expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { markedAt, partSeen, reframed, seenAt } from './reframed.ts';

/** Which part of a background is seen. */

const steps: EncodedRaster = { width: 80, height: 60, channels: 3, data: new Uint8Array(80 * 60 * 3) };
for (let y = 0, i = 0; y < 60; y++) for (let x = 0; x < 80; x++, i += 3) steps.data.set([3 * x, 4 * y, 100], i);
const framing = (behindZoom: number, behindAcross = 0, behindDown = 0, behindTurn = 0) => ({
  behindTurn,
  behindZoom,
  behindAcross,
  behindDown,
});
const pixel = ({ data, width }: EncodedRaster, x: number, y: number): number[] =>
  [...data.subarray((y * width + x) * 3, (y * width + x) * 3 + 3)].map((v) => v / 257);

test('all of it is the very same picture', () => {
  expect(reframed(steps, framing(1, 1, -1))).toBe(steps);
});

test('twice as large its middle fills the picture; to the sides as far as there is any', () => {
  const middle = reframed(steps, framing(2));
  expect(Math.abs(pixel(middle, 0, 0)[0] - 3 * 20)).toBeLessThanOrEqual(2);
  expect(Math.abs(pixel(middle, 79, 59)[1] - 4 * 44.6)).toBeLessThanOrEqual(3);
  const corner = reframed(steps, framing(2, 1, -1));
  expect(Math.abs(pixel(corner, 79, 30)[0] - 3 * 79)).toBeLessThanOrEqual(2);
  expect(pixel(corner, 10, 0)[1]).toBeLessThanOrEqual(2);
});

test('no part beyond the picture is ever seen, turned or not', () => {
  for (const zoom of [1, 1.3, 3])
    for (const turn of [-15, 0, 4, 15])
      for (const to of [-1, 0, 1]) {
        const { x, y, zoom: larger, sin, cos } = partSeen(framing(zoom, to, to, turn), steps);
        for (const [dx, dy] of [
          [-40, -30],
          [40, -30],
          [40, 30],
          [-40, 30],
        ]) {
          const across = x * 80 + (dx * cos + dy * sin) / larger;
          const down = y * 60 + (dy * cos - dx * sin) / larger;
          expect(Math.min(across, down)).toBeGreaterThanOrEqual(-1e-9);
          expect(across).toBeLessThanOrEqual(80 + 1e-9);
          expect(down).toBeLessThanOrEqual(60 + 1e-9);
        }
      }
});

test('turned clockwise, what was level falls to the right, and the middle stays', () => {
  const turned = reframed(steps, framing(1, 0, 0, 10));
  // Green is the height in the whole picture: farther up at the right than at the left.
  expect(pixel(turned, 70, 30)[1]).toBeLessThan(pixel(turned, 10, 30)[1] - 10);
  expect(Math.abs(pixel(turned, 40, 30)[1] - pixel(steps, 40, 30)[1] * 257)).toBeLessThanOrEqual(3);
});

test('a horizon moves with the part that is seen, and back', () => {
  expect(seenAt(framing(2), steps, 0.5)).toBeCloseTo(0.5);
  expect(seenAt(framing(2, 0, 1), steps, 0.75)).toBeCloseTo(0.5);
  for (const look of [framing(1.4, 0, -0.6), framing(1, 0, 0, 8), framing(2, 1, 1, -12)])
    for (const y of [0.2, 0.5, 0.9]) expect(markedAt(look, steps, seenAt(look, steps, y))).toBeCloseTo(y);
});
