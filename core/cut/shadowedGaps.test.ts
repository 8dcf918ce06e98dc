import { describe, expect, test } from 'vitest';
import { createLinear, createPlane, type LinearRaster } from '../image/raster.ts';
import { bounds, openGaps, shadowedGaps } from './shadowedGaps.ts';
import type { Sorted } from './sorter/sortFrame.ts';

const SIZE = 60;
const SCREEN = [0.03, 0.3, 0.07];
const CLOTH = [0.3, 0.2, 0.15];

interface Scene {
  /** Level of the shadow that falls on the screen beside the person. */
  beside?: number;
  /** What lies between the arm and the body, which the map takes for the person. */
  between: readonly number[];
  /** Its least x; it goes to 35. */
  from?: number;
}

/** A person from x = 15 to 45, a shadow from 0 to 12, and something between x = 25 and 35, y = 20 and 40. */
function sceneOf({ beside = 1, between, from = 25 }: Scene): {
  frame: LinearRaster;
  lit: LinearRaster;
  screen: LinearRaster;
  sorted: Sorted;
} {
  const [frame, lit] = [createLinear(SIZE, SIZE), createLinear(SIZE, SIZE)];
  const [clear, solid, coverage] = [0, 1, 2].map(() => createPlane(SIZE, SIZE));
  for (let p = 0; p < SIZE * SIZE; p++) {
    const [x, y] = [p % SIZE, Math.floor(p / SIZE)];
    const person = x >= 15 && x < 45;
    const gap = x >= from && x < 35 && y >= 20 && y < 40;
    lit.data.set(SCREEN, p * 3);
    frame.data.set(gap ? between : person ? CLOTH : SCREEN.map((v) => v * (x < 12 ? beside : 1)), p * 3);
    clear.data[p] = person ? 0.02 : 0.98;
    solid.data[p] = coverage.data[p] = person ? 0.97 : 0;
  }
  return { frame, lit, screen: lit, sorted: { clear, solid, coverage } };
}

const shadeOf = (level: number): number[] => SCREEN.map((v) => v * level);

function foundIn(scene: Scene): number {
  const { frame, lit, screen, sorted } = sceneOf(scene);
  return shadowedGaps(frame, lit, screen, sorted).data.reduce((sum, v) => sum + v, 0);
}

describe('a gap in deep shadow', () => {
  test('is the screen where such a shadow is seen beside the person', () => {
    expect(foundIn({ beside: 0.4, between: shadeOf(0.35) })).toBeGreaterThan(150);
  });

  test('is cloth where none is, and where it is much darker than any', () => {
    expect(foundIn({ between: shadeOf(0.35) })).toBe(0);
    expect(foundIn({ beside: 0.8, between: shadeOf(0.35) })).toBe(0);
  });

  test('is cloth where its colour is not the screen’s, if only by a little', () => {
    const [r, g, b] = shadeOf(0.35);
    expect(foundIn({ beside: 0.4, between: [r + 0.015, g, b] })).toBe(0);
    expect(foundIn({ beside: 0.4, between: [r, g, b + 0.015] })).toBe(0);
  });

  test('is none where it is as narrow as an outline', () => {
    expect(foundIn({ beside: 0.4, between: shadeOf(0.35), from: 35 - 2 * bounds.opening })).toBe(0);
  });

  test('opens, and its outline is solved', () => {
    const { frame, lit, screen, sorted } = sceneOf({ beside: 0.4, between: shadeOf(0.35) });
    openGaps(sorted, shadowedGaps(frame, lit, screen, sorted));
    const at = (x: number, y: number): number[] =>
      [sorted.clear, sorted.solid, sorted.coverage].map(({ data }) => data[y * SIZE + x]);
    expect(at(30, 30)).toEqual([1, 0, 0]);
    expect(at(24, 30)[1]).toBeLessThan(0.5);
    expect(at(18, 30)[1]).toBeGreaterThan(0.9);
  });
});
