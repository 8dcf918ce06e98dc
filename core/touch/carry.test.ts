import { describe, expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { fractalNoise } from '../random.ts';
import { carried, comparable, SURE } from './carry.ts';
import type { Path } from './touch.ts';

/** A touch finds its place on another frame. */

const [WIDTH, HEIGHT] = [360, 480];

type Point = { x: number; y: number };

/** A picture of noise that shows, at each of its pixels, the pattern's place that `from` says, a little lighter or darker. */
function pictured(from: (x: number, y: number) => Point, seed = 1, light = 1): EncodedRaster {
  const data = new Uint8Array(WIDTH * HEIGHT * 3);
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const at = from(x, y);
      for (let c = 0; c < 3; c++)
        data[i++] = Math.max(
          0,
          Math.min(255, light * (128 + 110 * fractalNoise(at.x / 24, at.y / 24, seed + 7 * c, 3))),
        );
    }
  return { width: WIDTH, height: HEIGHT, channels: 3, data };
}
const straight = pictured((x, y) => ({ x, y }));
const stroke: Path = {
  closed: false,
  points: [
    { x: 0.45, y: 0.4, pressure: 1 },
    { x: 0.55, y: 0.45, pressure: 0.5 },
  ],
};
/** How far the ends of a carried stroke lie from where they belong, pixels. */
function offBy(line: Path, to: (x: number, y: number) => Point): number {
  const off = stroke.points.map(({ x, y }, n) => {
    const right = to(x * WIDTH, y * HEIGHT);
    return Math.hypot(line.points[n].x * WIDTH - right.x, line.points[n].y * HEIGHT - right.y);
  });
  return Math.max(...off);
}

describe('a touch is carried', () => {
  const from = comparable(straight);

  test.each([
    ['to the same place of the same picture', 0, 0, 0, 1],
    ['to where the person went', 61, -83, 0, 1],
    ['where they are turned', -40, 70, 0.12, 1],
    ['where they stand nearer', 20, 10, 0, 1.12],
    ['where all that is so', -70, 30, -0.15, 0.92],
  ])('%s', (_, dx, dy, turn, scale) => {
    const [cx, cy] = [WIDTH / 2, HEIGHT / 2];
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    const there = (x: number, y: number): Point => ({
      x: cx + dx + scale * (cos * (x - cx) - sin * (y - cy)),
      y: cy + dy + scale * (sin * (x - cx) + cos * (y - cy)),
    });
    const back = (x: number, y: number): Point => {
      const [u, v] = [(x - cx - dx) / scale, (y - cy - dy) / scale];
      return { x: cx + cos * u + sin * v, y: cy - sin * u + cos * v };
    };
    const found = carried(stroke, 0.02, from, comparable(pictured(back, 1, 0.8)));
    expect(found?.sure).toBeGreaterThan(SURE);
    expect(offBy(found?.line ?? stroke, there)).toBeLessThan(4);
    expect(found?.scale).toBeCloseTo(scale, 0);
    expect(found?.line.points.map(({ pressure }) => pressure)).toEqual([1, 0.5]);
  });

  test('without being sure where nothing is like it', () => {
    const found = carried(stroke, 0.02, from, comparable(pictured((x, y) => ({ x, y }), 99)));
    expect(found?.sure ?? 0).toBeLessThan(SURE);
  });

  test('without being sure where two places are just like it', () => {
    const twice = pictured((x, y) => ({ x: x < WIDTH / 2 ? x + 70 : x - WIDTH / 2 + 70, y }));
    const narrow: Path = { closed: false, points: [{ x: 0.45, y: 0.4, pressure: 1 }] };
    expect(carried(narrow, 0.01, from, comparable(twice))?.sure).toBeLessThan(0.2);
  });

  test('nowhere from a place that shows nothing', () => {
    const plain = comparable({ ...straight, data: new Uint8Array(straight.data.length).fill(90) });
    expect(carried(stroke, 0.02, plain, from)).toBeUndefined();
    expect(carried(stroke, 0.02, from, plain)?.sure ?? 0).toBe(0);
  });

  test('by a grey picture, and at the frame’s very corner', () => {
    const grey = (picture: EncodedRaster): EncodedRaster => ({
      width: WIDTH,
      height: HEIGHT,
      channels: 1,
      data: Uint8Array.from({ length: WIDTH * HEIGHT }, (_, p) => picture.data[p * 3]),
    });
    const corner: Path = { closed: false, points: [{ x: 0.02, y: 0.02, pressure: 1 }] };
    const moved = comparable(grey(pictured((x, y) => ({ x: x - 30, y: y - 20 }))));
    const found = carried(corner, 0.01, comparable(grey(straight)), moved);
    expect(found?.line.points[0].x).toBeCloseTo(0.02 + 30 / WIDTH, 1);
    expect(found?.line.points[0].y).toBeCloseTo(0.02 + 20 / HEIGHT, 1);
  });
});
