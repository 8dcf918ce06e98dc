import { describe, expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { seededRandom } from '../random.ts';
import { cutFrame } from './cutFrame.ts';
import { noGuidance, type Guidance } from './guidance.ts';
import { defaultRecipe } from './recipe.ts';
import { StagedCut } from './stagedCut.ts';

/** Where a hand points at the screen. */

const [width, height] = [240, 180];
type Rgb = readonly [number, number, number];
/** Somebody in brown before a wall; colours encoded, with a little noise. */
function scene(colour: (x: number, y: number) => Rgb): EncodedRaster {
  const random = seededRandom(7);
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const person = Math.hypot((x - 120) / 34, (y - 120) / 60) < 1;
      const own: Rgb = person ? [120, 70, 50] : colour(x, y);
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
function cut(frame: EncodedRaster, guidance: Guidance) {
  const result = cutFrame(frame, defaultRecipe, guidance);
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

  test('what is grey, red or no place at all is refused with what to do', () => {
    for (const guidance of [pointing(0.45, 0.6, 0.55, 0.7), pointing(0, 0, 0, 0)]) {
      const grey = cutFrame(
        scene(() => [128, 128, 128]),
        defaultRecipe,
        guidance,
      );
      expect(grey).toMatchObject({ ok: false, remedy: expect.stringContaining('Without a screen') });
    }
  });

  test('step by step the same as by the batch, also when it is pointed elsewhere', () => {
    const staged = new StagedCut(twoColours, {}, 1);
    for (const guidance of [pointing(0.8, 0.1, 0.95, 0.9), pointing(0.05, 0.1, 0.2, 0.9), noGuidance])
      expect(staged.cut(defaultRecipe, guidance)?.data).toEqual(cut(twoColours, guidance).cutout.data);
  });
});
