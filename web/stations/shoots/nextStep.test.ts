import { expect, test } from 'vitest';
import type { Shoot } from '../../../contract/index.ts';
import { someShoot } from '../../../contract/testing/items.ts';
import { nextStep } from './nextStep.ts';

const shoot = someShoot();

test('the path through a shoot, one step at a time', () => {
  const after = (part: Partial<Shoot>): string => nextStep({ ...shoot, ...part }, 3).path;
  expect(after({})).toBe('plan');
  expect(after({ plans: 1 })).toBe('check');
  expect(after({ plans: 1, rounds: 1, signed: 1 })).toBe('gather');
  expect(after({ frames: 9 })).toBe('extract');
  expect(after({ frames: 9, cut: 9, placed: 4 })).toBe('place');
  expect(after({ frames: 9, cut: 9, placed: 9 })).toBe('hand-over');
  expect(after({ frames: 9, cut: 9, placed: 9, handedOver: 1 })).toBe('extract');
});

test('each step says what it costs, as far as that is known', () => {
  const frames = { ...shoot, frames: 200, cut: 80 };
  expect(nextStep(frames, 3)).toMatchObject({ words: 'Extract 120 frames', cost: '6 min unattended' });
  expect(nextStep(frames, null).cost).toBe('unattended');
  expect(nextStep({ ...shoot, frames: 1, cut: 1 }, 3)).toMatchObject({
    words: 'Choose one background',
    cost: 'about 1 min',
  });
});
