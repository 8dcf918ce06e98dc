import { describe, expect, test } from 'vitest';
import { createPlane, type Plane } from '../image/raster.ts';
import { facingsOf } from './facings.ts';
import { inflated } from './inflated.ts';

function covered(width: number, height: number, inside: (x: number, y: number) => boolean): Plane {
  const out = createPlane(width, height);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) out.data[p] = inside(x + 0.5, y + 0.5) ? 1 : 0;
  return out;
}
const [WIDTH, HEIGHT, R] = [240, 320, 60];
const pole = covered(WIDTH, HEIGHT, (x) => Math.abs(x - 120) < R);
const disc = covered(WIDTH, HEIGHT, (x, y) => Math.hypot(x - 120, y - 160) < R);
const at = ({ width, data }: Plane, x: number, y: number): number => data[y * width + x];

describe('something round of an outline', () => {
  test('rises from nothing at the outline as a round pole does, also where it goes on beyond the picture', () => {
    const surface = inflated(pole);
    for (const y of [0, 160, 319])
      for (const x of [80, 100, 120, 150]) {
        // A pole stands out by √(R² − x²); how far it is stretched is the same everywhere.
        const round = at(surface, x, y) / (R * R - (x + 0.5 - 120) ** 2);
        expect(round / (at(surface, 120, 160) / (R * R)), `${x}, ${y}`).toBeCloseTo(1, 1);
      }
    expect(at(surface, 40, 160)).toBe(0);
  });
  test('the same on another number of places', () => {
    const half = inflated(covered(WIDTH / 2, HEIGHT / 2, (x, y) => Math.hypot(x - 60, y - 80) < R / 2));
    const whole = inflated(disc);
    for (const [x, y] of [
      [50, 80],
      [60, 70],
      [75, 85],
    ])
      expect((4 * at(half, x, y)) / at(whole, 2 * x, 2 * y)).toBeCloseTo(1, 1);
  });
});

describe('which way places face', () => {
  test('outwards on both sides and above, more the nearer the outline, and towards the camera in the middle', () => {
    const { right, up } = facingsOf(disc);
    expect(Math.abs(at(right, 120, 160))).toBeLessThan(0.03);
    expect(Math.abs(at(up, 120, 160))).toBeLessThan(0.03);
    const across = [125, 140, 155, 170].map((x) => at(right, x, 160));
    expect(across).toEqual([...across].sort((a, b) => a - b));
    expect(across[3]).toBeGreaterThan(0.5);
    expect(at(right, 69, 160)).toBeCloseTo(-across[3], 1);
    expect(at(up, 120, 110)).toBeGreaterThan(0.5);
    expect(at(up, 120, 210)).toBeLessThan(-0.5);
  });
  test('is a direction, and outside of the outline that of the nearest inside', () => {
    const { right, up } = facingsOf(pole);
    const most = right.data.reduce((long, x, p) => Math.max(long, Math.hypot(x, up.data[p])), 0);
    expect(most).toBeLessThanOrEqual(0.951);
    expect(at(right, 185, 160)).toBeGreaterThan(0.5);
    expect(at(right, 55, 160)).toBeLessThan(-0.5);
    const nobody = facingsOf(createPlane(60, 80));
    expect(nobody.right.data.every((x) => x === 0)).toBe(true);
  });
});
