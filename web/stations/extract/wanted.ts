import type { Frame, OrderItem, Setup } from '../../../contract/index.ts';
import { isCurrent, orderOf, type Order } from '../../../core/cut/order.ts';

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
 * What a frame is to be cut with, for its preview; a plate is previewed as any other frame.
 * @param all frames of its setup.
 */
export function previewOrder(frame: Frame, setup: Setup, all: readonly Frame[]): Order {
  const { placement } = frame;
  const placed = placement && { background: `${placement.backgroundId}`, placement };
  const plate = all.find(({ id }) => id === setup.plateFrameId) ?? null;
  const with_ = (chosen: Frame | null): Order | null =>
    orderOf({ ...frame, placed }, { recipe: setup.recipe, masks: setup.masks, plate: chosen }, all);
  return with_(plate) ?? (with_(null) as Order);
}
