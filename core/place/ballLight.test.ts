import { describe, expect, test } from 'vitest';
import {
  fitBallLight,
  frontRatio,
  lightAt,
  mirroredLight,
  turnRatio,
  type BallLight,
  type Facing,
} from './ballLight.ts';
import { matchOf, plainLook, type Look, type Measured, type Tones } from './index.ts';

/** Light read from a matt ball, and carried from one place to another. */

const facings: Facing[] = [];
for (let y = -0.9; y <= 0.9; y += 0.1)
  for (let x = -0.9; x <= 0.9; x += 0.1)
    if (x * x + y * y < 0.9) facings.push({ x, y, z: Math.sqrt(1 - x * x - y * y) });

/** What a matt ball shows under one light and an even one. */
function under(direction: [number, number, number], colour: number[], ambient: number[]): BallLight {
  const length = Math.hypot(...direction);
  const [dx, dy, dz] = direction.map((v) => v / length);
  const light = fitBallLight(
    facings,
    facings.map(({ x, y, z }) => colour.map((v, c) => ambient[c] + v * Math.max(0, x * dx + y * dy + z * dz))),
  );
  if (!light) throw new Error('too few samples');
  return light;
}
const front = { x: 0, y: 0, z: 1 };
const right = { x: 0.8, y: 0, z: 0.6 };
const left = { x: -0.8, y: 0, z: 0.6 };
const even = under([0, 0, 1], [0, 0, 0], [0.4, 0.4, 0.4]);
const fromRight = under([1, 0.5, 1], [0.6, 0.5, 0.4], [0.1, 0.1, 0.12]);

describe('a fit', () => {
  test('gives back the light of a ball within a tenth of the main light, wherever it faces the camera', () => {
    const [dx, dy, dz] = [1, 0.5, 1].map((v) => v / 1.5);
    for (const facing of facings.filter(({ z }) => z > 0.4)) {
      const true0 = 0.1 + 0.6 * Math.max(0, facing.x * dx + facing.y * dy + facing.z * dz);
      expect(Math.abs(lightAt(fromRight, facing)[0] - true0)).toBeLessThan(0.065);
    }
  });

  test('of an even light is even; of too few samples there is none', () => {
    for (const facing of [front, right, left]) lightAt(even, facing).forEach((v) => expect(v).toBeCloseTo(0.4, 2));
    expect(fitBallLight(facings.slice(0, 6), [])).toBeUndefined();
  });

  test('never says that a side gets no light at all', () => {
    const hard = under([1, 0, 0.2], [1, 1, 1], [0, 0, 0]);
    for (const facing of facings) expect(Math.min(...lightAt(hard, facing))).toBeGreaterThan(0);
  });
});

describe('from one light to another', () => {
  test('there and back is nothing; the same light changes nothing', () => {
    const there = frontRatio(even, fromRight);
    const back = frontRatio(fromRight, even);
    expect(there.stops).toBeCloseTo(-back.stops, 6);
    expect(frontRatio(fromRight, fromRight)).toMatchObject({ stops: 0 });
    expect(turnRatio(fromRight, fromRight, right)).toEqual([1, 1, 1]);
  });

  test('the side of the new light gains, the other loses, by no more than is stated', () => {
    expect(turnRatio(even, fromRight, right)[0]).toBeGreaterThan(1.1);
    expect(turnRatio(even, fromRight, left)[0]).toBeLessThan(0.7);
    for (const facing of facings)
      for (const v of turnRatio(even, under([1, 0, 0.1], [1, 1, 1], [0.01, 0.01, 0.01]), facing)) {
        expect(v).toBeLessThanOrEqual(3);
        expect(v).toBeGreaterThanOrEqual(1 / 3);
      }
  });

  test('a mirrored light comes from the other side', () => {
    const other = mirroredLight(fromRight);
    lightAt(other, left).forEach((v, c) => expect(v).toBeCloseTo(lightAt(fromRight, right)[c]));
    expect(mirroredLight(other)).toEqual(fromRight);
  });
});

describe('a match with balls', () => {
  const tones: Tones = {
    black: [0.01, 0.01, 0.01],
    middle: [0.2, 0.2, 0.2],
    white: [0.6, 0.6, 0.6],
    level: 0.2,
    light: [1, 1, 1],
    saturation: 0.3,
    blur: 0.7,
    grain: 0,
    side: 0,
  };
  const size = { width: 60, height: 90 };
  const measured: Measured = { person: tones, scene: tones, cut: size, background: size, lightFrom: 1 };
  const look: Look = { ...plainLook, toLevel: 1, toTint: 1, toSide: 1, toBlacks: 1 };
  const at = { x: 0.5, y: 1, height: 1 };

  test('takes brightness and side from them and not from guesses; the blacks follow', () => {
    const dim = under([0, 0, 1], [0, 0, 0], [0.1, 0.1, 0.1]);
    const { proposed, turn, relight } = matchOf({ ...measured, balls: { person: even, scene: dim } }, look, at);
    expect(proposed.exposure).toBeCloseTo(-2, 2);
    expect(proposed.lift).toBe(0);
    expect(turn).toBe(0);
    expect(relight?.strength).toBe(1);
    expect(matchOf(measured, look, at).relight).toBeUndefined();
  });

  test('turns skin further than a guess may, but no further than is stated', () => {
    const lamp = under([0, 0, 1], [0.05, 0.5, 0.3], [0.01, 0.03, 0.03]);
    const { proposed } = matchOf({ ...measured, balls: { person: even, scene: lamp } }, look, at);
    expect(proposed.skinTurn).toBeGreaterThan(10);
    expect(proposed.skinTurn).toBeLessThanOrEqual(20.01);
  });
});
