import { describe, expect, test } from 'vitest';
import { linearToSrgb, srgbToLinear } from '../colour/transfer.ts';
import { seededRandom } from '../random.ts';
import { areStraight, curvesChanger, curveThrough, straightCurves, type CurvePoint, type Curves } from './curves.ts';

/** Encoded colour through curves. */
function through(curves: Curves, ...encoded: number[]): number[] {
  const rgb = Float32Array.from(encoded, srgbToLinear);
  curvesChanger(curves)(rgb);
  return [...rgb].map(linearToSrgb);
}
const lifted: CurvePoint[] = [
  { from: 0, to: 0.1 },
  { from: 0.5, to: 0.6 },
  { from: 1, to: 1 },
];

describe('a curve', () => {
  test('goes through its points, is level beyond them, and is straight where they are', () => {
    const curve = curveThrough([
      { from: 0.2, to: 0.3 },
      { from: 0.5, to: 0.4 },
      { from: 0.9, to: 0.8 },
    ]);
    expect([0, 0.2, 0.5, 0.9, 1].map(curve)).toEqual([0.3, 0.3, 0.4, 0.8, 0.8]);
    expect(curveThrough(straightCurves.all)(0.37)).toBeCloseTo(0.37, 9);
  });
  test('never turns back between two points, whatever they are', () => {
    const random = seededRandom(7);
    for (let n = 0; n < 200; n++) {
      const froms = Array.from({ length: 2 + Math.floor(random() * 8) }, (_, k) => k + 0.1 + 0.8 * random());
      const points = froms.map((from) => ({ from: from / 10, to: random() }));
      const curve = curveThrough(points);
      for (let k = 1; k < points.length; k++) {
        const [low, high] = [points[k - 1].to, points[k].to].sort((a, b) => a - b);
        for (let t = 0; t <= 1; t += 0.1) {
          const at = curve(points[k - 1].from + t * (points[k].from - points[k - 1].from));
          expect(at).toBeGreaterThanOrEqual(low - 1e-9);
          expect(at).toBeLessThanOrEqual(high + 1e-9);
        }
      }
    }
  });
});

describe('curves over a picture', () => {
  test('straight ones change nothing', () => {
    expect(areStraight(straightCurves)).toBe(true);
    through(straightCurves, 0.02, 0.4, 0.97).forEach((v, c) => expect(v).toBeCloseTo([0.02, 0.4, 0.97][c], 4));
  });
  test('the common one goes before each channel’s own', () => {
    const curves = {
      ...straightCurves,
      all: lifted,
      blue: [
        { from: 0, to: 0 },
        { from: 1, to: 0.5 },
      ],
    };
    expect(areStraight(curves)).toBe(false);
    through(curves, 0.5, 0.5, 0.5).forEach((v, c) => expect(v).toBeCloseTo([0.6, 0.6, 0.3][c], 3));
  });
  test('what is lighter than white counts as white, and nothing falls below black', () => {
    const rgb = Float32Array.of(3, -0.2, 1);
    curvesChanger({ ...straightCurves, all: lifted })(rgb);
    expect(rgb[0]).toBeCloseTo(1, 5);
    expect(linearToSrgb(rgb[1])).toBeCloseTo(0.1, 4);
  });
});
