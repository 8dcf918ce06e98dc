import { describe, expect, test } from 'vitest';
import { createLinear, createMask, type LinearRaster } from '../image/raster.ts';
import type { GreenPatch } from './greenPatch.ts';
import { bounds, clothAround, seenThrough, seenThroughIn } from './seenThrough.ts';

/** Cloth that the screen is seen through, told from green cloth by what varies in it. */

type Rgb = readonly [number, number, number];
const SIZE = 60;
const SCREEN: Rgb = [0.06, 0.4, 0.1];
const gold: Rgb = [0.5, 0.38, 0.08];
const inside: number[] = [];
for (let y = 10; y < 50; y++) for (let x = 10; x < 50; x++) inside.push(y * SIZE + x);
const PATCH = Int32Array.from(inside);

function picture(at: (x: number, y: number) => Rgb): LinearRaster {
  const frame = createLinear(SIZE, SIZE);
  for (let p = 0; p < SIZE * SIZE; p++) frame.data.set(at(p % SIZE, Math.floor(p / SIZE)), p * 3);
  return frame;
}
const screen = picture(() => SCREEN);
const mix = (a: Rgb, b: Rgb, share: number): Rgb => [0, 1, 2].map((c) => share * a[c] + (1 - share) * b[c]) as never;
const shade = (colour: Rgb, by: number): Rgb => colour.map((v) => by * v) as never;
/** Dots of two pixels, with thinner cloth between them. */
const dots = (x: number, y: number): number => (x % 4 < 2 && y % 4 < 2 ? 0.7 : 0.35);
const way = (at: (x: number, y: number) => Rgb, apart = 0.3) => seenThrough(picture(at), screen, PATCH, apart);

describe('what varies in a patch', () => {
  test('dots over the screen lead to it, and say which way the cloth’s colour lies', () => {
    const found = way((x, y) => mix(gold, SCREEN, dots(x, y)));
    const towards = gold.map((v, c) => v - SCREEN[c]);
    const cosine = towards.reduce((sum, v, c) => sum + v * (found?.[c] ?? 0), 0) / Math.hypot(...towards);
    expect(cosine).toBeGreaterThan(0.99);
  });
  test('over the screen in shadow too', () => {
    expect(way((x, y) => mix(gold, shade(SCREEN, 0.6), dots(x, y)))).toBeDefined();
    expect(way((x, y) => mix(gold, shade(SCREEN, 0.2), dots(x, y)))).toBeUndefined();
  });
  test('light and shade on green cloth lead to black', () => {
    expect(way((x, y) => shade([0.28, 0.42, 0.08], 0.5 + 0.5 * dots(x, y)))).toBeUndefined();
  });
  test('a print leads to its other colour', () => {
    expect(way((x, y) => mix([0.7, 0.7, 0.7], [0.32, 0.42, 0.02], dots(x, y)))).toBeUndefined();
  });
  test('stripes in nearly the screen’s colour get there', () => {
    const near: Rgb = [0.08, 0.38, 0.12];
    expect(way((x) => mix([0.6, 0.6, 0.6], near, x % 6 < 3 ? 1 : 0))).toBeUndefined();
  });
  test('smooth cloth says nothing, nor does what is nearly the screen’s colour', () => {
    expect(way(() => mix(gold, SCREEN, 0.5))).toBeUndefined();
    expect(way((x, y) => mix(gold, SCREEN, dots(x, y)), 0.1)).toBeUndefined();
  });
});

describe('the whole of the cloth', () => {
  const all = createMask(SIZE, SIZE);
  all.data.fill(1);
  const none = createMask(SIZE, SIZE);
  const cloth = (at: (x: number, y: number) => Rgb, where = { open: all, clear: none }) => {
    const frame = picture(at);
    const found = seenThrough(frame, screen, PATCH, 0.3);
    if (!found) throw new Error('nothing seen through');
    return clothAround(frame, screen, where, Int32Array.from([30 * SIZE + 20]), found);
  };
  const veil = (x: number, y: number): Rgb => mix(gold, SCREEN, dots(x, y));

  test('goes on from one of its pixels, its dots with it, up to another colour', () => {
    const found = cloth((x, y) => (x < 54 ? veil(x, y) : [0.4, 0.1, 0.3]));
    expect(found.data[30 * SIZE + 50]).toBe(1);
    expect(found.data[5 * SIZE + 5]).toBe(1);
    expect(found.data[30 * SIZE + 57]).toBe(0);
  });
  test('does not take in white cloth that has dots of the screen’s colour', () => {
    const { among } = bounds;
    bounds.among = 4 / SIZE;
    try {
      const found = cloth((x, y) => (x < 51 ? veil(x, y) : x % 4 < 2 && y % 4 < 2 ? SCREEN : [0.7, 0.7, 0.7]));
      const white = Array.from({ length: SIZE }, (_, y) => found.data[y * SIZE + 54]);
      expect(found.data[30 * SIZE + 46]).toBe(1);
      expect(white).not.toContain(1);
    } finally {
      bounds.among = among;
    }
  });
  test('is joined: what lies apart is another thing', () => {
    const found = cloth((x, y) => (x >= 51 && x < 55 ? [0.4, 0.1, 0.3] : veil(x, y)));
    expect(found.data[30 * SIZE + 45]).toBe(1);
    expect(found.data[30 * SIZE + 58]).toBe(0);
  });
  test('is not where it may not be, nor where the screen alone is seen', () => {
    const open = createMask(SIZE, SIZE);
    const clear = createMask(SIZE, SIZE);
    for (let p = 0; p < open.data.length; p++) {
      open.data[p] = p % SIZE < 40 ? 1 : 0;
      clear.data[p] = p < 12 * SIZE ? 1 : 0;
    }
    const found = cloth(veil, { open, clear });
    expect(found.data[30 * SIZE + 46]).toBe(0);
    expect(found.data[5 * SIZE + 20]).toBe(0);
    expect(found.data[30 * SIZE + 30]).toBe(1);
  });
});

describe('the patches of a frame', () => {
  const veil = (x: number, y: number): Rgb => mix(gold, SCREEN, dots(x, y));
  const none = createMask(SIZE, SIZE);
  const all = createMask(SIZE, SIZE);
  all.data.fill(1);
  const half = (left: boolean): Int32Array => PATCH.filter((p) => p % SIZE < 30 === left);
  const patch = (part: Partial<GreenPatch> = {}, apart = 0.3): GreenPatch => ({
    box: [10, 10, 50, 50],
    centre: { x: 0.5, y: 0.5 },
    chroma: [0.3, 0.1],
    share: 0.1,
    pattern: false,
    likelihood: 0.9,
    verdict: 'keep',
    doubtful: false,
    byHand: false,
    evidence: {
      apart,
      mostScreen: 0.7,
      leaning: 0,
      remainder: 0,
      rough: 0.1,
      darkApart: 0,
      spread: 0,
      atScreen: true,
      atBorder: false,
    },
    ...part,
  });
  const sheerOf = (...found: { patch: GreenPatch; pixels: Int32Array }[]) =>
    seenThroughIn(found, picture(veil), screen, { open: all, clear: none }).data;

  test('one that is seen through is asked about, and takes what is of the same cloth with it', () => {
    const [seen, smooth] = [patch(), patch({}, 0.1)];
    const sheer = sheerOf({ patch: seen, pixels: half(true) }, { patch: smooth, pixels: half(false) });
    expect([seen, smooth].map(({ verdict, doubtful }) => [verdict, doubtful])).toEqual([
      ['sheer', true],
      ['sheer', true],
    ]);
    expect(sheer[30 * SIZE + 40]).toBe(1);
  });
  test('what goes, and what a hand says stays, is left alone', () => {
    const goes = patch({ verdict: 'remove' });
    expect(sheerOf({ patch: goes, pixels: half(true) }).includes(1)).toBe(false);
    const [seen, stays] = [patch(), patch({ byHand: true })];
    const sheer = sheerOf({ patch: seen, pixels: half(true) }, { patch: stays, pixels: half(false) });
    expect([goes.verdict, stays.verdict]).toEqual(['remove', 'keep']);
    expect([sheer[30 * SIZE + 20], sheer[30 * SIZE + 40]]).toEqual([1, 0]);
  });
});
