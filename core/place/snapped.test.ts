import { expect, test } from 'vitest';
import { snapped } from './snapped.ts';

/** Bringing somebody to the lines that a picture is composed by. */

const cut = { width: 1600, height: 2400 };
const background = { width: 1800, height: 2400 };
const extent = { x: 0.2, y: 0.1, width: 0.5, height: 0.9 };
const eyes = { x: 0.5, y: 0.25 };

test('near a line it is brought there exactly, and the line is named', () => {
  const { placement, guides } = snapped(cut, background, { extent, eyes }, { x: 0.506, y: 1.007, height: 0.9 });
  expect(placement.y).toBe(1);
  expect(placement.height).toBe(0.9);
  expect(guides).toContainEqual({ way: 'y', at: 1 });
  const across = placement.x * 1800;
  const width = 0.9 * 2400 * (1600 / 2400);
  const middles = [0.45, 0.5].map((share) => (across - width / 2 + share * width) / 1800);
  expect(Math.min(...middles.map((at) => Math.abs(at - 0.5)))).toBeLessThan(1e-9);
});

test('the eyes come to the upper third', () => {
  const height = 0.7;
  const near = { x: 0.3, y: 1 / 3 + 0.75 * height + 0.008, height };
  const { placement, guides } = snapped(cut, background, { extent, eyes }, near);
  expect(placement.y - 0.75 * height).toBeCloseTo(1 / 3);
  expect(guides).toContainEqual({ way: 'y', at: 1 / 3 });
});

test('farther away nothing is moved', () => {
  const free = { x: 0.42, y: 0.93, height: 0.55 };
  expect(snapped(cut, background, { extent, eyes: undefined }, free)).toEqual({ placement: free, guides: [] });
});
