import { describe, expect, test } from 'vitest';
import type { Face } from '../persons/faces.ts';
import { inARow, isSamePlace, standsAs, type Shown, type StandingModel } from './standing.ts';

const background = { width: 3000, height: 2000 };
const face = (y: number, height: number): Face => ({
  x: 0.4,
  y,
  width: height,
  height,
  eyesX: 0.5,
  eyesY: y + height * 0.4,
  sure: 1,
});
const shown = (faces: Face[], extent = { x: 0.2, y: 0.1, width: 0.6, height: 0.9 }): Shown => ({
  cut: { width: 1600, height: 2400 },
  extent,
  faces,
});
const model = (way: StandingModel['way']): StandingModel => ({
  ...shown([face(0.15, 0.16)]),
  way,
  placement: { x: 0.4, y: 1, height: 0.9 },
});

test('the model stands where it stands, in each way', () => {
  for (const way of ['scale', 'heads', 'eyes'] as const)
    expect(isSamePlace(standsAs(model(way), model(way), background), model(way).placement)).toBe(true);
});

test('heads are made as large as the model’s, by scale people stay as photographed', () => {
  const small = shown([face(0.3, 0.08)]);
  expect(standsAs(model('heads'), small, background).height).toBeCloseTo(1.8, 5);
  expect(standsAs(model('scale'), small, background).height).toBeCloseTo(0.9, 5);
});

test('no lower side of a frame is left in the picture: a larger face farther down is moved', () => {
  // The eyes alone would have the frame end above the lower edge.
  const near = shown([face(0.4, 0.3)]);
  const { y, height } = standsAs(model('heads'), near, background);
  expect(height).toBeCloseTo((0.9 * 0.16) / 0.3, 5);
  expect(y).toBeCloseTo(1, 6);
});

test('whoever has no face stands by scale', () => {
  expect(standsAs(model('heads'), shown([]), background)).toEqual(standsAs(model('scale'), shown([]), background));
});

test('a place that differs by more than the eye sees is another one', () => {
  const at = { x: 0.5, y: 1, height: 0.9 };
  expect(isSamePlace(at, { ...at, height: 0.901 })).toBe(true);
  expect(isSamePlace(at, { ...at, x: 0.51 })).toBe(false);
});

describe('a row', () => {
  const person = () => shown([face(0.15, 0.16)]);
  const middleOf = (place: { x: number }): number => place.x;
  test('stands around the first, right and left by turns, on one ground', () => {
    const row = inARow(
      { ...model('scale'), placement: { x: 0.5, y: 1, height: 0.6 } },
      [person(), person()],
      background,
    );
    expect(row.map(({ height }) => height)).toEqual([0.6, 0.6, 0.6]);
    expect(new Set(row.map(({ y }) => y.toFixed(6)))).toEqual(new Set(['1.000000']));
    const [own, right, left] = row.map(middleOf);
    expect([own, (left + right) / 2]).toEqual([0.5, expect.closeTo(0.5, 6)]);
    // A person is 0.6 of a frame 0.267 wide; shoulders overlap by fifteen hundredths.
    expect(right - own).toBeCloseTo(0.85 * 0.6 * 0.2667, 3);
    expect(left).toBeLessThan(own);
  });
  test('of many is made smaller until all are within the picture', () => {
    const others = Array.from({ length: 8 }, person);
    const row = inARow(model('scale'), others, background);
    expect(row[0].height).toBeLessThan(0.9);
    for (const { x, y, height } of row) {
      const half = (0.6 * height * (2000 / 3000) * (1600 / 2400)) / 2;
      expect(x - half).toBeGreaterThan(0.015);
      expect(x + half).toBeLessThan(0.985);
      expect(y).toBeCloseTo(1, 6);
    }
  });
  test('of one is that one, where they stand', () => {
    expect(isSamePlace(inARow(model('heads'), [], background)[0], model('heads').placement)).toBe(true);
  });
});
