import { expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { partSeen, reframed, seenAt } from './reframed.ts';

/** Which part of a background is seen. */

const steps: EncodedRaster = { width: 80, height: 60, channels: 3, data: new Uint8Array(80 * 60 * 3) };
for (let y = 0, i = 0; y < 60; y++) for (let x = 0; x < 80; x++, i += 3) steps.data.set([3 * x, 4 * y, 100], i);
const framing = (behindZoom: number, behindAcross = 0, behindDown = 0) => ({ behindZoom, behindAcross, behindDown });
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

test('no part beyond the picture is ever seen, and a horizon moves with it', () => {
  for (const zoom of [1, 1.3, 3])
    for (const to of [-1, 0, 1]) {
      const { x, y, size } = partSeen(framing(zoom, to, to));
      expect(Math.min(x, y)).toBeGreaterThanOrEqual(0);
      expect(Math.max(x, y) + size).toBeLessThanOrEqual(1 + 1e-9);
    }
  expect(seenAt(framing(2), 0.5)).toBeCloseTo(0.5);
  expect(seenAt(framing(2, 0, 1), 0.75)).toBeCloseTo(0.5);
});
