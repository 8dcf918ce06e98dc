import { expect, test } from 'vitest';
import type { Frame, OrderItem, Setup } from '../../../contract/index.ts';
import { defaultRecipe } from '../../../core/cut/recipe.ts';
import { previewOrder, staleFrames } from './wanted.ts';

const frame = (id: number, part: Partial<Frame> = {}): Frame => ({
  id,
  setupId: 1,
  name: `F${id}.jpg`,
  width: 40,
  height: 60,
  depth: 8,
  bytes: 1,
  takenAt: null,
  subject: '',
  guidance: { masks: [], verdicts: [] },
  cut: null,
  job: null,
  placement: null,
  picture: `p${id}`,
  revision: 1,
  ...part,
});
const cutBy = (fingerprint: string): Pick<Frame, 'cut'> => ({
  cut: { version: 'v', quality: {} as never, fingerprint },
});
const order = (id: number, wanted: string | null): OrderItem => ({ id, wanted, revision: 1 });
const setup: Setup = {
  id: 1,
  shootId: 1,
  name: 'Tent',
  recipe: defaultRecipe,
  masks: [],
  plateFrameId: 9,
  revision: 1,
};

test('stale is what is new, failed, or made with something else; a plate never is', () => {
  const failed = { job: { state: 'failed' as const, problem: null } };
  const frames = [
    frame(1, cutBy('a')),
    frame(2, cutBy('b')),
    frame(3),
    frame(4, { ...cutBy('a'), ...failed }),
    frame(9, failed),
    frame(10),
  ];
  const orders = [order(1, 'a'), order(2, 'a'), order(3, 'a'), order(4, 'a'), order(9, null)];
  expect(staleFrames(frames, orders).map(({ id }) => id)).toEqual([2, 3, 4, 10]);
});

test('a preview takes the setup’s plate, and shows the plate itself without one', () => {
  const all = [frame(1), frame(9)];
  expect(previewOrder(all[0], setup, all).plate).toBe('p9');
  expect(previewOrder(all[1], setup, all).plate).toBeNull();
});
