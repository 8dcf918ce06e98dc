import { describe, expect, test } from 'vitest';
import { areaInSight, closerSight, heldSight, missingOf, pixelAt, projectionOf, wholeSight } from './sight.ts';

const size = { width: 4000, height: 6000 };
const box = { width: 832, height: 632 };

describe('the whole picture', () => {
  test('lies in the middle with a margin, as large as the narrower side lets it', () => {
    expect(wholeSight(size, box)).toEqual({ x: 2000, y: 3000, scale: 0.1 });
    expect(wholeSight({ width: 8000, height: 1000 }, box).scale).toBeCloseTo(0.1);
  });
});

describe('what is in sight', () => {
  test('is asked for in steps, and never beyond the picture', () => {
    const middle = areaInSight({ x: 2000, y: 3000, scale: 1 }, box, size);
    for (const side of [middle.x, middle.y]) expect(side % 64).toBe(0);
    expect(middle.x).toBeLessThanOrEqual(2000 - 416);
    expect(middle.x + middle.width).toBeGreaterThanOrEqual(2000 + 416);
    const corner = areaInSight({ x: 4000, y: 6000, scale: 1 }, box, size);
    expect([corner.x + corner.width, corner.y + corner.height]).toEqual([4000, 6000]);
    expect(areaInSight({ x: 0, y: 0, scale: 1 }, box, size)).toMatchObject({ x: 0, y: 0 });
  });
  test('a move of a few pixels asks for nothing new', () => {
    const from = areaInSight({ x: 2010, y: 3010, scale: 1 }, box, size);
    expect(areaInSight({ x: 2014, y: 3007, scale: 1 }, box, size)).toEqual(from);
  });
});

describe('what is missing', () => {
  const area = { x: 128, y: 64, width: 300, height: 200 };
  test('is all of it at first, nothing once it is covered, even by several together', () => {
    expect(missingOf(area, [])).toEqual(area);
    expect(missingOf(area, [{ x: 0, y: 0, width: 500, height: 500 }])).toBeUndefined();
    const left = { x: 128, y: 64, width: 128, height: 200 };
    const right = { x: 256, y: 64, width: 172, height: 200 };
    expect(missingOf(area, [left, right])).toBeUndefined();
    expect(missingOf(area, [left])).toEqual(right);
  });
  test('covers a corner that sticks out and the far side together', () => {
    const middle = { x: 192, y: 64, width: 128, height: 200 };
    expect(missingOf(area, [middle])).toEqual(area);
  });
});

describe('coming closer', () => {
  const sight = { x: 2000, y: 3000, scale: 0.5 };
  test.each([
    [100, 80],
    [416, 316],
    [800, 10],
  ])('the pixel under the pointer at %i, %i stays there', (x, y) => {
    const next = closerSight(sight, 1.7, { x, y }, box, size);
    if (!next) throw new Error('it is the whole picture');
    expect(next.scale).toBeCloseTo(0.85);
    const [before, after] = [sight, next].map((one) => pixelAt({ x, y }, one, box));
    expect(after.x).toBeCloseTo(before.x, 6);
    expect(after.y).toBeCloseTo(before.y, 6);
  });
  test('ends at eight pixels for one, and in the whole picture', () => {
    expect(closerSight({ ...sight, scale: 7 }, 5, { x: 0, y: 0 }, box, size)?.scale).toBe(8);
    expect(closerSight(sight, 0.1, { x: 0, y: 0 }, box, size)).toBeUndefined();
  });
  test('the middle stays on the picture', () => {
    expect(heldSight({ x: -40, y: 7000, scale: 2 }, size)).toEqual({ x: 0, y: 6000, scale: 2 });
  });
});

describe('from the frame to the page and back', () => {
  const projection = projectionOf({ x: 1000, y: 1500, scale: 0.4 }, box, size);
  test.each([
    { x: 0.25, y: 0.25 },
    { x: 0.1, y: 0.31 },
    { x: 1, y: 0 },
  ])('$x, $y comes back as it was', (point) => {
    const back = projection.unproject(projection.project(point));
    expect(back.x).toBeCloseTo(point.x, 9);
    expect(back.y).toBeCloseTo(point.y, 9);
  });
  test('the pixel in sight is the middle of the box; beside the picture lies its border', () => {
    expect(projection.project({ x: 0.25, y: 0.25 })).toEqual({ x: 416, y: 316 });
    expect(projection.unproject({ x: -5000, y: 99_000 })).toEqual({ x: 0, y: 1 });
  });
});
