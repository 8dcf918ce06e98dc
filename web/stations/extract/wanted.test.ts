import { expect, test } from 'vitest';
import type { Frame, OrderItem } from '../../../contract/index.ts';
import { someCut, someFrame, someSetup } from '../../../contract/testing/items.ts';
import { previewOrder, staleFrames } from './wanted.ts';

const cutBy = (fingerprint: string): Pick<Frame, 'cut'> => someCut({}, fingerprint);
const order = (id: number, wanted: string | null): OrderItem => ({ id, wanted, revision: 1 });
const setup = someSetup({ plateFrameId: 9 });

test('stale is what is new, failed, or made with something else; a plate never is', () => {
  const failed = { job: { state: 'failed' as const, problem: null } };
  const frames = [
    someFrame(1, cutBy('a')),
    someFrame(2, cutBy('b')),
    someFrame(3),
    someFrame(4, { ...cutBy('a'), ...failed }),
    someFrame(9, failed),
    someFrame(10),
  ];
  const orders = [order(1, 'a'), order(2, 'a'), order(3, 'a'), order(4, 'a'), order(9, null)];
  expect(staleFrames(frames, orders).map(({ id }) => id)).toEqual([2, 3, 4, 10]);
});

test('a preview takes the setup’s plate, and shows the plate itself without one', () => {
  const all = [someFrame(1), someFrame(9)];
  expect(previewOrder(all[0], setup, all).plate).toBe('p9');
  expect(previewOrder(all[1], setup, all).plate).toBeNull();
});
