import { describe, expect, test } from 'vitest';
import { createMask, type LinearRaster } from '../image/raster.ts';
import { coverageOfCloth, sheerClothOf } from './sheerCloth.ts';

/** The own colour of cloth that the screen shines through. */

const SIZE = 40;
const B = [0.05, 0.08, 0.5];
const all = createMask(SIZE, SIZE);
all.data.fill(1);

const picture = (at: (x: number, y: number) => number[]): LinearRaster => ({
  width: SIZE,
  height: SIZE,
  channels: 3,
  data: Float32Array.from(
    { length: SIZE * SIZE * 3 },
    (_, i) => at(Math.floor(i / 3) % SIZE, Math.floor(i / 3 / SIZE))[i % 3],
  ),
});
const screen = picture(() => B);
const over = (colour: number[], coverage: number): number[] =>
  colour.map((v, c) => coverage * v + (1 - coverage) * B[c]);
const colourOf = (frame: LinearRaster) => sheerClothOf(frame, screen, all, 2).colours[0];
const coverageIn = (frame: LinearRaster, x: number, y: number): number | undefined => {
  const colour = colourOf(frame);
  const channels = (of: LinearRaster) => [0, 1, 2].map((c) => of.data.filter((_, i) => i % 3 === c));
  return colour && coverageOfCloth(channels(frame), channels(screen), y * SIZE + x, colour);
};

describe('cloth of one colour', () => {
  const orange = [0.6, 0.35, 0.15];

  test('with a hem as thick as it gets, the hem shows its colour', () => {
    const frame = picture((x, y) => over(orange, y < 3 ? 1 : 0.2 + 0.1 * Math.sin(x)));
    colourOf(frame)?.forEach((v, c) => expect(v).toBeCloseTo(orange[c], 1));
    expect(coverageIn(frame, 0, 20)).toBeCloseTo(0.2, 1);
    expect(coverageIn(frame, 0, 1)).toBeCloseTo(1, 1);
  });
  test('nowhere thick, and white: as thin as a colour without lead says', () => {
    const frame = picture((x) => over([0.8, 0.8, 0.8], 0.25 + 0.1 * Math.sin(x)));
    expect(coverageIn(frame, 0, 20)).toBeCloseTo(0.25, 1);
  });
  test('what lies off the way is no such cloth; the way is that of most', () => {
    const frame = picture((x) => (x < 26 ? over(orange, 0.3) : [0.1, 0.45, 0.1]));
    expect(coverageIn(frame, 5, 5)).toBeGreaterThan(0.25);
    expect(coverageIn(frame, 30, 5)).toBeUndefined();
  });
  test('in a shadow on both there is less of both, and as much cloth', () => {
    const frame = picture((x, y) => (y < 3 ? orange : over(orange, 0.4)).map((v) => (x < 20 ? v : 0.6 * v)));
    expect(coverageIn(frame, 5, 20)).toBeCloseTo(0.4, 1);
    expect(coverageIn(frame, 30, 20)).toBeCloseTo(0.4, 1);
    expect(coverageIn(frame, 30, 1)).toBeCloseTo(1, 1);
  });
  test('dark cloth is measured on the way from the lit screen: its shadow looks the same', () => {
    const frame = picture((_, y) => over([0.02, 0.02, 0.03], y < 3 ? 1 : 0.5));
    expect(coverageIn(frame, 0, 20)).toBeCloseTo(0.5, 1);
  });
  test('a pixel like the screen is clear', () => {
    const frame = picture((x) => (x < 20 ? over(orange, 0.4) : B));
    expect(coverageIn(frame, 30, 5)).toBeCloseTo(0, 5);
  });
});

test('many colours have no way of their own', () => {
  const colours = [
    [0.9, 0.1, 0.1],
    [0.1, 0.9, 0.1],
    [0.9, 0.9, 0.1],
    [0.02, 0.02, 0.02],
  ];
  expect(colourOf(picture((x, y) => over(colours[(x + y) % 4], 0.8)))).toBeUndefined();
  expect(colourOf(picture(() => B))).toBeUndefined();
});

test('each place has a colour of its own', () => {
  const mask = createMask(SIZE, SIZE);
  for (let p = 0; p < mask.data.length; p++) if (p % SIZE < 15 || p % SIZE > 24) mask.data[p] = 1;
  const frame = picture((x) => over(x < 20 ? [0.6, 0.3, 0.1] : [0.3, 0.6, 0.1], 0.5));
  const { labels, colours } = sheerClothOf(frame, screen, mask, 2);
  expect([labels[5], labels[20], labels[35]].map((n) => n > 0)).toEqual([true, false, true]);
  const [left, right] = [colours[labels[5] - 1], colours[labels[35] - 1]];
  expect((left?.[0] ?? 0) > (left?.[1] ?? 0)).toBe(true);
  expect((right?.[1] ?? 0) > (right?.[0] ?? 0)).toBe(true);
});
