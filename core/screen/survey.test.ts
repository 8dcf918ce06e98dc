import { describe, expect, test } from 'vitest';
import { createLinear, createMask, type LinearRaster, type Mask } from '../image/raster.ts';
import { seededRandom } from '../random.ts';
import { spillOn } from './spill.ts';
import { surveyScreen } from './survey.ts';

type Rgb = readonly [number, number, number];

function picture(width: number, height: number, colour: (x: number, y: number) => Rgb): LinearRaster {
  const out = createLinear(width, height);
  for (let p = 0; p < width * height; p++) out.data.set(colour(p % width, (p / width) | 0), p * 3);
  return out;
}

describe('surveyScreen', () => {
  const green: Rgb = [0.08, 0.42, 0.1];
  const blue: Rgb = [0.05, 0.12, 0.45];
  const skin: Rgb = [0.5, 0.3, 0.22];

  test.each([
    ['green', green, 1],
    ['blue', blue, 2],
  ] as const)('a %s screen is told with its share, its colour and its channel', (name, colour, channel) => {
    const found = surveyScreen(picture(160, 120, (x, y) => (x > 50 && x < 110 && y > 30 ? skin : colour)));
    expect(found).toMatchObject({ screen: name, channel });
    expect(found?.share).toBeCloseTo(1 - (59 * 89) / (160 * 120), 1);
    for (let c = 0; c < 3; c++) expect(found?.colour[c]).toBeCloseTo(colour[c], 3);
  });

  test('uneven light does not change what screen it is', () => {
    const random = seededRandom(4);
    const found = surveyScreen(
      picture(
        160,
        120,
        (x) => green.map((v) => v * (0.3 + (0.9 * x) / 160) * (1 + 0.1 * (random() - 0.5))) as unknown as Rgb,
      ),
    );
    expect(found?.screen).toBe('green');
    const sum = green[0] + green[1] + green[2];
    expect(found?.chroma[0]).toBeCloseTo(green[0] / sum, 2);
    expect(found?.chroma[1]).toBeCloseTo(green[2] / sum, 2);
  });

  test('of a green shirt before blue the screen is what surrounds', () => {
    expect(surveyScreen(picture(160, 120, (x, y) => (x > 40 && x < 120 && y > 50 ? green : blue)))?.screen).toBe(
      'blue',
    );
  });

  test('a plant in a corner is no screen, nor is grey, nor darkness', () => {
    expect(surveyScreen(picture(160, 120, (x, y) => (x < 20 && y < 20 ? green : [0.3, 0.3, 0.3])))).toBeUndefined();
    expect(surveyScreen(picture(160, 120, () => [0.4, 0.4, 0.4]))).toBeUndefined();
    expect(surveyScreen(picture(160, 120, () => [0.002, 0.01, 0.003]))).toBeUndefined();
    expect(surveyScreen(picture(1, 1, () => [0.3, 0.3, 0.3]))).toBeUndefined();
  });
});

describe('spillOn', () => {
  const width = 400;
  const height = 500;
  const cloth: Rgb = [0.4, 0.4, 0.4];
  const radius = 90;
  const person = ((): Mask => {
    const out = createMask(width, height);
    for (let p = 0; p < width * height; p++) if (Math.abs((p % width) - 200) < radius) out.data[p] = 1;
    return out;
  })();
  const clear: Mask = { width, height, data: person.data.map((v) => 1 - v) };
  /** A round column of grey cloth; the screen behind adds so much of its channel where the surface turns away. */
  const lit = (spill: number): LinearRaster =>
    picture(width, height, (x) => {
      const across = Math.abs(x - 199.5) / radius;
      if (across >= 1) return [0.08, 0.42, 0.1];
      const facing = Math.sqrt(1 - across * across);
      return [cloth[0], cloth[1] * (1 + spill * Math.max(0, 0.42 - 0.58 * facing)), cloth[2]];
    });

  test('more screen light on the edges reads as fewer stops below the key', () => {
    const weak = spillOn(lit(0.3), person, clear, 1, 4);
    const strong = spillOn(lit(1.2), person, clear, 1, 4);
    expect(weak?.places).toBeGreaterThan(30);
    expect(weak?.stops).toBeGreaterThan((strong?.stops ?? 99) + 1.5);
    expect(strong?.difference).toBeGreaterThan(weak?.difference ?? 99);
    // Four times the light is two stops.
    expect((weak?.stops ?? 0) - (strong?.stops ?? 0)).toBeLessThan(2.5);
  });
  test('none reads as none; a small frame, or one with nobody, says nothing', () => {
    expect(spillOn(lit(0), person, clear, 1, 4)?.stops).toBeGreaterThan(6);
    expect(spillOn(lit(1), person, clear, 1, 1)).toBeUndefined();
    expect(spillOn(lit(1), createMask(width, height), clear, 1, 4)).toBeUndefined();
  });
});
