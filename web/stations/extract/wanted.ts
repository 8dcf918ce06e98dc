import type { Frame, OrderItem, Setup } from '../../../contract/index.ts';
import { EXTRACTION, isCurrent, orderOf, type Order } from '../../../core/cut/order.ts';
import { stateNow } from '../../../core/touch/review.ts';
import { platesOf, shotOf } from '../../shared/plates.ts';

/** Frames whose cut is missing, failed, or not what is wanted now. A plate needs none. */
export function staleFrames(frames: readonly Frame[], orders: readonly OrderItem[]): Frame[] {
  const wanted = new Map(orders.map(({ id, wanted: fingerprint }) => [id, fingerprint]));
  return frames.filter(({ id, cut, job }) => {
    const fingerprint = wanted.get(id);
    // What was just brought in is not told yet, and has no cut.
    if (fingerprint === undefined) return cut === null;
    return !isCurrent(cut, fingerprint) || (fingerprint !== null && job?.state === 'failed');
  });
}

/**
 * Frames whose cut is what was wanted, and was made by an earlier version of the program, which cut otherwise; of what
 * was accepted nobody wants another.
 */
export function olderFrames(frames: readonly Frame[], stale: readonly Frame[]): Frame[] {
  const anyway = new Set(stale);
  return frames.filter(
    (frame) =>
      frame.cut !== null && frame.cut.extraction < EXTRACTION && !anyway.has(frame) && stateNow(frame) !== 'accepted',
  );
}

/**
 * What a frame is to be cut with, for its preview; a plate is previewed as any other frame.
 * @param all frames of its setup.
 */
export function previewOrder(frame: Frame, setup: Setup, all: readonly Frame[]): Order {
  const shown = { ...frame, ...shotOf(frame), plate: false };
  const plates = platesOf(all).map((plate) => ({ ...shotOf(plate), picture: plate.picture }));
  return orderOf(shown, { recipe: setup.recipe, masks: setup.masks, plates }, all) as Order;
}
