import { describe, expect, test } from 'vitest';
import { FACE_METRES, type Face } from '../persons/faces.ts';
import { placedRectangle } from './placement.ts';
import { facedLike, figureOf, onHorizon, scaledByGround } from './scene.ts';

/** Standing by the horizon and by faces. */

const cut = { width: 1600, height: 2400 };
const background = { width: 1800, height: 2400 };
const face = (part: Partial<Face> = {}): Face => ({
  x: 0.4,
  y: 0.2,
  width: 0.2,
  height: 0.1,
  eyesX: 0.5,
  eyesY: 0.23,
  sure: 0.9,
  ...part,
});
const horizon = 0.45;
const camera = 1.5;

/** A camera that looks straight ahead sees a place so many metres away and above the ground here, in heights. */
function seen(focal: number, metresAway: number, above: number): number {
  return horizon + (focal * (camera - above)) / metresAway;
}

describe('by the horizon', () => {
  const eyesHigh = 1.58;
  test('whoever is put on the ground stands as a camera at that height would see them, at any distance', () => {
    const metre = 0.1 / FACE_METRES;
    for (const away of [2, 3.5, 6, 14]) {
      const focal = 1.3;
      // The frame so large that a metre at the person is a metre at that distance.
      const height = focal / away / metre;
      const figure = figureOf(cut, [face()], 0.1, null, eyesHigh);
      if (!figure) throw new Error('no figure');
      const placed = onHorizon(figure, horizon, camera, eyesHigh, { x: 0.5, y: 1, height });
      const eyesAt = placed.y - (1 - 0.23) * placed.height;
      expect(eyesAt).toBeCloseTo(seen(focal, away, eyesHigh), 6);
    }
  });

  test('feet on the ground: the scale follows within 2 %', () => {
    const top = 0.05;
    const feet = 0.95;
    const figure = figureOf(cut, [face({ eyesY: 0.1 })], top, feet, eyesHigh);
    if (!figure) throw new Error('no figure');
    for (const away of [3, 5, 9, 20]) {
      const focal = 1.3;
      const ground = seen(focal, away, 0);
      const from = { x: 0.5, y: ground + (1 - feet) * 0.6, height: 0.6 };
      const placed = scaledByGround(figure, horizon, camera, from);
      if (!placed) throw new Error('not scaled');
      const headAt = placed.y - (1 - top) * placed.height;
      const tall = ground - headAt;
      expect(tall / ((focal * 1.7) / away)).toBeGreaterThan(0.98);
      expect(tall / ((focal * 1.7) / away)).toBeLessThan(1.02);
      expect(placed.y - (1 - feet) * placed.height, 'the feet stay').toBeCloseTo(ground);
    }
  });

  test('nobody stands above the horizon, and whose feet are not in the frame is not scaled by them', () => {
    const standing = figureOf(cut, [face()], 0.05, 0.95, eyesHigh);
    const half = figureOf(cut, [face()], 0.05, null, eyesHigh);
    if (!standing || !half) throw new Error('no figure');
    expect(scaledByGround(standing, horizon, camera, { x: 0.5, y: 0.4, height: 0.3 })).toBeUndefined();
    expect(scaledByGround(half, horizon, camera, { x: 0.5, y: 1, height: 0.9 })).toBeUndefined();
    expect(figureOf(cut, [], 0.05, 0.95, eyesHigh)).toBeUndefined();
  });
});

describe('by faces', () => {
  const like = { cut, faces: [face()], placement: { x: 0.5, y: 1, height: 0.9 } };
  const eyesOf = (of: Face, size: typeof cut, placement: { x: number; y: number; height: number }) => {
    const { left, top, width, height } = placedRectangle(size, background, placement);
    return { x: left + of.eyesX * width, y: top + of.eyesY * height, high: of.height * height };
  };

  test('heads become as large and eyes lie at the same place, whatever the frame', () => {
    const other = { width: 2400, height: 1600 };
    const theirs = face({ eyesX: 0.3, eyesY: 0.4, height: 0.22 });
    const at = { x: 0.4, y: 1.1, height: 0.6 };
    const placed = facedLike(like, other, [theirs], background, at, 'heads');
    if (!placed) throw new Error('not placed');
    const wanted = eyesOf(like.faces[0], cut, like.placement);
    const got = eyesOf(theirs, other, placed);
    expect(got.x).toBeCloseTo(wanted.x, 4);
    expect(got.y).toBeCloseTo(wanted.y, 4);
    expect(got.high).toBeCloseTo(wanted.high, 4);
  });

  test('by the eyes’ height alone the scale stays', () => {
    const theirs = face({ eyesY: 0.4, height: 0.22 });
    const at = { x: 0.4, y: 1.1, height: 0.6 };
    const placed = facedLike(like, cut, [theirs], background, at, 'eyes');
    expect(placed).toMatchObject({ x: 0.4, height: 0.6 });
    if (placed) expect(eyesOf(theirs, cut, placed).y).toBeCloseTo(eyesOf(like.faces[0], cut, like.placement).y, 4);
  });

  test('a group is no larger than leaves it whole; without faces there is no such place', () => {
    const group = [face({ eyesX: 0.2, height: 0.05 }), face({ eyesX: 0.8, height: 0.05 })];
    const at = { x: 0.5, y: 1, height: 0.7 };
    expect(facedLike(like, cut, group, background, at, 'heads')?.height).toBe(0.7);
    expect(facedLike(like, cut, [], background, at, 'heads')).toBeUndefined();
  });
});
