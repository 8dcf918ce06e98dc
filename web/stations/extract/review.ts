import { useEffect, useRef } from 'react';
import type { Frame } from '../../../contract/index.ts';
import { noReview, stateNow, type Review, type ReviewState } from '../../../core/touch/review.ts';
import { settledBy, type Question } from '../../../core/touch/walk.ts';
import { changeFrame } from '../../state/changes.ts';
import { useStore } from '../../state/store.ts';

/** What a hand says of frames: accepted, looked at, to be come back to; and which places of doubt are settled. */

/** Longer than this nobody looks at one frame without a pause, seconds. */
const MOST_SECONDS = 300;
/** A frame that was in sight so long was looked at, seconds. */
const LOOKED = 1.5;

export const stateTitles: Record<ReviewState, string> = {
  open: '',
  looked: 'looked at',
  accepted: 'accepted',
  again: 'to be come back to',
};

/** Gives a frame a state, for its cut as it stands; the same state again takes it back. */
export function review(frame: Frame, state: ReviewState, seconds = 0): void {
  void changeFrame(
    frame,
    (now) => {
      const next = stateNow(now) === state ? 'open' : state;
      return { review: said(now, { state: next, seconds: (now.review?.seconds ?? 0) + seconds }) };
    },
    stateTitles[state],
  );
}

/** What is said of a frame once a place of doubt is settled. */
export function settledWith(frame: Frame, question: Pick<Question, 'kind' | 'place'>, good: boolean): Review {
  const settled = settledBy(frame.cut?.quality ?? { doubts: [] }, question, good);
  return said(frame, { settled: [...(frame.review?.settled ?? []), ...settled].slice(-MOST_SETTLED) });
}
/** A place of doubt is good as it is. */
export function settle(frame: Frame, question: Pick<Question, 'kind' | 'place'>): void {
  void changeFrame(frame, (now) => ({ review: settledWith(now, question, true) }), 'it is good so');
}

/** Places that are remembered of a frame. */
const MOST_SETTLED = 200;

function said(frame: Frame, part: Partial<Review>): Review {
  return { ...noReview, ...frame.review, of: frame.cut?.fingerprint ?? '', ...part };
}

/**
 * How long a frame has been in sight, for the forecast; when another comes, the one that was looked at is marked so.
 * @returns the seconds so far, which then belong to whoever asks.
 */
export function useClock(frame: Frame): () => number {
  const since = useRef(performance.now());
  const taken = (): number => {
    const seconds = Math.min(MOST_SECONDS, (performance.now() - since.current) / 1000);
    since.current = performance.now();
    return seconds;
  };
  const { id } = frame;
  useEffect(() => {
    since.current = performance.now();
    return () => {
      const left = useStore.getState().frames.find((one) => one.id === id);
      const seconds = taken();
      if (!left?.cut || seconds < LOOKED || stateNow(left) !== 'open') return;
      void changeFrame(
        left,
        (there) => ({ review: said(there, { state: 'looked', seconds: (there.review?.seconds ?? 0) + seconds }) }),
        null,
      );
    };
  }, [id]);
  return taken;
}
