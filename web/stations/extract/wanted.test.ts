import { expect, test } from 'vitest';
import type { Frame, OrderItem } from '../../../contract/index.ts';
import { someCut, someFrame, someSetup } from '../../../contract/testing/items.ts';
import { noReview } from '../../../core/touch/review.ts';
import { olderFrames, previewOrder, staleFrames } from './wanted.ts';

const cutBy = (fingerprint: string): Pick<Frame, 'cut'> => someCut({}, fingerprint);
const order = (id: number, wanted: string | null): OrderItem => ({ id, wanted, revision: 1 });
const setup = someSetup();

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

test('older is what an earlier version cut as wanted, unless it was accepted or is cut anew anyway', () => {
  const accepted = { review: { ...noReview, state: 'accepted' as const, of: 'a' } };
  const frames = [
    someFrame(1, someCut({}, 'a', 0)),
    someFrame(2, someCut({}, 'a')),
    someFrame(3, { ...someCut({}, 'a', 0), ...accepted }),
    someFrame(4, someCut({}, 'b', 0)),
    someFrame(5),
  ];
  const stale = staleFrames(
    frames,
    frames.map(({ id }) => order(id, 'a')),
  );
  expect(stale.map(({ id }) => id)).toEqual([4, 5]);
  expect(olderFrames(frames, stale).map(({ id }) => id)).toEqual([1]);
});

test('a preview takes the setup’s plate, and shows the plate itself without one', () => {
  const all = [someFrame(1), someFrame(9, { plate: true })];
  expect(previewOrder(all[0], setup, all).plate).toBe('p9');
  expect(previewOrder(all[1], setup, all).plate).toBeNull();
});

test('of several plates the one taken nearest to the frame is under it, by the clocks as they were set', () => {
  const at = (takenAt: string) => ({ takenAt: `2026-06-13T${takenAt}` });
  const all = [
    someFrame(1, at('10:10:00')),
    someFrame(2, at('12:20:00')),
    someFrame(8, { ...at('10:00:00'), plate: true }),
    someFrame(9, { ...at('12:00:00'), plate: true }),
  ];
  expect(all.slice(0, 2).map((frame) => previewOrder(frame, setup, all).plate)).toEqual(['p8', 'p9']);
});
