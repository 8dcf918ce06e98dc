import { describe, expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { cutViews, differencePicture, judgingTones, onBackground, shownAs, spillPicture, underCrop } from './index.ts';

/** Ways to look at a cut. */

type Cutout = EncodedRaster & { channels: 4 };
const cut = (...pixels: number[][]): Cutout => ({
  width: pixels.length,
  height: 1,
  channels: 4,
  data: Uint8Array.from(pixels.flat()),
});
const [grey] = judgingTones.grey.tone;
const pixels = ({ data, channels }: EncodedRaster): number[][] =>
  Array.from({ length: data.length / channels }, (_, p) => [...data.subarray(p * channels, p * channels + 3)]);

describe('a cut alone', () => {
  const three = cut([200, 10, 20, 255], [200, 10, 20, 90], [0, 0, 0, 0]);

  test('every view has the cut’s size and depth, and is opaque', () => {
    const deep: Cutout = { ...three, data: Uint16Array.from(three.data, (v) => v * 257) };
    for (const view of cutViews) {
      const [shown, deeper] = [shownAs(three, view), shownAs(deep, view)];
      expect([shown.width, shown.height]).toEqual([3, 1]);
      if (shown.channels === 4) expect([shown.data[3], shown.data[7], shown.data[11]]).toEqual([255, 255, 255]);
      expect(deeper.data).toBeInstanceOf(Uint16Array);
      pixels(deeper).forEach((pixel, p) =>
        pixel.forEach((v, c) => expect(Math.abs(v / 257 - pixels(shown)[p][c])).toBeLessThan(1)),
      );
    }
  });
  test('greys only: half-covered pixels as grey as they cover, the others no grey and not alike', () => {
    const [solid, half, clear] = pixels(shownAs(three, 'greys'));
    expect(half).toEqual([90, 90, 90]);
    expect(new Set(solid).size).toBeGreaterThan(1);
    expect(new Set(clear).size).toBeGreaterThan(1);
    expect(solid).not.toEqual(clear);
  });
  test('colour alone: as if all were solid, but where nothing is', () => {
    expect(pixels(shownAs(three, 'colour'))).toEqual([
      [200, 10, 20],
      [200, 10, 20],
      [grey, grey, grey],
    ]);
  });
});

test('spill taken: greener where green went, by coverage; nothing where none went', () => {
  const before = cut([100, 130, 100, 255], [100, 130, 100, 51], [100, 100, 100, 255]);
  const after = cut([100, 110, 100, 255], [100, 110, 100, 51], [100, 100, 100, 255]);
  const [full, thin, none] = pixels(spillPicture(before, after));
  expect(full[0]).toBe(grey);
  expect(full[1] - grey).toBe(60);
  expect(thin[1] - grey).toBe(12);
  expect(none).toEqual([grey, grey, grey]);
});

describe('changed since', () => {
  const one = cut([90, 90, 90, 255], [90, 90, 90, 0], [90, 90, 90, 255], [90, 90, 90, 255]);

  test('white where there is more, black where less, tinted where the colour differs', () => {
    const other = cut([90, 90, 90, 0], [90, 90, 90, 255], [150, 90, 90, 255], [92, 88, 90, 251]);
    const [less, more, red, same] = pixels(differencePicture(one, other));
    expect(less).toEqual([0, 0, 0]);
    expect(more).toEqual([255, 255, 255]);
    expect(red[0]).toBeGreaterThan(grey + 40);
    expect(red.slice(1)).toEqual([grey, grey]);
    expect(same).toEqual([grey, grey, grey]);
  });
  test('the same cut in another size has not changed', () => {
    const large: Cutout = {
      width: 8,
      height: 2,
      channels: 4,
      data: Uint8Array.from({ length: 64 }, (_, i) => one.data[((i >> 3) % 4) * 4 + (i % 4)]),
    };
    for (const pixel of pixels(differencePicture(one, large))) expect(pixel).toEqual([grey, grey, grey]);
  });
});

test('under a cut lies what of the background the placement says, smoothly where it is enlarged', () => {
  const background: EncodedRaster = {
    width: 2,
    height: 1,
    channels: 3,
    data: Uint8Array.from([0, 0, 0, 200, 200, 200]),
  };
  const size = { width: 8, height: 4 };
  const placement = { x: 0.5, y: 1, height: 1 };
  const under = underCrop(background, size, placement, { left: 0, top: 0, ...size });
  const row = pixels(under).slice(0, 8);
  expect(row[0]).toEqual([0, 0, 0]);
  expect(row[7]).toEqual([200, 200, 200]);
  for (let x = 1; x < 8; x++) expect(row[x][0]).toBeGreaterThanOrEqual(row[x - 1][0]);
  expect(row[3][0]).toBeGreaterThan(0);
  const clear: Cutout = { ...size, channels: 4, data: new Uint8Array(128) };
  expect(onBackground(clear, under).data).toEqual(under.data);
});
