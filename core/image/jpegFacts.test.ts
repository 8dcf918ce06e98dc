import { describe, expect, test } from 'vitest';
import { jpegFacts } from './jpegFacts.ts';

/** The standard luminance table, ITU-T T.81 annex K, table K.1. */
const standard = [
  16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55, 14, 13, 16, 24, 40, 57, 69, 56, 14, 17, 22, 29, 51,
  87, 80, 62, 18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113, 92, 49, 64, 78, 87, 103, 121, 120, 101,
  72, 92, 95, 98, 112, 100, 103, 99,
];
/** The table of a quality, as the reference library scales it. */
const tableOf = (quality: number): number[] => {
  const scale = quality < 50 ? 5000 / quality : 200 - 2 * quality;
  return standard.map((v) => Math.max(1, Math.min(255, Math.floor((v * scale + 50) / 100))));
};
const segment = (marker: number, content: number[]): number[] => [
  0xff,
  marker,
  (content.length + 2) >> 8,
  (content.length + 2) & 255,
  ...content,
];
const tables = (quality: number, wide = false): number[] =>
  segment(0xdb, [wide ? 0x10 : 0, ...tableOf(quality).flatMap((v) => (wide ? [v >> 8, v & 255] : [v]))]);
/** @param factors sampling of the first component and of the two others, as they stand in the file. */
const start = (factors: [number, number], marker = 0xc0): number[] =>
  segment(marker, [8, 0, 60, 0, 40, 3, 1, factors[0], 0, 2, factors[1], 1, 3, factors[1], 1]);
const file = (...parts: number[][]): Uint8Array =>
  Uint8Array.from([0xff, 0xd8, ...parts.flat(), ...segment(0xda, [1, 2, 3]), 0x12, 0x34, 0xff, 0xd9]);

describe('what a JPEG tells of its losses', () => {
  test.each([30, 50, 75, 85, 92, 98])('quality %i, from its table', (quality) => {
    const facts = jpegFacts(file(tables(quality), start([0x11, 0x11])));
    expect(Math.abs((facts?.quality ?? 0) - quality)).toBeLessThanOrEqual(1);
  });
  test('a table of wide numbers says the same', () => {
    expect(jpegFacts(file(tables(75, true), start([0x11, 0x11])))).toEqual(
      jpegFacts(file(tables(75), start([0x11, 0x11]))),
    );
  });
  test('colour at half the resolution, in a baseline and in a progressive file', () => {
    expect(jpegFacts(file(tables(90), start([0x22, 0x11])))?.halvedChroma).toBe(true);
    expect(jpegFacts(file(tables(90), start([0x21, 0x11], 0xc2)))?.halvedChroma).toBe(true);
    expect(jpegFacts(file(tables(90), start([0x11, 0x11])))?.halvedChroma).toBe(false);
  });
  test('both tables in one segment: the colour’s does not count', () => {
    const colours = standard.map(() => 99);
    const both = segment(0xdb, [0, ...tableOf(90), 1, ...colours]);
    expect(jpegFacts(file(both, start([0x22, 0x11])))?.quality).toBe(90);
  });
  test('what stands before them is passed over', () => {
    const camera = segment(
      0xe1,
      Array.from({ length: 300 }, (_, n) => n & 255),
    );
    expect(jpegFacts(file(camera, tables(80), start([0x22, 0x11])))).toEqual({ quality: 80, halvedChroma: true });
  });
  test('nothing is made up: no JPEG, no tables, no frame, one channel, an end in the middle', () => {
    expect(jpegFacts(Uint8Array.from([0x89, 0x50, 0x4e, 0x47]))).toBeUndefined();
    expect(jpegFacts(new Uint8Array())).toBeUndefined();
    expect(jpegFacts(file(start([0x22, 0x11])))).toBeUndefined();
    expect(jpegFacts(file(tables(80)))).toBeUndefined();
    const grey = segment(0xc0, [8, 0, 60, 0, 40, 1, 1, 0x11, 0]);
    expect(jpegFacts(file(tables(80), grey))).toBeUndefined();
    expect(jpegFacts(file(tables(80), start([0x22, 0x11])).subarray(0, 40))).toBeUndefined();
  });
});
