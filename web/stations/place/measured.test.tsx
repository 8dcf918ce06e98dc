import { render, screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import { defaultLook, type Measured, type Tones } from '../../../core/place/index.ts';
import { MeasuredTable } from './MeasuredTable.tsx';

/** What is measured of person and background, side by side. */

const tones = (part: Partial<Tones> = {}): Tones => ({
  black: [0.01, 0.01, 0.01],
  middle: [0.2, 0.2, 0.2],
  white: [0.6, 0.6, 0.6],
  level: 0.2,
  light: [1, 1, 1],
  saturation: 0.3,
  blur: 0.7,
  grain: 0.004,
  side: 0,
  ...part,
});
const measured = (scene: Partial<Tones>): Measured => ({
  person: tones(),
  scene: tones(scene),
  cut: { width: 600, height: 900 },
  background: { width: 900, height: 900 },
  lightFrom: null,
});
const show = (scene: Partial<Tones>): void =>
  void render(
    <MeasuredTable measured={measured(scene)} look={defaultLook} placement={{ x: 0.5, y: 1, height: 0.9 }} />,
  );

test('in what the background plainly differs is said in words, with figures', () => {
  show({ middle: [0.05, 0.05, 0.05], light: [1.3, 1, 0.7], saturation: 0.5 });
  expect(screen.getByText(/^There it is/).textContent).toMatch(
    /^There it is 2\.0 stops darker, \d+ mired warmer and 20 % more saturated than on the person\.$/,
  );
});

test('one difference stands alone, and what is hardly one is not said', () => {
  show({ middle: [0.8, 0.8, 0.8], saturation: 0.35 });
  expect(screen.getByText(/^There it is/).textContent).toBe('There it is 2.0 stops brighter than on the person.');
});

test('where nothing differs nothing is said', () => {
  show({});
  expect(screen.queryByText(/^There it is/)).toBeNull();
});
