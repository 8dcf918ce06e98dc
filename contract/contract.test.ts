import { describe, expect, test } from 'vitest';
import { cutFrame, defaultRecipe } from '../core/cut/index.ts';
import {
  deliverySettingsSchema,
  doubtSchema,
  newShootSchema,
  placementSchema,
  qualitySchema,
  recipeFileSchema,
  recipeSchema,
  regionSchema,
} from './index.ts';

describe('recipe', () => {
  test('takes the defaults; refuses what is missing, unknown, or out of range', () => {
    expect(recipeSchema.parse(defaultRecipe)).toEqual(defaultRecipe);
    expect(recipeSchema.safeParse({ ...defaultRecipe, floor: undefined }).success).toBe(false);
    expect(recipeSchema.safeParse({ ...defaultRecipe, gamma: 1 }).success).toBe(false);
    const bounds = {
      floor: [0, 0.4],
      ceiling: [0.6, 1],
      hairReach: [0.2, 8],
      greenKeep: [0, 1],
      edge: [-3, 3],
      softness: [0, 4],
    };
    for (const [name, [least, most]] of Object.entries(bounds)) {
      for (const value of [least, most])
        expect(recipeSchema.safeParse({ ...defaultRecipe, [name]: value }).success, `${name} ${value}`).toBe(true);
      for (const value of [least - 0.01, most + 0.01, NaN, Infinity, '0.1', null])
        expect(recipeSchema.safeParse({ ...defaultRecipe, [name]: value }).success, `${name} ${value}`).toBe(false);
    }
  });
  test('a recipe file may leave settings out', () => {
    expect(recipeFileSchema.parse({ spill: 0.2 })).toEqual({ ...defaultRecipe, spill: 0.2 });
    expect(recipeFileSchema.parse({ spill: 0.2, bounce: 0.5 })).toEqual({ ...defaultRecipe, spill: 0.2 });
    expect(recipeFileSchema.safeParse({ splil: 0.2 }).success).toBe(false);
  });
});

test('what is judged of a cut, doubts and green patches too, goes over the line and comes back whole', () => {
  // A grey disc with a green badge, whose plate is noise: a frame with something to say.
  const [width, height] = [200, 240];
  const data = new Uint8Array(width * height * 3);
  for (let p = 0; p < width * height; p++) {
    const [x, y] = [(p % width) - 100, Math.floor(p / width) - 120];
    const badge = Math.hypot(x - 10, y) < 16;
    data.set(badge ? [40, 120, 60] : Math.hypot(x, y) < 70 ? [150, 150, 150] : [80, 178, 90], p * 3);
  }
  const frame = { width, height, channels: 3 as const, data };
  const plate = { ...frame, data: data.map((_, n) => (n * 7919) % 256) };
  const cut = cutFrame(frame, defaultRecipe, undefined, { plate });
  if (!cut.ok) throw new Error(cut.reason);
  const { quality } = cut;
  expect(quality.doubts.map(({ kind }) => kind)).toContain('plateUnlike');
  expect(qualitySchema.parse(JSON.parse(JSON.stringify(quality)))).toEqual(quality);
  expect(doubtSchema.safeParse({ kind: 'badMood', minutes: 1, places: [] }).success).toBe(false);
  expect(doubtSchema.safeParse({ ...quality.doubts[0], minutes: 'many' }).success).toBe(false);
});

test('requests are checked at the boundary', () => {
  expect(newShootSchema.safeParse({ name: '  ', date: '2026-06-13' }).success).toBe(false);
  expect(newShootSchema.safeParse({ name: 'A', date: '13.6.2026' }).success).toBe(false);
  expect(newShootSchema.parse({ name: ' A ', date: '2026-06-13' })).toEqual({
    name: 'A',
    date: '2026-06-13',
    place: '',
  });
  expect(placementSchema.safeParse({ backgroundId: 1, x: 0.5, y: 1, height: 0 }).success).toBe(false);
  expect(deliverySettingsSchema.safeParse({ cutout: 'none', finished: 'none', quality: 90 }).success).toBe(false);
  expect(regionSchema.safeParse({ view: 'matte', x: '0', y: '0', width: '99999', height: '10' }).success).toBe(false);
});
