import { describe, expect, test } from 'vitest';
import { seededRandom } from '../random.ts';
import { contours, lengthOfLoop } from './contour.ts';
import { simplifyLine } from './simplifyLine.ts';

/** Coverage of a disc, smooth over a pixel. */
function disc(size: number, x: number, y: number, radius: number): Float32Array {
  return Float32Array.from({ length: size * size }, (_, p) => {
    const distance = Math.hypot((p % size) + 0.5 - x, Math.floor(p / size) + 0.5 - y);
    return Math.min(1, Math.max(0, radius - distance + 0.5));
  });
}

describe('contours', () => {
  test.each([3, 10, 40])('a disc of radius %i: its length and area, to a hundredth', (radius) => {
    const loops = contours(disc(100, 50.3, 49.6, radius), 100, 100, 0.5);
    expect(loops).toHaveLength(1);
    expect(lengthOfLoop(loops[0]) / (2 * Math.PI * radius)).toBeCloseTo(1, radius < 5 ? 1 : 2);
    expect(loops[0].area / (Math.PI * radius ** 2)).toBeCloseTo(1, radius < 5 ? 1 : 2);
  });

  test('a square, a hole in it and a square on the border: lines, their signs and lengths', () => {
    const size = 60;
    const data = new Float32Array(size * size);
    const fill = (x0: number, y0: number, x1: number, y1: number, v: number): void => {
      for (let y = y0; y < y1; y++) data.fill(v, y * size + x0, y * size + x1);
    };
    fill(10, 10, 40, 40, 1);
    fill(20, 20, 30, 30, 0);
    fill(50, 0, 60, 20, 1);
    const areas = contours(data, size, size, 0.5).sort((a, b) => b.area - a.area);
    expect(areas.map(({ area }) => Math.round(area))).toEqual([899.5, 199.5, -99.5].map(Math.round));
    expect(areas.map((loop) => Math.round(lengthOfLoop(loop)))).toEqual([119, 59, 39]);
  });

  test('whatever the picture, every line closes and stays within half a pixel of it', () => {
    const random = seededRandom(3);
    for (const [width, height] of [
      [1, 1],
      [1, 9],
      [13, 1],
      [24, 17],
    ]) {
      const data = Float32Array.from({ length: width * height }, () => random());
      const loops = contours(data, width, height, 0.5);
      const area = loops.reduce((sum, loop) => sum + loop.area, 0);
      expect(Number.isFinite(area)).toBe(true);
      for (const { points } of loops) {
        expect(points.length).toBeGreaterThanOrEqual(6);
        for (let n = 0; n < points.length; n += 2) {
          const m = (n + 2) % points.length;
          expect(Math.hypot(points[m] - points[n], points[m + 1] - points[n + 1])).toBeLessThan(1.5);
          expect(points[n]).toBeGreaterThanOrEqual(-0.5);
          expect(points[n]).toBeLessThanOrEqual(width + 0.5);
        }
      }
    }
  });
});

describe('simplifyLine', () => {
  test('keeps ends and corners, drops what lies on the way, errs by no more than it may', () => {
    const corner = [
      [0, 0],
      [1, 0.01],
      [2, 0],
      [2, 1],
      [2.01, 2],
      [2, 3],
    ].map(([x, y]) => ({ x, y }));
    expect(simplifyLine(corner, 0.1)).toEqual([corner[0], corner[2], corner[5]]);
    const wave = Array.from({ length: 400 }, (_, n) => ({ x: n, y: 30 * Math.sin(n / 30) }));
    const few = simplifyLine(wave, 0.5);
    expect(few.length).toBeLessThan(80);
    for (const { x, y } of wave) {
      const after = few.findIndex((point) => point.x >= x);
      const [a, b] = [few[Math.max(0, after - 1)], few[after]];
      const along = b.x > a.x ? (x - a.x) / (b.x - a.x) : 0;
      expect(Math.abs(a.y + along * (b.y - a.y) - y)).toBeLessThan(0.8);
    }
  });
});
