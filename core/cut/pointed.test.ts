import { describe, expect, test } from 'vitest';
import { createPlane, type EncodedRaster } from '../image/raster.ts';
import { seededRandom } from '../random.ts';
import { cutFrame, type CutAlso } from './cutFrame.ts';
import { noGuidance, type Guidance } from './guidance.ts';
import { defaultRecipe } from './recipe.ts';
import { StagedCut } from './stagedCut.ts';

/** Where a hand points at the screen. */

const [width, height] = [240, 180];
type Rgb = readonly [number, number, number];
const isPerson = (x: number, y: number): boolean => Math.hypot((x - 120) / 34, (y - 120) / 60) < 1;
/** Somebody in brown before a wall; colours encoded, with a little noise. */
function scene(colour: (x: number, y: number) => Rgb): EncodedRaster {
  const random = seededRandom(7);
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const own: Rgb = isPerson(x, y) ? [120, 70, 50] : colour(x, y);
      own.forEach((v, c) => (data[(y * width + x) * 3 + c] = v + 4 * (random() - 0.5)));
    }
  return { width, height, channels: 3, data };
}
const pointing = (left: number, top: number, right: number, bottom: number): Guidance => ({
  ...noGuidance,
  masks: [
    {
      effect: 'screen',
      polygon: [
        { x: left, y: top },
        { x: right, y: top },
        { x: right, y: bottom },
        { x: left, y: bottom },
      ],
    },
  ],
});
const at = ({ data }: EncodedRaster, x: number, y: number): number => data[(y * width + x) * 4 + 3];
function cut(frame: EncodedRaster, guidance: Guidance, known: CutAlso = {}) {
  const result = cutFrame(frame, defaultRecipe, guidance, known);
  if (!result.ok) throw new Error(result.reason);
  return result;
}

describe('pointing at the screen', () => {
  const twoColours = scene((x) => (x < 150 ? [40, 160, 60] : [40, 70, 170]));

  test('of two colours that which is pointed at is the screen', () => {
    expect(cut(twoColours, pointing(0.8, 0.1, 0.95, 0.9)).quality.screen).toBe('blue');
    const { quality, cutout } = cut(twoColours, pointing(0.05, 0.1, 0.2, 0.9));
    expect(quality.screen).toBe('green');
    expect(at(cutout, 20, 20)).toBe(0);
    expect(at(cutout, 120, 120)).toBe(255);
  });

  test('a pale wall serves, though no screen would be seen in it; how pale is a doubt', () => {
    const pale = scene(() => [150, 172, 178]);
    expect(cutFrame(pale, defaultRecipe).ok).toBe(false);
    const { quality, cutout } = cut(pale, pointing(0.02, 0.05, 0.2, 0.6));
    expect(quality.screen).toBe('blue');
    expect(quality.doubts.map(({ kind }) => kind)).toContain('paleScreen');
    expect(at(cutout, 20, 20)).toBeLessThan(20);
    expect(at(cutout, 220, 150)).toBeLessThan(20);
    expect(at(cutout, 120, 120)).toBe(255);
  });

  test('a red wall serves: skin and lips keep their red, and the wall goes', () => {
    const skin: Rgb = [205, 150, 125];
    const red = scene((x, y) => (x > 40 && x < 80 && y > 60 ? skin : [170, 45, 50]));
    expect(cutFrame(red, defaultRecipe).ok).toBe(false);
    const { quality, cutout } = cut(red, pointing(0.02, 0.05, 0.2, 0.6));
    expect(quality.screen).toBe('red');
    for (const [x, y] of [
      [20, 20],
      [220, 150],
    ])
      expect(at(cutout, x, y)).toBe(0);
    for (const p of [120 * width + 120, 120 * width + 60])
      expect([...cutout.data.subarray(p * 4, p * 4 + 4)]).toEqual([...red.data.subarray(p * 3, p * 3 + 3), 255]);
  });

  test('a grey wall serves; how much of the person looks like it is told', () => {
    const grey = scene(() => [128, 128, 128]);
    expect(cutFrame(grey, defaultRecipe).ok).toBe(false);
    const { quality, cutout } = cut(grey, pointing(0.02, 0.05, 0.2, 0.6));
    expect(quality.screen).toBe('grey');
    expect(at(cutout, 20, 20)).toBe(0);
    expect(at(cutout, 220, 150)).toBe(0);
    expect(at(cutout, 120, 120)).toBe(255);
    expect(quality.doubts.map(({ kind }) => kind)).toContain('paleScreen');
    expect(quality.doubts.map(({ kind }) => kind)).not.toContain('likeScreen');
  });

  test('what a grey wall shares with the person is a doubt with a number and a place', () => {
    // A badge nearly as grey as the wall, on the chest.
    const badge = scene(() => [128, 128, 128]);
    for (let y = 105; y < 135; y++)
      for (let x = 105; x < 135; x++) badge.data.set([120, 122, 124], (y * width + x) * 3);
    const persons = createPlane(width, height);
    persons.data.forEach((_, p) => (persons.data[p] = isPerson(p % width, Math.floor(p / width)) ? 1 : 0));
    const { quality, cutout } = cut(badge, pointing(0.02, 0.05, 0.2, 0.6), { persons });
    expect(at(cutout, 120, 120)).toBe(255);
    const told = quality.doubts.find(({ kind }) => kind === 'likeScreen');
    expect(told?.value).toBeGreaterThan(3);
    const place = told?.places[0];
    expect(place && place.x + place.width / 2).toBeCloseTo(0.5, 1);
    expect(place && place.y + place.height / 2).toBeCloseTo(120 / height, 1);
  });

  test('a place without light, or none at all, is refused with what to do', () => {
    const dark = scene(() => [3, 3, 3]);
    for (const guidance of [pointing(0.02, 0.05, 0.2, 0.6), pointing(0, 0, 0, 0)])
      expect(cutFrame(dark, defaultRecipe, guidance)).toMatchObject({
        ok: false,
        remedy: expect.stringContaining('Without a screen'),
      });
  });

  test('step by step the same as by the batch, also when it is pointed elsewhere', () => {
    const staged = new StagedCut(twoColours, {}, 1);
    for (const guidance of [pointing(0.8, 0.1, 0.95, 0.9), pointing(0.05, 0.1, 0.2, 0.9), noGuidance])
      expect(staged.cut(defaultRecipe, guidance)?.data).toEqual(cut(twoColours, guidance).cutout.data);
  });
});
