import { describe, expect, test } from 'vitest';
import { seededRandom } from '../random.ts';
import { distanceOf, focalInPixels, lensByLines, tiltOf, type Line, type Lens } from './lens.ts';
import { plainLook } from './look.ts';
import { markedAt } from './reframed.ts';

const size = { width: 3000, height: 2000 };

/** A camera that looks down by some degrees: where places of the scene (right, up, away; metres) lie in its picture. */
function camera(focal: number, down: number) {
  const f = focalInPixels(focal, size);
  const [sin, cos] = [Math.sin((down * Math.PI) / 180), Math.cos((down * Math.PI) / 180)];
  const see = (x: number, y: number, z: number) => {
    const [up, away] = [y * cos + z * sin, z * cos - y * sin];
    return { x: 0.5 + (f * x) / away / size.width, y: 0.5 - (f * up) / away / size.height };
  };
  return {
    horizon: 0.5 - (f * Math.tan((down * Math.PI) / 180)) / size.height,
    away: [-1.2, 2].map((x): Line => [see(x, -1.5, 3), see(x, -1.5, 12)]) as unknown as readonly [Line, Line],
    up: [-2, 1.5].map((x): Line => [see(x, -1.5, 6), see(x, 1.5, 6)]) as unknown as readonly [Line, Line],
  };
}
const told = (lens: ReturnType<typeof lensByLines>): Lens => {
  if ('refused' in lens) throw new Error(lens.refused);
  return lens;
};
const nothing = { horizon: null, focal: null };

describe('lines of a scene', () => {
  test('tell horizon, focal length and tilt of cameras of every kind within a fiftieth', () => {
    const random = seededRandom(3);
    for (let n = 0; n < 200; n++) {
      const focal = 18 + 80 * random();
      const down = (random() < 0.5 ? -1 : 1) * (3 + 15 * random());
      const { horizon, away, up } = camera(focal, down);
      const first = told(lensByLines('away', away, plainLook, size, nothing));
      expect(first.horizon).toBeCloseTo(horizon, 6);
      expect(first.focal).toBeNull();
      const second = told(lensByLines('up', up, plainLook, size, { ...nothing, horizon }));
      expect((second.focal ?? 0) / focal).toBeCloseTo(1, 2);
      expect(tiltOf(second.horizon, second.focal ?? 1, size)).toBeCloseTo(down, 1);
      expect(told(lensByLines('up', up, plainLook, size, { ...nothing, focal })).horizon).toBeCloseTo(horizon, 6);
    }
  });

  test('are drawn in a part of the background that is shown turned, and tell of the whole', () => {
    const { horizon, away } = camera(35, 8);
    const look = { ...plainLook, behindZoom: 1.5, behindDown: 0.6, behindAcross: -0.4 };
    const seen = (line: Line): Line =>
      line.map(({ x, y }) => {
        // As `reframed` shows it.
        const part = { x: 0.5 - 0.4 * (1 - 1 / 1.5) * 0.5, y: 0.5 + 0.6 * (1 - 1 / 1.5) * 0.5 };
        return { x: 0.5 + (x - part.x) * 1.5, y: 0.5 + (y - part.y) * 1.5 };
      }) as unknown as Line;
    const lens = told(lensByLines('away', [seen(away[0]), seen(away[1])], look, size, nothing));
    expect(lens.horizon).toBeCloseTo(horizon, 6);
    expect(markedAt(look, size, 0.5)).toBeCloseTo(0.6, 6);
  });

  test('that tell nothing say why', () => {
    const level = camera(35, 0);
    const beside: Line = [
      { x: 0.2, y: 0.4 },
      { x: 0.8, y: 0.4 },
    ];
    const below: Line = [
      { x: 0.2, y: 0.6 },
      { x: 0.8, y: 0.6 },
    ];
    expect(lensByLines('away', [beside, below], plainLook, size, nothing)).toHaveProperty('refused');
    expect(lensByLines('up', level.up, plainLook, size, nothing)).toHaveProperty('refused');
    // Looked straight ahead, uprights stay upright.
    expect(told(lensByLines('up', level.up, plainLook, size, { horizon: null, focal: 35 })).horizon).toBe(0.5);
    const down = camera(35, 10);
    expect(lensByLines('up', down.up, plainLook, size, { horizon: 0.5, focal: null })).toHaveProperty('refused');
    expect(lensByLines('up', down.up, plainLook, size, { horizon: 0.8, focal: null })).toHaveProperty('refused');
  });
});

test('somebody of whom a metre takes as many pixels as the focal length stands a metre away', () => {
  expect(distanceOf(50, size, focalInPixels(50, size))).toBe(1);
  expect(distanceOf(50, size, focalInPixels(50, size) / 4)).toBe(4);
});
