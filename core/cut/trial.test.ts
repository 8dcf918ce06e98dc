import { expect, test } from 'vitest';
import { reducedCopy } from '../image/reduce.ts';
import { demoFrames, demoShot, takeFrame } from '../studio/index.ts';
import { defaultRecipe, noGuidance, type Order, type Recipe } from './index.ts';
import { compareOrders } from './trial.ts';

/** What another recipe makes of a frame. */

const { plan, shot } = demoShot(demoFrames[0], 480);
const taken = takeFrame(plan, shot).frame;
const frame = { ...taken, data: Uint8Array.from(taken.data, (v) => v / 257) };
const by = (part: Partial<Recipe>): Order => ({
  recipe: { ...defaultRecipe, ...part },
  guidance: noGuidance,
  plate: null,
});
const compared = (a: Order, b: Order) => compareOrders(frame, {}, [a, b], new Map(), frame.width);

test('the same recipe changes nothing', () => {
  expect(compared(by({}), by({}))).toMatchObject({ changed: 0 });
});

test('a recipe that eats the hair changes some of the person, and back again as much', () => {
  const [there, back] = [
    compared(by({}), by({ floor: 0.4, edge: -2 })),
    compared(by({ floor: 0.4, edge: -2 }), by({})),
  ];
  expect(there?.changed).toBeGreaterThan(0.01);
  expect(there?.changed).toBeLessThan(0.6);
  expect(back).toEqual({ before: there?.after, after: there?.before, changed: there?.changed });
});

test('leaving all spill costs minutes and is seen where the screen’s light fell', () => {
  const one = compared(by({ spill: 1 }), by({ spill: 0 }));
  expect(one?.after).toBeGreaterThanOrEqual(one?.before ?? 0);
  expect(one?.changed).toBeGreaterThan(0);
});

test('lengths are those of the file', () => {
  const small = reducedCopy(frame, 2) as typeof frame;
  const moved = [by({}), by({ edge: -3 })] as const;
  const as = (fileWidth: number) => compareOrders(small, {}, moved, new Map(), fileWidth)?.changed ?? 0;
  expect(as(frame.width)).toBeLessThan(as(small.width));
});

test('without a screen there is nothing to compare', () => {
  const grey = { width: 40, height: 40, channels: 3 as const, data: new Uint8Array(4800).fill(120) };
  expect(compareOrders(grey, {}, [by({}), by({ spill: 0 })], new Map(), 40)).toBeUndefined();
});
