import { describe, expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { inputOf, joinLooks, looksAt, mapAt, NETWORK_SIDE, surePerson } from './personMap.ts';

/** Left half red, right half blue. */
function halves(width: number, height: number, sixteen = false): EncodedRaster {
  const data = sixteen ? new Uint16Array(width * height * 3) : new Uint8Array(width * height * 3);
  for (let p = 0; p < width * height; p++) data[p * 3 + (p % width < width / 2 ? 0 : 2)] = sixteen ? 65535 : 255;
  return { width, height, channels: 3, data };
}

describe('inputOf', () => {
  test.each([
    [600, 400, false],
    [100, 90, false],
    [1500, 1000, true],
  ])('%i × %i is looked at whole and mirrored', (width, height, sixteen) => {
    const [whole, mirrored] = looksAt(width, height);
    const frame = halves(width, height, sixteen);
    const row = 100 * NETWORK_SIDE * 3;
    const straight = inputOf(frame, whole);
    const turned = inputOf(frame, mirrored);
    expect([...straight.subarray(row, row + 3)]).toEqual([1, 0, 0]);
    expect([...straight.subarray(row + 255 * 3, row + 256 * 3)]).toEqual([0, 0, 1]);
    expect([...turned.subarray(row, row + 3)]).toEqual([0, 0, 1]);
  });

  test('grey frames give grey', () => {
    const frame: EncodedRaster = { width: 300, height: 300, channels: 1, data: new Uint8Array(90000).fill(51) };
    const input = inputOf(frame, looksAt(300, 300)[0]);
    expect(input.every((v) => Math.abs(v - 0.2) < 1e-6)).toBe(true);
  });
});

test('the squares at both ends cover the frame’s longer side; a square frame needs none', () => {
  const looks = looksAt(900, 600);
  expect(looks.slice(2).map(({ x, y, width, height }) => [x, y, width, height])).toEqual([
    [0, 0, 600, 600],
    [300, 0, 600, 600],
  ]);
  expect(looksAt(600, 900)[3]).toMatchObject({ x: 0, y: 300 });
  expect(looksAt(500, 500)).toHaveLength(2);
});

test('answers are laid over each other where they looked, mirrored ones turned back', () => {
  const looks = looksAt(512, 256);
  const left = Float32Array.from({ length: NETWORK_SIDE ** 2 }, (_, p) => (p % NETWORK_SIDE < 64 ? 1 : 0));
  const none = new Float32Array(NETWORK_SIDE ** 2);
  const turned = left.map((_, p) => left[p - (p % NETWORK_SIDE) + NETWORK_SIDE - 1 - (p % NETWORK_SIDE)]);
  const map = joinLooks(512, 256, looks, [left, turned, none, none]);
  expect(map.data[10]).toBeGreaterThan(0.75);
  expect(map.data[200]).toBe(0);
  // Seen by one square alone: half for the highest answer, the rest by its share of those who looked there.
  const one = joinLooks(512, 256, looks, [none, none, left, none]);
  expect(one.data[0]).toBeCloseTo(0.5 + 1 / 6);
});

test('a map is drawn smoothly to another size, and told where it is sure', () => {
  const map = { width: 2, height: 2, data: Float32Array.from([0, 1, 0, 1]) };
  const large = mapAt(map, 8, 6);
  for (let x = 1; x < 8; x++) expect(large.data[x]).toBeGreaterThanOrEqual(large.data[x - 1]);
  expect([large.data[0], large.data[7]]).toEqual([0, 1]);
  expect([...surePerson(large).data.subarray(0, 8)]).toEqual([0, 0, 0, 0, 0, 1, 1, 1]);
  expect(
    mapAt({ width: 1, height: 1, data: Float32Array.from([0.4]) }, 3, 3).data.every((v) => Math.abs(v - 0.4) < 1e-6),
  ).toBe(true);
});
