import { describe, expect, test } from 'vitest';
import { linearTable } from '../colour/transfer.ts';
import { ColourTouches } from './onColour.ts';
import { touchMatte } from './onMatte.ts';
import { strandsOf } from './strands.ts';
import { stampsOf } from './stamp.ts';
import type { Path, Stroke } from './touch.ts';

/** Hair drawn by hand, and hair made shorter. */

const along = (...points: [number, number][]): Path => ({
  closed: false,
  points: points.map(([x, y]) => ({ x, y, pressure: 1 })),
});
const stroke = (part: Partial<Stroke> = {}): Stroke => ({
  id: 'a',
  at: 1,
  kind: 'strand',
  on: true,
  size: 0.02,
  softness: 0,
  strength: 1,
  path: 'p',
  line: along([0.5, 0.8], [0.5, 0.5], [0.7, 0.2]),
  ...part,
});

describe('strands', () => {
  test('begin where the stroke begins, stay near it and end at different places', () => {
    const strands = strandsOf(stroke(), 1);
    expect(strands.length).toBeGreaterThan(3);
    for (const { points } of strands) {
      expect(Math.hypot(points[0].x - 0.5, points[0].y - 0.8)).toBeLessThan(0.06);
      for (const { x, y, pressure } of points) {
        const fromFirst = y >= 0.5 ? Math.abs(x - 0.5) : Infinity;
        const fromSecond = Math.abs(0.3 * (x - 0.5) + 0.2 * (y - 0.5)) / Math.hypot(0.3, 0.2);
        expect(Math.min(fromFirst, fromSecond)).toBeLessThan(0.03);
        expect(pressure).toBeLessThanOrEqual(1);
      }
    }
    expect(new Set(strands.map(({ points }) => points.length)).size).toBeGreaterThan(1);
  });

  test('are more the wider the brush is, one for the finest, none for a press without a way', () => {
    expect(strandsOf(stroke({ size: 0.001 }), 1)).toHaveLength(1);
    expect(strandsOf(stroke({ size: 0.05 }), 1).length).toBeGreaterThan(2 * strandsOf(stroke(), 1).length);
    expect(strandsOf(stroke({ line: along([0.5, 0.5]) }), 1)).toEqual([]);
    expect(stampsOf(stroke({ line: along([0.5, 0.5], [0.5, 0.5]) }), 100, 100)).toEqual([]);
  });

  test('are the same again for the same path, others for another', () => {
    expect(strandsOf({ ...stroke(), path: 'p' }, 1)).toEqual(strandsOf(stroke(), 1));
    expect(strandsOf(stroke({ path: 'q' }), 1)).not.toEqual(strandsOf(stroke(), 1));
  });

  test('cover the same share of a picture at any size', () => {
    const share = (side: number): number => {
      const covered = stampsOf(stroke(), side, side).map(({ stamp }) =>
        stamp.data.reduce((sum, v) => sum + v / 255, 0),
      );
      return covered.reduce((sum, v) => sum + v, 0) / side ** 2;
    };
    expect(share(900) / share(3600)).toBeGreaterThan(0.75);
    expect(share(900) / share(3600)).toBeLessThan(1.35);
  });

  test('add coverage and take none', () => {
    const before = Uint16Array.from({ length: 300 * 300 }, (_, p) => (p % 300) * 200);
    const after = before.slice();
    touchMatte([stroke()], after, 300, 300);
    expect(after.every((a, p) => a >= before[p])).toBe(true);
    expect(after.filter((a, p) => a > before[p]).length).toBeGreaterThan(100);
  });

  test('have the colour of the hair at their beginning where nothing else was, and mix with what was', () => {
    const side = 1600;
    const inside = { width: 4, height: 4, channels: 3 as const, data: new Float32Array(48).fill(0.5) };
    // The stroke begins in the third cell of the fourth row.
    inside.data.set([0.2, 0.1, 0.05], (3 * 4 + 2) * 3);
    const lone = stroke({ size: 0.002 });
    const [{ stamp, light }] = stampsOf(lone, side, side);
    const y = 960;
    const row = new Uint16Array(side * 4);
    const covers = (x: number): number => stamp.data[(y - stamp.top) * stamp.width + x - stamp.left] ?? 0;
    const middle = [...Array(stamp.width).keys()]
      .map((x) => x + stamp.left)
      .reduce((best, x) => (covers(x) > covers(best) ? x : best));
    const laid = covers(middle) / 255;
    expect(laid).toBeGreaterThan(0.1);
    const colourBy = (cover: number): number[] => {
      row.set([0, 65535, 0, Math.round(65535 * cover)], middle * 4);
      new ColourTouches([lone], side, side).colourAlong(y, row, inside, 400);
      const table = linearTable(row);
      return [0, 1, 2].map((c) => table[row[middle * 4 + c]]);
    };
    // All that covers is the strand's.
    const alone = colourBy(laid);
    [0.2, 0.1, 0.05].forEach((v, c) => expect(alone[c]).toBeCloseTo(v * light, 3));
    const mixed = colourBy(1);
    [0.2 * light * laid, 1 - laid + 0.1 * light * laid, 0.05 * light * laid].forEach((v, c) =>
      expect(mixed[c]).toBeCloseTo(v, 2),
    );
  });
});

describe('trimming', () => {
  const [width, height] = [200, 200];
  /** A solid half, from which a hair of two pixels stands out to the right, and a bar as thick as an arm. */
  const matte = (): Uint16Array =>
    Uint16Array.from({ length: width * height }, (_, p) => {
      const [x, y] = [p % width, Math.floor(p / width)];
      return x < 60 || (y >= 30 && y < 32) || (y >= 130 && y < 160) ? 65535 : 0;
    });
  const all = along([0, 0.5], [1, 0.5]);
  const trimmed = (pixels: number, part: Partial<Stroke> = {}): Uint16Array => {
    const alpha = matte();
    const strength = pixels / 200;
    touchMatte([stroke({ kind: 'trim', size: 4, strength, line: all, ...part })], alpha, width, height);
    return alpha;
  };

  test('leaves hair its length, fades it and takes what is longer', () => {
    const alpha = trimmed(50);
    const hair = (x: number): number => alpha[31 * width + x] / 65535;
    expect(hair(60 + 30)).toBe(1);
    expect(hair(60 + 45)).toBeGreaterThan(0);
    expect(hair(60 + 45)).toBeLessThan(1);
    expect(hair(60 + 55)).toBe(0);
    expect(hair(60 + 120)).toBe(0);
  });

  test('leaves what is solid, and all beyond the brush', () => {
    const alpha = trimmed(50);
    const before = matte();
    const changed = [...alpha.keys()].filter((p) => alpha[p] !== before[p]);
    for (const p of changed) expect([30, 31]).toContain(Math.floor(p / width));
    expect(changed.length).toBeGreaterThan(100);
    const below = trimmed(50, { size: 0.1, line: along([0, 0.9], [1, 0.9]) });
    expect(Buffer.from(below.buffer).equals(Buffer.from(before.buffer))).toBe(true);
  });

  test('of hair without anything solid near leaves none', () => {
    const alpha = Uint16Array.from(matte(), (a, p) => (p % width >= 120 && Math.floor(p / width) < 40 ? a : 0));
    touchMatte([stroke({ kind: 'trim', size: 4, strength: 0.1, line: all })], alpha, width, height);
    expect(alpha.some((a) => a > 0)).toBe(false);
  });
});
