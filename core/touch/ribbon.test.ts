import { describe, expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { alongOutline, ribbonOf, wrapped } from './ribbon.ts';

/** A cut whose red tells how far inside, and whose coverage is what `inside` says. */
function cutOf(
  width: number,
  height: number,
  inside: (x: number, y: number) => number,
): EncodedRaster & { channels: 4 } {
  const data = new Uint8Array(width * height * 4);
  for (let p = 0; p < width * height; p++) {
    const deep = inside((p % width) + 0.5, Math.floor(p / width) + 0.5);
    data[p * 4] = Math.min(255, Math.max(0, Math.round(100 + deep)));
    data[p * 4 + 3] = Math.round(255 * Math.min(1, Math.max(0, deep + 0.5)));
  }
  return { width, height, channels: 4, data };
}
const disc = (radius: number) => (x: number, y: number) => radius - Math.hypot(x - 150, y - 150);
const depth = { inside: 20, outside: 10, over: 1 };

describe('the edge ribbon', () => {
  test.each([30, 60, 120])(
    'of a circle of radius %i is as long as it goes round, and each row as deep as it says',
    (radius) => {
      const { strip, outline, begins } = ribbonOf(cutOf(300, 300, disc(radius)), depth);
      expect(strip.width / (2 * Math.PI * radius)).toBeCloseTo(1, 2);
      expect(strip.height).toBe(31);
      expect(begins).toEqual([0]);
      for (let n = 0; n < strip.width; n += 7) {
        expect(Math.hypot(outline[2 * n] - 150, outline[2 * n + 1] - 150)).toBeCloseTo(radius, 0);
        for (const row of [12, 20, 30])
          expect(Math.abs(strip.data[(row * strip.width + n) * 4] - (100 + row - 10))).toBeLessThan(2.5);
        expect(strip.data[(2 * strip.width + n) * 4 + 3]).toBe(0);
      }
    },
  );

  test('of a square with a square gap: both outlines, the longer first, the person below in both', () => {
    const square = (x: number, y: number, side: number): number =>
      side - Math.max(Math.abs(x - 150), Math.abs(y - 150));
    const { strip, begins } = ribbonOf(
      cutOf(300, 300, (x, y) => Math.min(square(x, y, 100), -square(x, y, 50))),
      depth,
    );
    expect(begins).toHaveLength(2);
    expect(begins[1]).toBeGreaterThan(795);
    expect(begins[1]).toBeLessThan(801);
    expect(strip.width - begins[1]).toBeGreaterThan(396);
    expect(strip.width - begins[1]).toBeLessThan(401);
    for (const column of [100, begins[1] + 100]) {
      expect(strip.data[(15 * strip.width + column) * 4 + 3]).toBe(255);
      expect(strip.data[(4 * strip.width + column) * 4 + 3]).toBe(0);
    }
  });

  test('whoever the frame cuts off has no outline there; specks have none at all', () => {
    const { strip } = ribbonOf(
      cutOf(300, 300, (_, y) => Math.min(y - 100, 300)),
      depth,
    );
    expect(strip.width).toBeGreaterThan(290);
    expect(strip.width).toBeLessThan(304);
    expect(ribbonOf(cutOf(300, 300, disc(4)), depth).strip.width).toBe(0);
    expect(
      ribbonOf(
        cutOf(20, 20, () => -9),
        depth,
      ).strip.width,
    ).toBe(0);
  });

  test('evened over some pixels a circle is as long, and fringed hair is one edge instead of each strand', () => {
    const round = ribbonOf(cutOf(300, 300, disc(100)), { ...depth, over: 4 });
    expect(round.strip.width / (2 * Math.PI * 100)).toBeCloseTo(1, 2);
    for (let n = 0; n < round.strip.width; n += 9)
      expect(Math.hypot(round.outline[2 * n] - 150, round.outline[2 * n + 1] - 150)).toBeCloseTo(100, 0);
    const fringed = cutOf(300, 300, (x, y) => (x % 4 < 2 ? 180 : 120) - y);
    expect(ribbonOf(fringed, depth).strip.width).toBeGreaterThan(4000);
    expect(ribbonOf(fringed, { ...depth, over: 8 }).strip.width).toBeLessThan(400);
  });

  test('another picture along the same outline lies as the cut does; what it is mapped to is looked up there', () => {
    const cut = cutOf(300, 300, disc(60));
    const made = ribbonOf(cut, depth);
    const { strip } = made;
    // The cut's own colours, without its coverage.
    const along = alongOutline(cut, made, depth, strip.width);
    expect([along.width, along.height]).toEqual([strip.width, strip.height]);
    for (let p = 0; p < strip.width * strip.height; p++)
      for (let c = 0; c < 3; c++) expect(along.data[p * 3 + c]).toBe(strip.data[p * 4 + c]);
    const halves = { width: 2, height: 1, channels: 3 as const, data: Uint8Array.from([10, 10, 10, 200, 200, 200]) };
    const mapped = alongOutline(halves, made, depth, 40, (x, y) => [x / 150, y]);
    expect(mapped.width).toBe(40);
    for (let n = 0; n < 40; n++) {
      const x = made.outline[2 * n];
      if (Math.abs(x - 150) > 2) expect(mapped.data[(depth.outside * 40 + n) * 3]).toBe(x < 150 ? 10 : 200);
    }
  });

  test('wrapped into rows nothing of it is lost', () => {
    const { strip } = ribbonOf(cutOf(300, 300, disc(60)), depth);
    const sheet = wrapped(strip, 100, 3);
    expect([sheet.width, sheet.height]).toEqual([100, 4 * 34]);
    for (let n = 0; n < strip.width; n += 11) {
      const at = ((Math.floor(n / 100) * 34 + 15) * 100 + (n % 100)) * 4;
      expect(sheet.data[at]).toBe(strip.data[(15 * strip.width + n) * 4]);
    }
  });
});
