import { describe, expect, test } from 'vitest';
import { createLinear, createPlane, type LinearRaster, type Plane } from '../image/raster.ts';
import { seededRandom } from '../random.ts';
import { fitScreenModel } from '../screen/index.ts';
import { bounds, differenceKey, sortByDifference } from './byDifference.ts';
import { shadedIn } from './shaded.ts';
import type { Sorted } from './sorter/sortFrame.ts';

const [width, height] = [120, 90];
const WALL = 0.35;

/** Something before a grey wall that is lit a little unevenly, with noise. */
function before(thing: (x: number, y: number) => readonly [number, number, number] | undefined): LinearRaster {
  const random = seededRandom(3);
  const frame = createLinear(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const lit = WALL * (1 - 0.2 * (x / width));
      const colour = thing(x, y) ?? [lit, lit, lit];
      for (let c = 0; c < 3; c++) frame.data[(y * width + x) * 3 + c] = colour[c] * (1 + 0.02 * (random() - 0.5));
    }
  return frame;
}
const inBox = (x: number, y: number): boolean => x > 40 && x < 80 && y > 20;
const at = (x: number, y: number): number => y * width + x;
const modelOf = (frame: LinearRaster) =>
  fitScreenModel(frame, { screen: 'grey', channel: 1, chroma: [1 / 3, 1 / 3], colour: [WALL, WALL, WALL], share: 0.7 });

function sorted(frame: LinearRaster, persons?: Plane): Sorted {
  const model = modelOf(frame);
  const { dark } = shadedIn(frame, model.screen, new Float32Array(width * height), 0, model.chromaNoise);
  return sortByDifference(frame, model, dark, persons);
}

describe('sorting before a grey wall', () => {
  test.each([
    ['darker', [0.05, 0.05, 0.05]],
    ['lighter', [0.8, 0.8, 0.8]],
    ['as light, of another colour', [0.45, 0.31, 0.25]],
  ] as const)('what is %s is solid, the wall clear, the outline neither', (_, colour) => {
    const frame = before((x, y) => (inBox(x, y) ? colour : undefined));
    const { clear, solid } = sorted(frame);
    expect(solid.data[at(60, 60)]).toBeGreaterThan(0.9);
    for (const [x, y] of [
      [10, 10],
      [110, 80],
      [60, 8],
    ])
      expect(clear.data[at(x, y)]).toBeGreaterThan(0.9);
    expect(solid.data[at(41, 60)]).toBeLessThan(0.5);
    expect(clear.data[at(41, 60)]).toBeLessThan(0.5);
  });

  test('a shadow is the wall where nobody is, and something dark where the map knows nothing', () => {
    const frame = before((x, y) =>
      inBox(x, y) ? [0.5, 0.35, 0.28] : x > 90 && y > 60 ? [0.16, 0.16, 0.16] : undefined,
    );
    const persons = createPlane(width, height);
    persons.data.forEach((_, p) => (persons.data[p] = inBox(p % width, Math.floor(p / width)) ? 1 : 0));
    expect(sorted(frame, persons).clear.data[at(105, 75)]).toBeGreaterThan(0.9);
    expect(sorted(frame).clear.data[at(105, 75)]).toBeLessThan(0.1);
  });

  test('cloth of the wall’s own light is open without a map, and the person’s with one', () => {
    const frame = before((x, y) =>
      inBox(x, y) && !(x > 52 && x < 68 && y > 45 && y < 65) ? [0.1, 0.08, 0.07] : undefined,
    );
    const persons = createPlane(width, height);
    persons.data.forEach((_, p) => (persons.data[p] = inBox(p % width, Math.floor(p / width)) ? 1 : 0));
    expect(sorted(frame).clear.data[at(60, 55)]).toBeGreaterThan(0.9);
    expect(sorted(frame, persons).clear.data[at(60, 55)]).toBeLessThan(0.5);
  });
});

test('each bound moved by a fifth changes hardly a pixel', () => {
  const frame = before((x, y) =>
    inBox(x, y) ? [0.45, 0.31, 0.25] : x > 90 && y > 60 ? [0.16, 0.16, 0.16] : undefined,
  );
  const persons = createPlane(width, height);
  persons.data.forEach((_, p) => (persons.data[p] = inBox(p % width, Math.floor(p / width)) ? 1 : 0));
  const coverage = (): Float32Array => sorted(frame, persons).coverage.data;
  const usual = coverage();
  const all = bounds as Record<string, number>;
  for (const [name, value] of Object.entries(all))
    for (const by of [0.8, 1.2]) {
      all[name] = value * by;
      const now = coverage();
      const moved = usual.reduce((count, v, p) => count + (Math.abs(v - now[p]) > 0.5 ? 1 : 0), 0);
      expect(moved / usual.length, `${name} × ${by}`).toBeLessThan(0.01);
      all[name] = value;
    }
});

test('the difference from the wall is none on it and whole on what is plainly other', () => {
  const wall = before(() => undefined);
  const other = before(() => [0.02, 0.02, 0.02]);
  expect(Math.max(...differenceKey(wall, wall))).toBe(0);
  expect(Math.min(...differenceKey(other, wall))).toBe(1);
});
