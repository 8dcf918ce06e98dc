import { describe, expect, test } from 'vitest';
import { encoderFor, linearTable } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import { installedKernels, installKernels } from '../kernels/kernels.ts';
import { seededRandom } from '../random.ts';
import {
  clampPlacement,
  compositeOnBackground,
  compositeOnTone,
  defaultPlacement,
  judgingTones,
  mattePicture,
  isCutOff,
  pixelsLost,
  placedRectangle,
  placementFacts,
  sidesShown,
  mirroredExtent,
  standingLike,
  withSidesHidden,
  type Extent,
  type Placement,
  type Size,
} from './index.ts';

const encode = encoderFor(new Uint8Array());
const table = linearTable(new Uint8Array());

function even(width: number, height: number, rgba: number[]): EncodedRaster {
  const channels = rgba.length as 3 | 4;
  const data = new Uint8Array(width * height * channels);
  for (let i = 0; i < data.length; i++) data[i] = rgba[i % channels];
  return { width, height, channels, data };
}

describe('compositeOnBackground', () => {
  test('mixes light, not encoded values', () => {
    const out = compositeOnBackground(even(8, 8, [255, 255, 255, 128]), even(8, 8, [0, 0, 0]), {
      x: 0.5,
      y: 1,
      height: 1,
    });
    const middle = (4 * 8 + 4) * 3;
    expect(out.data[middle]).toBe(encode(128 / 255));
    expect(out.data[middle]).toBeGreaterThan(180);
  });
  test('an opaque cut of the same size replaces the background exactly', () => {
    const cut = even(6, 4, [10, 20, 30, 255]);
    for (let i = 0; i < cut.data.length; i += 4) cut.data[i] = i;
    const out = compositeOnBackground(cut, even(6, 4, [200, 200, 200]), { x: 0.5, y: 1, height: 1 });
    for (let p = 0; p < 24; p++) expect(Math.abs(out.data[p * 3] - cut.data[p * 4])).toBeLessThanOrEqual(1);
  });
  test.each([
    { x: -0.5, y: 0, height: 0.05 },
    { x: 1.5, y: 2, height: 4 },
    { x: 0.5, y: 1, height: 0.05 },
    { x: 0.3, y: 0.7, height: 3.7 },
  ])('any placement in range keeps the size and the inputs: %o', (placement) => {
    const cut = even(13, 29, [250, 10, 10, 200]);
    const background = even(31, 17, [40, 50, 60]);
    const before = [cut.data.slice(), background.data.slice()];
    const out = compositeOnBackground(cut, background, placement);
    expect(out.data.length).toBe(31 * 17 * 3);
    expect([cut.data, background.data]).toEqual(before);
  });
  test('reducing keeps the amount of light and never darkens an edge', () => {
    const cut = even(64, 64, [255, 255, 255, 0]);
    for (let y = 0; y < 64; y++) for (let x = 0; x < 32; x++) cut.data[(y * 64 + x) * 4 + 3] = 255;
    const out = compositeOnBackground(cut, even(9, 9, [255, 255, 255]), { x: 0.5, y: 1, height: 1 });
    expect(out.data.every((v) => v >= 254)).toBe(true);
    const dark = compositeOnBackground(cut, even(16, 16, [0, 0, 0]), { x: 0.5, y: 1, height: 1 });
    let light = 0;
    for (let i = 0; i < dark.data.length; i += 3) light += table[dark.data[i]];
    expect(light / 256).toBeCloseTo(0.5, 1);
  });
  test('colour under zero coverage does not bleed', () => {
    const cut = even(20, 20, [255, 0, 0, 0]);
    for (let y = 0; y < 20; y++) for (let x = 0; x < 10; x++) cut.data.set([0, 0, 255, 255], (y * 20 + x) * 4);
    const out = compositeOnBackground(cut, even(7, 7, [0, 0, 0]), { x: 0.5, y: 1, height: 1 });
    for (let i = 0; i < out.data.length; i += 3) expect(out.data[i]).toBe(0);
  });
  test('a 16-bit background gives a 16-bit picture', () => {
    const background: EncodedRaster = { width: 4, height: 4, channels: 3, data: new Uint16Array(48).fill(30000) };
    expect(compositeOnBackground(even(4, 4, [0, 0, 0, 0]), background, defaultPlacement).data).toEqual(background.data);
  });
});

test('a tone shows through in proportion, and the matte is the coverage', () => {
  const cut = even(2, 1, [255, 0, 0, 255]);
  cut.data[7] = 0;
  expect([...compositeOnTone(cut, [1, 2, 3]).data]).toEqual([255, 0, 0, 255, 1, 2, 3, 255]);
  expect([...mattePicture(cut as EncodedRaster & { channels: 4 }).data]).toEqual([255, 255, 255, 0, 0, 0]);
});

test('a tone shows the same by the compiled kernel and in plain code, and in 16 bits nearly', () => {
  const random = seededRandom(3);
  const cut: EncodedRaster = {
    width: 37,
    height: 11,
    channels: 4,
    data: Uint8Array.from({ length: 37 * 11 * 4 }, (_, i) =>
      i % 4 === 3 && random() < 0.4 ? (random() < 0.5 ? 0 : 255) : random() * 256,
    ),
  };
  const compiled = installedKernels();
  const quick = compositeOnTone(cut, judgingTones.red.tone).data;
  installKernels(undefined);
  const plain = compositeOnTone(cut, judgingTones.red.tone).data;
  installKernels(compiled);
  expect(compiled).toBeDefined();
  expect(quick).toEqual(plain);
  const wide = compositeOnTone(
    { ...cut, data: Uint16Array.from(cut.data, (v) => v * 257) },
    judgingTones.red.tone,
  ).data;
  wide.forEach((v, i) => expect(Math.abs(v / 257 - plain[i])).toBeLessThan(0.6));
});

test('placement: default stands in the middle on the lower edge; values are kept in range', () => {
  const rectangle = placedRectangle(
    { width: 100, height: 200 },
    { width: 300, height: 400 },
    { ...defaultPlacement, height: 0.5 },
  );
  expect(rectangle).toEqual({ left: 100, top: 200, width: 100, height: 200 });
  expect(clampPlacement({ x: 9, y: -9, height: 99 })).toEqual({
    x: placementFacts.x.max,
    y: placementFacts.y.min,
    height: placementFacts.height.max,
  });
});

describe('what a background does to the person', () => {
  const frame = { width: 3000, height: 2000 };
  const background = { width: 900, height: 1200 };
  const group = { x: 0.1, y: 0.2, width: 0.8, height: 0.8 };
  const wide = { x: 0.5, y: 1, height: 0.9 };

  test('a group wider than the background is cut off; one person in the middle of the same frame is not', () => {
    expect(isCutOff(frame, group, background, wide)).toBe(true);
    expect(isCutOff(frame, { x: 0.4, y: 0.2, width: 0.2, height: 0.8 }, background, wide)).toBe(false);
    expect(isCutOff(frame, { x: 0.4, y: 0.2, width: 0.2, height: 0.8 }, background, { ...wide, x: 0.05 })).toBe(true);
  });

  test('standing like somebody else: the same scale, place and ground, whoever stands where in their frame', () => {
    const upright = { width: 1600, height: 2400 };
    const like = {
      cut: upright,
      extent: { x: 0.3, y: 0.2, width: 0.4, height: 0.7 },
      placement: { x: 0.6, y: 0.95, height: 0.8 },
    };
    const room = { width: 3000, height: 2400 };
    // As it stands itself.
    const same = standingLike(like, upright, like.extent, room);
    for (const name of ['x', 'y', 'height'] as const) expect(same[name]).toBeCloseTo(like.placement[name], 9);
    // Farther left in a frame held across, a third as high from the ground.
    const across = { width: 2400, height: 1600 };
    const extent = { x: 0.1, y: 0.1, width: 0.2, height: 0.6 };
    const at = standingLike(like, across, extent, room);
    const boxOf = (cut: Size, part: Extent, placement: Placement) => {
      const { left, top, width, height } = placedRectangle(cut, room, placement);
      return {
        middle: left + (part.x + part.width / 2) * width,
        foot: top + (part.y + part.height) * height,
        scale: height / cut.height,
      };
    };
    const [one, other] = [boxOf(upright, like.extent, like.placement), boxOf(across, extent, at)];
    expect(other.middle).toBeCloseTo(one.middle, 6);
    expect(other.foot).toBeCloseTo(one.foot, 6);
    expect(other.scale).toBeCloseTo(one.scale, 9);
  });

  test('a group that is wider than the room is smaller and whole, and no smaller than that', () => {
    const one = {
      cut: { width: 1400, height: 2000 },
      extent: { x: 0.3, y: 0.1, width: 0.4, height: 0.9 },
      placement: wide,
    };
    const at = standingLike(one, frame, group, background);
    expect(at.height).toBeLessThan(0.8 * wide.height);
    expect(isCutOff(frame, group, background, at)).toBe(false);
    expect(isCutOff(frame, group, background, { ...at, height: at.height * 1.05 })).toBe(true);
  });

  test('the frame’s own side shows where it cuts somebody off within the picture, and is moved out of sight', () => {
    const upright = { width: 2000, height: 3000 };
    const room = { width: 1800, height: 2400 };
    const waving = { x: 0.3, y: 0.2, width: 0.7, height: 0.8 };
    const at = { x: 0.4, y: 0.95, height: 0.8 };
    expect(sidesShown(upright, waving, room, at)).toEqual(['right', 'bottom']);
    const moved = withSidesHidden(upright, ['right', 'bottom'], room, at);
    expect(sidesShown(upright, waving, room, moved)).toEqual([]);
    expect(moved.height).toBe(0.8);
    const { left, width } = placedRectangle(upright, room, moved);
    expect(left + width).toBeCloseTo(1800, 6);
    // Cut off at both sides it has to be as wide as the room; all four the same.
    for (const extent of [
      { x: 0, y: 0.2, width: 1, height: 0.8 },
      { x: 0, y: 0, width: 1, height: 1 },
    ]) {
      const sides = sidesShown(upright, extent, room, at);
      expect(sidesShown(upright, extent, room, withSidesHidden(upright, sides, room, at))).toEqual([]);
    }
    expect(sidesShown(upright, { x: 0.2, y: 0.2, width: 0.5, height: 0.5 }, room, at)).toEqual([]);
    // Mirrored, it is the other side.
    expect(sidesShown(upright, mirroredExtent(waving, true), room, at)).toEqual(['left', 'bottom']);
    expect(mirroredExtent(waving, false)).toEqual(waving);
  });

  test('pixels of the person that are thrown away', () => {
    expect(
      pixelsLost({ width: 1600, height: 2400 }, { width: 949, height: 1265 }, { x: 0.5, y: 1, height: 1 }),
    ).toBeCloseTo(3.6, 1);
    expect(pixelsLost(frame, { width: 4000, height: 4000 }, wide)).toBe(1);
  });
});
