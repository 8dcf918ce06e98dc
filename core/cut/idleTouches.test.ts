import { expect, test } from 'vitest';
import { demoFrames, demoShot, takeFrame } from '../studio/index.ts';
import type { Path, Touch, TouchKind } from '../touch/touch.ts';
import { idleTouches } from './idleTouches.ts';
import { defaultRecipe, noGuidance, type Recipe } from './index.ts';
import { StagedCut } from './stagedCut.ts';

const { plan, shot } = demoShot(demoFrames[1], 360);
const { frame } = takeFrame(plan, shot);
const square = (left: number, top: number, side = 0.05): Path => ({
  closed: true,
  points: [
    [0, 0],
    [side, 0],
    [side, side],
    [0, side],
  ].map(([x, y]) => ({ x: left + x, y: top + y, pressure: 1 })),
});
/** Inside the body, around that, and in a corner of the screen. */
const paths = new Map([
  ['body', square(0.47, 0.7)],
  ['around', square(0.44, 0.67, 0.11)],
  ['screen', square(0.03, 0.05)],
]);
const touch = (id: string, kind: TouchKind, path: string): Touch => ({
  id,
  kind,
  path,
  at: 1,
  size: 0.01,
  softness: 0,
  strength: 1,
  on: true,
});
const idle = (touches: Touch[], id: string, recipe: Recipe = defaultRecipe): boolean =>
  idleTouches(new StagedCut(frame, {}, 1), recipe, { ...noGuidance, touches }, paths, [id]).includes(id);

test('a touch that changes something is needed; one that takes away what is not there changes nothing', () => {
  expect(idle([touch('a', 'take', 'body')], 'a')).toBe(false);
  expect(idle([touch('a', 'add', 'screen')], 'a')).toBe(false);
  expect(idle([touch('a', 'take', 'screen')], 'a')).toBe(true);
  expect(idle([touch('a', 'add', 'body')], 'a')).toBe(true);
});

test('one that a later one undoes could go, and that one then too', () => {
  const undone = [touch('a', 'take', 'body'), { ...touch('b', 'add', 'around'), at: 2 }];
  expect(idle(undone, 'a')).toBe(true);
  expect(idle(undone, 'b')).toBe(false);
  expect(idle(undone.slice(1), 'b')).toBe(true);
});

test('of all at once each is judged by itself; what is switched off is not asked about', () => {
  const touches = [
    touch('a', 'take', 'screen'),
    touch('b', 'take', 'body'),
    { ...touch('c', 'take', 'screen'), on: false },
    touch('d', 'add', 'around'),
  ];
  const staged = new StagedCut(frame, {}, 1);
  expect(idleTouches(staged, defaultRecipe, { ...noGuidance, touches }, paths)).toEqual(['a', 'b']);
  expect(idleTouches(staged, defaultRecipe, noGuidance, paths)).toEqual([]);
});

test('what a change of settings has made good needs no touch any more', () => {
  const touches = [touch('a', 'take', 'screen')];
  const grey = { ...defaultRecipe, method: 'distance' as const, keyFrom: 0, keyTo: 0.02 };
  expect([idle(touches, 'a', grey), idle(touches, 'a')]).toEqual([false, true]);
});
