import { expect, test } from 'vitest';
import { guidedFilter } from './guidedFilter.ts';
import { createLinear, createPlane } from './raster.ts';

test('a coarse plane is brought to the picture’s outlines', () => {
  const width = 60;
  const frame = createLinear(width, 40);
  const coarse = createPlane(width, 40);
  for (let p = 0; p < coarse.data.length; p++) {
    frame.data.set(p % width < 30 ? [0.6, 0.4, 0.3] : [0.3, 0.3, 0.35], p * 3);
    // A blurred edge, six pixels off.
    coarse.data[p] = Math.max(0, Math.min(1, 0.5 - ((p % width) - 34) / 10));
  }
  const fine = guidedFilter(frame, coarse, 10, 1e-5);
  const at = (x: number): number => fine.data[20 * width + x];
  expect(at(29) - at(30)).toBeGreaterThan(0.3);
  expect(coarse.data[20 * width + 29] - coarse.data[20 * width + 30]).toBeLessThan(0.11);
  expect(at(3)).toBeCloseTo(1, 1);
  expect(at(57)).toBeCloseTo(0, 1);
});

test('where the picture is plain the plane is only averaged', () => {
  const frame = createLinear(20, 20);
  frame.data.fill(0.2);
  const plane = createPlane(20, 20);
  plane.data.fill(0.7);
  for (const value of guidedFilter(frame, plane, 3, 1e-4).data) expect(value).toBeCloseTo(0.7, 5);
});
