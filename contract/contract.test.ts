import { describe, expect, test } from 'vitest';
import { defaultRecipe, recipeSettings } from '../core/cut/index.ts';
import { doubtFacts } from '../core/cut/doubts.ts';
import {
  deliverySettingsSchema,
  doubtSchema,
  newShootSchema,
  placementSchema,
  recipeFileSchema,
  recipeSchema,
  regionSchema,
} from './index.ts';

describe('recipe', () => {
  test('takes the defaults; refuses what is missing, unknown, or out of range', () => {
    expect(recipeSchema.parse(defaultRecipe)).toEqual(defaultRecipe);
    expect(recipeSchema.safeParse({ ...defaultRecipe, floor: undefined }).success).toBe(false);
    expect(recipeSchema.safeParse({ ...defaultRecipe, gamma: 1 }).success).toBe(false);
    for (const [name, { min, max }] of Object.entries(recipeSettings)) {
      for (const value of [min - 0.001, max + 0.001, NaN, Infinity, '0.1', null])
        expect(recipeSchema.safeParse({ ...defaultRecipe, [name]: value }).success, `${name} ${value}`).toBe(false);
    }
  });
  test('a recipe file may leave settings out', () => {
    expect(recipeFileSchema.parse({ spill: 0.2 })).toEqual({ ...defaultRecipe, spill: 0.2 });
    expect(recipeFileSchema.safeParse({ splil: 0.2 }).success).toBe(false);
  });
});

test('every kind of doubt that core knows can be sent', () => {
  for (const kind of Object.keys(doubtFacts))
    expect(doubtSchema.safeParse({ kind, minutes: 1, places: [] }).success).toBe(true);
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
