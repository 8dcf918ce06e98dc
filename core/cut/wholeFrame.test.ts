import { describe, expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { cutFrame } from './cutFrame.ts';
import { noGuidance, type Guidance } from './guidance.ts';
import type { OwnCoverage } from './ownMatte.ts';
import { defaultRecipe, type Recipe } from './recipe.ts';
import { StagedCut } from './stagedCut.ts';

/** Frames that are cut without a screen. */

const [width, height] = [160, 120];
const whole: Recipe = { ...defaultRecipe, method: 'whole' };
/** A grey square on white, with a rim of green light on it, as cut out elsewhere: coverage falls over three pixels. */
function cutElsewhere(): { frame: EncodedRaster; own: OwnCoverage } {
  const data = new Uint8Array(width * height * 3).fill(255);
  const coverage = new Uint16Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const inside = Math.min(x - 40, 119 - x, y - 30, 89 - y);
      coverage[y * width + x] = Math.round(65535 * Math.min(1, Math.max(0, (inside + 2) / 4)));
      if (inside > -3) data.set(inside < 4 ? [120, 160, 118] : [120, 120, 120], (y * width + x) * 3);
      // Cloth of the screen's colour, well inside.
      if (Math.hypot(x - 80, y - 60) < 8) data.set([30, 140, 40], (y * width + x) * 3);
    }
  return { frame: { width, height, channels: 3, data }, own: { width, height, data: coverage, use: 'instead' } };
}
function cut(frame: EncodedRaster, recipe: Recipe, guidance: Guidance = noGuidance, own?: OwnCoverage) {
  const result = cutFrame(frame, recipe, guidance, { own });
  if (!result.ok) throw new Error(result.reason);
  return result;
}
const pixel = ({ data }: EncodedRaster, x: number, y: number): number[] => [
  ...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4),
];

describe('without a screen', () => {
  const { frame, own } = cutElsewhere();

  test('all of a picture stays, in its very colours, though it shows none', () => {
    const grey: EncodedRaster = { width, height, channels: 3, data: new Uint8Array(width * height * 3).fill(90) };
    expect(cutFrame(grey, defaultRecipe).ok).toBe(false);
    const { cutout, quality } = cut(grey, whole);
    for (let p = 0; p < width * height; p++)
      expect([...cutout.data.subarray(p * 4, p * 4 + 4)]).toEqual([90, 90, 90, 255]);
    expect(quality).toMatchObject({ screen: 'none', minutes: 0, doubts: [] });
  });

  test('a green meadow keeps its green: only what was cut out elsewhere has a screen’s light', () => {
    const { cutout } = cut(frame, whole);
    expect(pixel(cutout, 42, 60)).toEqual([120, 160, 118, 255]);
  });

  test('a cutout from elsewhere keeps its coverage; the screen’s light goes from its rim, and green inside stays', () => {
    const { cutout, quality } = cut(frame, whole, noGuidance, own);
    expect(pixel(cutout, 10, 10)).toEqual([0, 0, 0, 0]);
    expect(pixel(cutout, 39, 60)[3]).toBe(Math.round(255 / 4));
    const [r, g, b, a] = pixel(cutout, 42, 60);
    expect(a).toBe(255);
    expect(g - Math.max(r, b)).toBeLessThan(10);
    expect(pixel(cutout, 80, 60)).toEqual([30, 140, 40, 255]);
    expect(pixel(cutout, 60, 60)).toEqual([120, 120, 120, 255]);
    expect(quality.extent.x).toBeCloseTo(38 / width, 1);
  });

  test('a blue jacket is not taken for a blue screen’s light beside a green rim', () => {
    const jacket = { ...frame, data: frame.data.slice() };
    for (let y = 60; y < height; y++)
      for (let x = 0; x < width; x++) jacket.data.set([50, 70, 120], (y * width + x) * 3);
    const { cutout } = cut(jacket, whole, noGuidance, own);
    expect(pixel(cutout, 42, 75)).toEqual([50, 70, 120, 255]);
    const [r, g, b] = pixel(cutout, 42, 45);
    expect(g - Math.max(r, b)).toBeLessThan(20);
  });

  test('with removal at none the rim stays as it came; a blue screen’s light is known too', () => {
    expect(pixel(cut(frame, { ...whole, spill: 0 }, noGuidance, own).cutout, 42, 60)).toEqual([120, 160, 118, 255]);
    const blue = { ...frame, data: frame.data.slice() };
    for (let i = 0; i < blue.data.length; i += 3)
      [blue.data[i + 1], blue.data[i + 2]] = [frame.data[i + 2], frame.data[i + 1]];
    const [r, g, b] = pixel(cut(blue, whole, noGuidance, own).cutout, 42, 60);
    expect(b - Math.max(r, g)).toBeLessThan(10);
  });

  test('masks say what goes, and where colour stays', () => {
    const left: Guidance['masks'][number]['polygon'] = [
      { x: 0, y: 0 },
      { x: 0.5, y: 0 },
      { x: 0.5, y: 1 },
      { x: 0, y: 1 },
    ];
    const cleared = cut(frame, whole, { ...noGuidance, masks: [{ effect: 'clear', polygon: left }] }, own).cutout;
    expect(pixel(cleared, 60, 60)[3]).toBe(0);
    expect(pixel(cleared, 100, 60)[3]).toBe(255);
    const kept = cut(frame, whole, { ...noGuidance, masks: [{ effect: 'spillLeft', polygon: left }] }, own).cutout;
    expect(pixel(kept, 42, 60)).toEqual([120, 160, 118, 255]);
    expect(pixel(kept, 117, 60)[1]).toBeLessThan(140);
  });

  test('step by step and in parts the same as by the batch; no distance to a screen is told', () => {
    const staged = new StagedCut(frame, { own }, 1);
    const changes: Partial<Recipe>[] = [{}, { spill: 0.2 }, { edge: -1 }, { floor: 0.3 }, { personExposure: 0.5 }];
    for (const change of changes) {
      const recipe = { ...whole, ...change };
      const batch = cut(frame, recipe, noGuidance, own);
      expect(staged.isSorted(recipe, noGuidance)).toBe(true);
      expect(staged.cut(recipe, noGuidance)?.data).toEqual(batch.cutout.data);
      expect(staged.judge()?.quality).toEqual(batch.quality);
      const rows = staged.rows(recipe, noGuidance, new Map(), [20, 50]);
      expect(rows?.data).toEqual(batch.cutout.data.slice(20 * width * 4, 50 * width * 4));
    }
    expect(staged.valuesAt(0.5, 0.5)).toMatchObject({ coverage: 1, fromScreen: undefined });
  });
});
