import { expect, test } from 'vitest';
import { createMask, createPlane, createLinear } from '../image/raster.ts';
import { personBeyond } from './beyond.ts';
import { Region } from './region.ts';

const [width, height] = [120, 80];
/** The screen ends here; beyond it are a wall and an arm that crosses its edge. */
const EDGE = 60;
const inArm = (x: number, y: number): boolean => x >= 20 && x < 110 && y >= 30 && y < 42;

/** @param wall its light at a place. @param map what the map says of the arm, of the wall beside it, and elsewhere. */
function scene(wall: [number, number, number], map: { arm: number; beside: number; elsewhere: number }) {
  const frame = createLinear(width, height);
  const persons = createPlane(width, height);
  const regions = createMask(width, height);
  const outside = createMask(width, height);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const arm = inArm(x, y);
      outside.data[p] = x >= EDGE ? 1 : 0;
      frame.data.set(arm ? [0.5, 0.25, 0.15] : x >= EDGE ? wall : [0.1, 0.5, 0.1], p * 3);
      regions.data[p] = arm ? Region.core : Region.clear;
      const beside = y >= 42 && y < 54;
      persons.data[p] = x < EDGE ? (arm ? 1 : 0) : arm ? map.arm : beside ? map.beside : map.elsewhere;
    }
  const beyond = personBeyond(frame, persons, regions, outside);
  const meanIn = (y0: number, y1: number): number => {
    let sum = 0;
    for (let y = y0; y < y1; y++) for (let x = 70; x < 100; x++) sum += beyond.data[y * width + x];
    return sum / (30 * (y1 - y0));
  };
  return { arm: meanIn(33, 39), beside: meanIn(46, 52), elsewhere: meanIn(5, 20) };
}

test('where the map is unsure, what has the person’s colours stays, and what has the wall’s goes', () => {
  const seen = scene([0.2, 0.2, 0.22], { arm: 0.4, beside: 0.6, elsewhere: 0.02 });
  expect(seen.arm).toBeGreaterThan(0.9);
  expect(seen.beside).toBeLessThan(0.1);
  expect(seen.elsewhere).toBe(0);
});

test('a wall in the person’s colours is told by the map alone', () => {
  const seen = scene([0.5, 0.25, 0.15], { arm: 0.9, beside: 0.1, elsewhere: 0.02 });
  expect(seen.arm).toBeGreaterThan(0.9);
  expect(seen.beside).toBeLessThan(0.1);
});

test('without a place that is surely nobody the map is taken as it is', () => {
  const seen = scene([0.2, 0.2, 0.22], { arm: 0.95, beside: 0.75, elsewhere: 0.2 });
  expect(seen.arm).toBeGreaterThan(0.9);
  expect(seen.beside).toBeGreaterThan(0.9);
});
