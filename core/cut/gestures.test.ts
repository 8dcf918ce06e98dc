import { expect, test } from 'vitest';
import { seededRandom } from '../random.ts';
import { aroundAll, lostTo, together, type Figure } from './gestures.ts';

const box = (left: number, top: number, right: number, bottom: number) => [
  { x: left, y: top },
  { x: right, y: top },
  { x: right, y: bottom },
  { x: left, y: bottom },
];
/** A standing bar with an arm stretched out to the right, its hand at 0.9 of the width. */
const figure = (width: number, height: number): Figure => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, p) => {
    const [x, y] = [((p % width) + 0.5) / width, (Math.floor(p / width) + 0.5) / height];
    return (x > 0.4 && x < 0.6 && y > 0.1) || (x >= 0.6 && x < 0.9 && y > 0.3 && y < 0.4) ? 255 : 0;
  }),
});

test('a crop takes the share of a figure that lies outside of it', () => {
  const arm = 0.3 * 0.1;
  const body = 0.2 * 0.9;
  expect(lostTo({ polygon: box(0, 0, 1, 1) }, figure(100, 100))).toBe(0);
  expect(lostTo({ polygon: box(0, 0, 0.75, 1) }, figure(100, 100))).toBeCloseTo(arm / 2 / (arm + body), 3);
  expect(lostTo({ polygon: box(0, 0, 0.1, 0.1) }, figure(100, 100))).toBe(1);
  expect(lostTo({ polygon: box(0, 0, 0.1, 0.1) }, { width: 4, height: 4, data: new Uint8Array(16) })).toBe(0);
  // Half of a soft border is within.
  const soft = lostTo({ polygon: box(0, 0, 0.75, 1), soft: 0.02 }, figure(100, 100));
  expect(soft).toBeCloseTo(arm / 2 / (arm + body), 1);
});

test('all together cover what any of them covers, whatever their sizes', () => {
  const random = seededRandom(4);
  const some = Array.from({ length: 5 }, () => ({
    width: 20,
    height: 30,
    data: Uint8Array.from({ length: 600 }, () => 256 * random()),
  }));
  const all = together(some, 20, 30);
  expect(all.data).toEqual(Uint8Array.from({ length: 600 }, (_, p) => Math.max(...some.map(({ data }) => data[p]))));
  const larger = together([figure(50, 80)], 100, 160);
  expect(larger.data.reduce((sum, v) => sum + v, 0) / 4).toBe(figure(50, 80).data.reduce((sum, v) => sum + v, 0));
});

test('the rectangle around all has its margin and ends at the frame', () => {
  expect(aroundAll([], 0.02)).toEqual([]);
  const extents = [
    { x: 0.3, y: 0.2, width: 0.2, height: 0.8 },
    { x: 0.25, y: 0.4, width: 0.6, height: 0.5 },
  ];
  const [first, , third] = aroundAll(extents, 0.02);
  expect(first.x).toBeCloseTo(0.23, 9);
  expect(first.y).toBeCloseTo(0.18, 9);
  expect(third).toEqual({ x: expect.closeTo(0.87, 9), y: 1 });
});
