import { describe, expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { gaussian, seededRandom } from '../random.ts';
import { cutFrame } from './cutFrame.ts';
import { defaultRecipe } from './recipe.ts';

/** A small picture of a screen with random blobs, noise and levels; of any odd size. */
function picture(seed: number): EncodedRaster {
  const random = seededRandom(seed);
  const width = 3 + Math.floor(random() * 70);
  const height = 3 + Math.floor(random() * 70);
  const sixteen = random() < 0.3;
  const white = sixteen ? 65535 : 255;
  const channels = random() < 0.1 ? 1 : 3;
  const data = sixteen ? new Uint16Array(width * height * channels) : new Uint8Array(width * height * channels);
  const screen = random() < 0.5 ? [0.1, 0.6 + 0.4 * random(), 0.15] : [0.1, 0.2, 0.5 + 0.5 * random()];
  const noise = 0.2 * random() * random();
  const blobs = Array.from({ length: Math.floor(6 * random()) }, () => ({
    x: random() * width,
    y: random() * height,
    r: random() * width * 0.4,
    colour: [random(), random(), random()],
  }));
  for (let p = 0; p < width * height; p++) {
    const blob = blobs.find(({ x, y, r }) => Math.hypot(x - (p % width), y - Math.floor(p / width)) < r);
    for (let c = 0; c < channels; c++)
      data[p * channels + c] = Math.max(
        0,
        Math.min(white, Math.round(white * ((blob?.colour ?? screen)[c] + noise * gaussian(random)))),
      );
  }
  return { width, height, channels, data };
}

/** Every number anywhere in a value. */
function numbersIn(value: unknown): number[] {
  if (typeof value === 'number') return [value];
  return value && typeof value === 'object' ? Object.values(value).flatMap(numbersIn) : [];
}

describe('whatever the picture', () => {
  test('a cut has the picture’s size, and no number in what is judged is anything but a number', () => {
    let cuts = 0;
    for (let seed = 1; seed <= 120; seed++) {
      const frame = picture(seed);
      const persons =
        seed % 3
          ? undefined
          : { width: 8, height: 8, data: Float32Array.from({ length: 64 }, (_, p) => ((p * seed) % 7) / 6) };
      const result = cutFrame(frame, defaultRecipe, undefined, {
        persons,
        plate: seed % 5 ? undefined : picture(seed),
      });
      if (!result.ok) continue;
      cuts++;
      expect([result.cutout.width, result.cutout.height, result.cutout.data.constructor]).toEqual([
        frame.width,
        frame.height,
        frame.data.constructor,
      ]);
      const strange = numbersIn(result.quality).filter((v) => !Number.isFinite(v));
      expect(strange, `seed ${seed}`).toEqual([]);
      expect(result.quality.minutes).toBeGreaterThanOrEqual(0);
    }
    expect(cuts).toBeGreaterThan(40);
  });

  test('the same picture gives the same cut', () => {
    const frame = picture(3);
    expect(cutFrame(frame, defaultRecipe)).toEqual(cutFrame(frame, defaultRecipe));
  });
});
