import { expect, test } from 'vitest';
import type { Face } from '../persons/faces.ts';
import { isSamePlace, standsAs, type Shown, type StandingModel } from './standing.ts';

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

test('whoever has no face stands by scale', () => {
  expect(standsAs(model('heads'), shown([]), background)).toEqual(standsAs(model('scale'), shown([]), background));
});

test('a place that differs by more than the eye sees is another one', () => {
  const at = { x: 0.5, y: 1, height: 0.9 };
  expect(isSamePlace(at, { ...at, height: 0.901 })).toBe(true);
  expect(isSamePlace(at, { ...at, x: 0.51 })).toBe(false);
});
