import { describe, expect, test } from 'vitest';
import { srgbToLinear } from '../colour/transfer.ts';
import { gaussianBlur } from '../image/boxBlur.ts';
import { createMask, createPlane, type EncodedRaster, type Mask } from '../image/raster.ts';
import { seededRandom } from '../random.ts';
import { edgeBlurOf } from './edges.ts';
import { noiseOf } from './noise.ts';

const SIZE = 600;
const FACTOR = 2;
const screen = [60, 170, 70];
const cloth = [70, 50, 60];

/** A disc before a screen, its outline softened by `soften`; and where person and screen plainly are, reduced. */
function disc(
  soften: (x: number, y: number) => number,
  noise = 0,
): { frame: EncodedRaster; person: Mask; clear: Mask } {
  const random = seededRandom(7);
  const coverage = createPlane(SIZE, SIZE);
  for (let p = 0; p < SIZE * SIZE; p++) coverage.data[p] = soften(p % SIZE, (p / SIZE) | 0);
  const frame: EncodedRaster = { width: SIZE, height: SIZE, channels: 3, data: new Uint8Array(SIZE * SIZE * 3) };
  for (let p = 0; p < SIZE * SIZE; p++)
    for (let c = 0; c < 3; c++)
      frame.data[p * 3 + c] = Math.max(
        0,
        Math.min(
          255,
          Math.round(
            coverage.data[p] * cloth[c] +
              (1 - coverage.data[p]) * screen[c] +
              noise * (random() + random() + random() + random() - 2) * Math.sqrt(3),
          ),
        ),
      );
  const reduced = SIZE / FACTOR;
  const person = createMask(reduced, reduced);
  const clear = createMask(reduced, reduced);
  for (let p = 0; p < reduced * reduced; p++) {
    const a = coverage.data[((p / reduced) | 0) * FACTOR * SIZE + (p % reduced) * FACTOR];
    person.data[p] = a > 0.5 ? 1 : 0;
    clear.data[p] = a < 0.05 ? 1 : 0;
  }
  return { frame, person, clear };
}

/** Coverage of the disc with a rim as wide as `rise` from one fifth to four fifths. */
const round =
  (rise: number) =>
  (x: number, y: number): number =>
    Math.max(0, Math.min(1, 0.5 + (200 - Math.hypot(x - 300, y - 300)) / (rise / 0.6)));

describe('edgeBlurOf', () => {
  test.each([2, 4, 8])('an outline that rises over %i pixels reads as that', (rise) => {
    const { frame, person, clear } = disc(round(rise));
    const read = edgeBlurOf(frame, person, clear, FACTOR);
    expect(read?.places).toBeGreaterThan(200);
    expect(read?.blur).toBeGreaterThan(rise * 0.8);
    expect(read?.blur).toBeLessThan(rise * 1.25 + 0.3);
    expect(read?.smear ?? 0, 'as soft across every direction').toBeLessThan(rise * 0.6);
  });

  test('noise does not make it softer', () => {
    const { frame, person, clear } = disc(round(4), 4);
    expect(edgeBlurOf(frame, person, clear, FACTOR)?.blur).toBeGreaterThan(2.8);
    expect(edgeBlurOf(frame, person, clear, FACTOR)?.blur).toBeLessThan(5.2);
  });

  test.each([
    [0, 'level'],
    [90, 'upright'],
  ])('a movement at %i° (%s) smears the outlines it crosses', (degrees) => {
    const [ux, uy] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    const still = round(2);
    const moved = (x: number, y: number): number => {
      let sum = 0;
      for (let n = 0; n < 13; n++) sum += still(x + ((n - 6) / 12) * 12 * ux, y + ((n - 6) / 12) * 12 * uy);
      return sum / 13;
    };
    const { frame, person, clear } = disc(moved);
    const read = edgeBlurOf(frame, person, clear, FACTOR);
    expect(read?.smear).toBeGreaterThan(7);
    expect(read?.smear).toBeLessThan(18);
    expect(Math.abs(Math.cos((((read?.direction ?? 0) - degrees) * Math.PI) / 180))).toBeGreaterThan(0.95);
    expect(read?.blur, 'where it is sharpest').toBeLessThan(4.5);
  });

  test('nobody there, or nothing but screen, is no outline', () => {
    const { frame, clear } = disc(() => 0);
    expect(edgeBlurOf(frame, createMask(SIZE / FACTOR, SIZE / FACTOR), clear, FACTOR)).toBeUndefined();
  });
});

describe('noiseOf', () => {
  const everywhere: Mask = {
    width: SIZE / FACTOR,
    height: SIZE / FACTOR,
    data: new Uint8Array((SIZE / FACTOR) ** 2).fill(1),
  };

  /** A screen lit unevenly, with noise of so many 8-bit steps in each channel. */
  function lit(noise: number, wide = false): EncodedRaster {
    const random = seededRandom(11);
    const scale = wide ? 257 : 1;
    const data = wide ? new Uint16Array(SIZE * SIZE * 3) : new Uint8Array(SIZE * SIZE * 3);
    for (let p = 0; p < SIZE * SIZE; p++)
      for (let c = 0; c < 3; c++)
        data[p * 3 + c] =
          scale *
            (screen[c] * (0.75 + (0.25 * (p % SIZE)) / SIZE) +
              noise * (random() + random() + random() + random() - 2) * Math.sqrt(3)) +
          0.5;
    return { width: SIZE, height: SIZE, channels: 3, data };
  }

  test.each([1.5, 4, 8])('noise of %f steps in each channel is read through uneven light', (noise) => {
    const read = noiseOf(lit(noise), everywhere, FACTOR, 1);
    // Luma is a weighted mean of three channels that scatter by themselves.
    const luma = noise * Math.hypot(0.299, 0.587, 0.114);
    expect(read?.luma).toBeGreaterThan(luma * 0.9);
    expect(read?.luma).toBeLessThan(luma * 1.15);
    // In linear light a step at this level is about 2.2 times as large, relative to it.
    const level = screen[1] * 0.875;
    const slope = (srgbToLinear((level + 1) / 255) - srgbToLinear((level - 1) / 255)) / 2 / srgbToLinear(level / 255);
    expect(read?.signalToNoise).toBeGreaterThan(0.85 / (noise * slope));
    expect(read?.signalToNoise).toBeLessThan(1.15 / (noise * slope));
  });

  test('16 bit reads as 8 bit does', () => {
    expect(noiseOf(lit(4, true), everywhere, FACTOR, 1)?.luma).toBeCloseTo(
      noiseOf(lit(4), everywhere, FACTOR, 1)?.luma ?? 0,
      1,
    );
  });

  test('creases in a tenth of the places do not count as noise', () => {
    const smooth = lit(3);
    const creased: EncodedRaster = { ...smooth, data: smooth.data.slice() };
    for (let y = 0; y < SIZE; y++)
      for (let x = 280; x < 310; x++)
        for (let c = 0; c < 3; c++) creased.data[(y * SIZE + x) * 3 + c] *= x % 8 < 4 ? 0.7 : 1;
    const [plain, folded] = [smooth, creased].map((frame) => noiseOf(frame, everywhere, FACTOR, 1)?.signalToNoise ?? 0);
    expect(folded).toBeGreaterThan(plain * 0.85);
  });

  test('halved colour is reckoned with, and a screen too small says nothing', () => {
    const plain = noiseOf(lit(4), everywhere, FACTOR, 1)?.signalToNoise ?? 0;
    expect(noiseOf(lit(4), everywhere, FACTOR, 1, true)?.signalToNoise).toBeCloseTo(plain / 1.06, 4);
    const little = createMask(SIZE / FACTOR, SIZE / FACTOR);
    for (let y = 0; y < 12; y++) for (let x = 0; x < 12; x++) little.data[y * little.width + x] = 1;
    expect(noiseOf(lit(4), little, FACTOR, 1)).toBeUndefined();
  });
});

test('a blurred disc is softer than the disc', () => {
  const plane = createPlane(SIZE, SIZE);
  for (let p = 0; p < plane.data.length; p++) plane.data[p] = round(2)(p % SIZE, (p / SIZE) | 0);
  const soft = gaussianBlur(plane, 3).data;
  const sharp = disc(round(2));
  const blurred = disc((x, y) => soft[y * SIZE + x]);
  expect(edgeBlurOf(blurred.frame, blurred.person, blurred.clear, FACTOR)?.blur).toBeGreaterThan(
    2 * (edgeBlurOf(sharp.frame, sharp.person, sharp.clear, FACTOR)?.blur ?? 99),
  );
});
