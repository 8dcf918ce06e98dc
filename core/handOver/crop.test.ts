import { describe, expect, test } from 'vitest';
import { seededRandom } from '../random.ts';
import { clampCrop, cropCuts, cropHeight, enlargement, peopleIn, proposeCrop, type People } from './crop.ts';

const picture = { width: 3000, height: 2000 };
const portrait = { width: 130, height: 180 };
const head: People = {
  box: { x: 0.4, y: 0.2, width: 0.2, height: 0.8 },
  eyes: { top: 0.3, bottom: 0.3 },
  chin: 0.36,
  hands: [],
};

describe('a proposed crop', () => {
  test('has its shape, lies within the picture, has the person in its middle, and head room', () => {
    const crop = proposeCrop(head, portrait, picture);
    const height = cropHeight(crop, portrait, picture);
    expect((crop.width * picture.width) / (height * picture.height)).toBeCloseTo(130 / 180, 3);
    expect(crop.x + crop.width / 2).toBeCloseTo(0.5, 6);
    expect(crop.y).toBeLessThan(head.box.y);
    expect(cropCuts(head, crop, portrait, picture)).toEqual([]);
  });

  test('goes to the side with whoever stands there, but not out of the picture', () => {
    const aside = { ...head, box: { ...head.box, x: 0.8 } };
    const crop = proposeCrop(aside, portrait, picture);
    expect(crop.x + crop.width).toBe(1);
  });

  test('of a wide shape has the eyes above its middle and never cuts the head', () => {
    const tall = { width: 2000, height: 3000 };
    const wide = { width: 180, height: 130 };
    const crop = proposeCrop(
      { ...head, box: { x: 0.2, y: 0.3, width: 0.6, height: 0.7 }, eyes: { top: 0.4, bottom: 0.4 } },
      wide,
      tall,
    );
    const height = cropHeight(crop, wide, tall);
    expect((0.4 - crop.y) / height).toBeLessThan(0.5);
    expect(crop.y).toBeLessThan(0.3);
  });

  test('whatever the people and shapes, lies within the picture (seeded)', () => {
    const random = seededRandom(5);
    for (let n = 0; n < 500; n++) {
      const shape = { width: 20 + 300 * random(), height: 20 + 300 * random() };
      const size = { width: Math.round(50 + 4000 * random()), height: Math.round(50 + 4000 * random()) };
      const [x, y] = [random(), random()];
      const box = { x, y, width: (1 - x) * random(), height: (1 - y) * random() };
      const eyes = random() < 0.5 ? null : { top: y, bottom: y + box.height / 2 };
      const crop = proposeCrop(random() < 0.1 ? null : { box, eyes, chin: 0, hands: [] }, shape, size);
      expect(crop.x).toBeGreaterThanOrEqual(0);
      expect(crop.y).toBeGreaterThanOrEqual(0);
      expect(crop.x + crop.width).toBeLessThanOrEqual(1 + 1e-9);
      expect(crop.y + cropHeight(crop, shape, size)).toBeLessThanOrEqual(1 + 1e-9);
    }
  });
});

describe('a hand at the lower edge of a crop', () => {
  const tall = { width: 2000, height: 3000 };
  const wide = { width: 180, height: 130 };
  const person = { ...head, box: { x: 0.2, y: 0.1, width: 0.6, height: 0.9 }, eyes: { top: 0.2, bottom: 0.2 } };
  const at = (y: number): People => ({ ...person, hands: [{ x: 0.4, y, width: 0.1, height: 0.06 }] });
  const bottom = (people: People): number => {
    const crop = proposeCrop(people, wide, tall);
    expect(cropCuts(people, crop, wide, tall)).not.toContain('through a hand');
    return crop.y + cropHeight(crop, wide, tall);
  };
  const plain = proposeCrop(person, wide, tall);
  const edge = plain.y + cropHeight(plain, wide, tall);

  test('is taken in where that is a little lower, and left out where it is not', () => {
    expect(bottom(at(edge - 0.04))).toBeGreaterThan(edge + 0.02);
    expect(bottom(at(edge - 0.005))).toBeLessThan(edge - 0.005);
    expect(bottom(at(edge + 0.01))).toBeCloseTo(edge, 9);
  });

  test('that cannot be spared is said', () => {
    const hands = [0.15, 0.25, 0.35, 0.45].map((y) => ({ x: 0.4, y: y + edge - 0.48, width: 0.1, height: 0.11 }));
    const people = { ...person, hands };
    expect(cropCuts(people, proposeCrop(people, wide, tall), wide, tall)).toContain('through a hand');
  });
});

test('a crop through somebody names the sides, one that has too few pixels its largest good width', () => {
  const right = clampCrop({ x: 0.5, y: 0, width: 0.3 }, portrait, picture);
  expect(cropCuts(head, right, portrait, picture)).toContain('left');
  const below = clampCrop({ x: 0.2, y: 0.34, width: 0.3 }, portrait, picture);
  expect(cropCuts(head, below, portrait, picture)).toContain('above');
  const { times, goodWidth } = enlargement({ x: 0, y: 0, width: 0.25 }, { ...portrait, resolution: 300 }, picture);
  expect(goodWidth).toBeCloseTo(63.5, 1);
  expect(times).toBeCloseTo(130 / 63.5, 2);
});

test('people stand in the picture where their cuts are placed, mirrored ones on the other side', () => {
  const cut = { width: 1000, height: 1500 };
  const standing = {
    cut,
    extent: { x: 0.1, y: 0.2, width: 0.3, height: 0.8 },
    hands: [{ x: 0.1, y: 0.6, width: 0.05, height: 0.1 }],
    faces: [{ x: 0.2, y: 0.25, width: 0.1, height: 0.1, eyesX: 0.25, eyesY: 0.28, sure: 1 }],
    placement: { x: 0.5, y: 1, height: 1 },
    mirrored: false,
  };
  const size = { width: 3000, height: 1500 };
  const people = peopleIn([standing], size);
  expect(people?.box.x).toBeCloseTo((1000 + 100) / 3000, 6);
  expect(people?.box.y).toBeCloseTo(0.2, 6);
  expect(people?.eyes?.top).toBeCloseTo(0.28, 6);
  expect(people?.hands[0].x).toBeCloseTo((1000 + 100) / 3000, 6);
  expect(people?.hands[0].height).toBeCloseTo(0.1, 6);
  const other = peopleIn([{ ...standing, mirrored: true }], size);
  expect(other?.box.x).toBeCloseTo((1000 + 600) / 3000, 6);
  expect(peopleIn([], size)).toBeNull();
});
