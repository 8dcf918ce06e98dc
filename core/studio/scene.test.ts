import { describe, expect, test } from 'vitest';
import { createLinear } from '../image/raster.ts';
import { demoFrames, demoPeople } from './cast.ts';
import { buildFigure, hairline } from './figure.ts';
import { drawKite } from './kite.ts';
import { lightAt, traceBody, type View } from './march.ts';
import { fractalNoise, gaussian, noise2, seededRandom } from '../random.ts';
import { ball, Part, SolidField } from './solids.ts';
import { growHair } from './strands.ts';

const view: View = { width: 80, height: 80, scale: 100, originX: 40, originY: 40 };

describe('random', () => {
  test('is repeatable, even and normal', () => {
    const a = seededRandom(4);
    const b = seededRandom(4);
    const random = seededRandom(9);
    let sum = 0;
    let squares = 0;
    for (let n = 0; n < 20000; n++) {
      expect(a()).toBe(b());
      const g = gaussian(random);
      sum += g;
      squares += g * g;
    }
    expect(sum / 20000).toBeCloseTo(0, 1);
    expect(squares / 20000).toBeCloseTo(1, 1);
  });
  test('noise is smooth and bounded', () => {
    for (let x = 0; x < 20; x += 0.13) {
      expect(Math.abs(noise2(x, 1.7, 3))).toBeLessThanOrEqual(1);
      expect(Math.abs(fractalNoise(x, 1.7, 3, 5))).toBeLessThanOrEqual(1);
      expect(Math.abs(noise2(x, 1.7, 3) - noise2(x + 0.001, 1.7, 3))).toBeLessThan(0.01);
    }
  });
});

describe('traceBody', () => {
  test('a ball: its disc is covered, its middle is nearest and faces the camera', () => {
    const g = traceBody(new SolidField([ball(Part.skin, [0, 0, 0], 0.2)]), view, [0, 0, 1]);
    const at = (x: number, y: number): number => y * 80 + x;
    const covered = g.coverage.reduce((a, b) => a + b, 0);
    // Coverage ramps over the pixel outside the outline, so the disc counts half a pixel larger.
    expect(covered / (Math.PI * 20.5 * 20.5)).toBeCloseTo(1, 1);
    expect(g.depth[at(40, 40)]).toBeCloseTo(0.2, 2);
    expect(g.normal[at(40, 40) * 3 + 2]).toBeGreaterThan(0.99);
    expect(g.normal[at(28, 40) * 3]).toBeLessThan(-0.5);
    expect(g.coverage[at(2, 2)]).toBe(0);
    expect(g.depth[at(2, 2)]).toBe(-Infinity);
  });
  test('what stands in the key’s way is in shadow', () => {
    const field = new SolidField([ball(Part.skin, [0, 0, 0], 0.15, 0), ball(Part.garment, [0.22, 0, 0.12], 0.08, 0)]);
    const g = traceBody(field, view, [0.87, 0, 0.48]);
    const lit = (x: number): number => {
      const reached: [number, number] = [0, 0];
      lightAt(g.light, x, 40, g.depth[40 * 80 + x], reached);
      return reached[1];
    };
    expect(lit(64)).toBeGreaterThan(0.8);
    expect(lit(47)).toBeLessThan(lit(64) - 0.2);
  });
});

describe('figures', () => {
  test('every demo person has a head at the origin and no solid that is not a number', () => {
    for (const subject of demoFrames.flatMap((frame) => frame.subjects)) {
      const figure = buildFigure(subject, seededRandom(subject.seed));
      const field = new SolidField(figure.solids);
      expect(field.distance(0, 0, 0)).toBeLessThan(0);
      expect(Number.isFinite(field.distance(3, 3, 3))).toBe(true);
    }
  });
  test('hair grows from the scalp, outside the body, and as long as asked', () => {
    const subject = demoPeople.maren;
    const few = { ...subject, hair: { ...subject.hair, strands: 200 } };
    const figure = buildFigure(few, seededRandom(few.seed));
    const body = new SolidField(figure.solids);
    const strands = growHair(few, figure, body).slice(0, 200);
    for (const { points, width } of strands) {
      expect(width).toBeGreaterThan(0);
      expect(points.every(Number.isFinite)).toBe(true);
      expect(Math.hypot(points[0], points[1] - 0.04, points[2])).toBeLessThan(0.14);
      let length = 0;
      for (let i = 3; i < points.length; i += 3)
        length += Math.hypot(points[i] - points[i - 3], points[i + 1] - points[i - 2], points[i + 2] - points[i - 1]);
      expect(length).toBeGreaterThan(0.5 * few.hair.length);
      expect(length).toBeLessThan(2.2 * few.hair.length);
    }
  });
  test('the hairline is high in front, low behind, without a jump', () => {
    expect(hairline(0, 0.9)).toBeGreaterThan(hairline(0, -0.9) + 0.1);
    for (let z = -1; z < 1; z += 0.01) expect(Math.abs(hairline(0, z) - hairline(0, z + 0.01))).toBeLessThan(0.01);
  });
});

test('the kite’s cloth covers partly, its spars wholly, and nothing outside', () => {
  const picture = createLinear(80, 80, 4);
  const lights = {
    key: { direction: [0, 0, 1], colour: [1, 1, 1] },
    others: [],
    ambient: [0.1, 0.1, 0.1],
    bounce: [0, 0, 0],
  } satisfies Parameters<typeof drawKite>[3] as Parameters<typeof drawKite>[3];
  drawKite(
    picture,
    {
      centre: [0, 0, 0],
      halfWidth: 0.25,
      halfHeight: 0.25,
      angle: 0,
      cloth: [
        [0.8, 0.8, 0.8],
        [0.8, 0.4, 0.3],
      ],
      coverage: 0.5,
      hand: [0, -0.38, 0],
      seed: 1,
    },
    view,
    lights,
  );
  const alpha = (x: number, y: number): number => picture.data[(y * 80 + x) * 4 + 3];
  expect(alpha(48, 34)).toBeGreaterThan(0.2);
  expect(alpha(48, 34)).toBeLessThan(0.85);
  expect(alpha(40, 30)).toBeGreaterThan(alpha(48, 34));
  expect(alpha(3, 3)).toBe(0);
  expect(picture.data.every((v) => v >= 0 && v < 2)).toBe(true);
});
