import { describe, expect, test } from 'vitest';
import type { Doubt, Quality } from '../cut/quality.ts';
import {
  experienceOf,
  minutesLeft,
  minutesOf,
  minutesToAll,
  noReview,
  settledAt,
  stateNow,
  triageOf,
  type Review,
  type Reviewed,
} from './review.ts';

const place = (x: number) => ({ x, y: 0.4, width: 0.1, height: 0.1 });
const doubt = (minutes: number, ...xs: number[]): Doubt => ({ kind: 'holes', minutes, places: xs.map(place) });
const frame = (doubts: Doubt[], review: Partial<Review> | null = null, fingerprint = 'now'): Reviewed => ({
  cut: {
    fingerprint,
    quality: { doubts, minutes: doubts.reduce((sum, { minutes }) => sum + minutes, 0) } as Quality,
  },
  review: review && { ...noReview, of: 'now', ...review },
});
const good = (x: number, is = true) => ({ kind: 'holes' as const, x: x + 0.05, y: 0.45, good: is });

describe('how a frame stands', () => {
  test('is open until somebody said something, and again when its cut became another; what waits, waits on', () => {
    expect(stateNow(frame([]))).toBe('open');
    expect(stateNow(frame([], { state: 'accepted' }))).toBe('accepted');
    expect(stateNow(frame([], { state: 'accepted' }, 'newer'))).toBe('open');
    expect(stateNow(frame([], { state: 'again' }, 'newer'))).toBe('again');
    expect(stateNow({ cut: null, review: { ...noReview, state: 'accepted' } })).toBe('open');
  });

  test('its minutes fall place by place, to nothing when it is accepted', () => {
    const doubts = [doubt(3, 0.1, 0.3, 0.5), { ...doubt(1), kind: 'noisy' as const }];
    const [first, second, third] = minutesOf(doubts[0]);
    expect(first + second + third).toBeCloseTo(3);
    expect(first).toBeGreaterThan(second);
    expect(minutesLeft(frame(doubts))).toBeCloseTo(4);
    expect(minutesLeft(frame(doubts, { state: 'looked', settled: [good(0.1)] }))).toBeCloseTo(4 - first);
    expect(minutesLeft(frame(doubts, { state: 'looked', settled: [good(0.1), good(0.3), good(0.5)] }))).toBeCloseTo(1);
    expect(minutesLeft(frame(doubts, { state: 'accepted' }))).toBe(0);
    expect(minutesLeft({ cut: null, review: null })).toBe(0);
  });

  test('a settled place is known again a little aside, not far off nor for another doubt', () => {
    const { review } = frame([], { settled: [good(0.3)] });
    expect(settledAt(review, 'holes', place(0.31))).toBeDefined();
    expect(settledAt(review, 'holes', place(0.36))).toBeUndefined();
    expect(settledAt(review, 'unsure', place(0.3))).toBeUndefined();
  });

  test('clean, a look, or the hand', () => {
    expect(triageOf(frame([]))).toBe('clean');
    expect(triageOf(frame([doubt(0.8, 0.1, 0.3)]))).toBe('look');
    expect(triageOf(frame([doubt(0.8, 0.1, 0.3, 0.5)]))).toBe('hand');
    expect(triageOf(frame([doubt(2, 0.1)]))).toBe('hand');
    expect(triageOf(frame([doubt(0.8, 0.1, 0.3, 0.5)], { settled: [good(0.5)] }))).toBe('look');
  });
});

describe('experience', () => {
  const accepted = (seconds: number) => frame([doubt(1, 0.1)], { state: 'accepted', seconds });

  test('sets the minutes right by the time really taken, once there is enough of it', () => {
    expect(experienceOf([accepted(6), accepted(6)]).pace).toBe(1);
    const experience = experienceOf([accepted(6), accepted(6), accepted(6), accepted(30)]);
    expect(experience.pace).toBeCloseTo(48 / 240);
    expect(minutesLeft(frame([doubt(3, 0.1)]), experience)).toBeCloseTo(0.6);
  });

  test('a kind whose places were good again and again weighs less, never nothing', () => {
    const seen = Array.from({ length: 6 }, () => frame([], { settled: [good(0.1), good(0.5)] }));
    const { weights } = experienceOf(seen);
    expect(weights.holes).toBeCloseTo(1 / 13);
    expect(minutesLeft(frame([doubt(2, 0.3)]), experienceOf(seen))).toBeGreaterThan(0);
    expect(experienceOf(seen.slice(0, 2)).weights).toEqual({});
    const bad = Array.from({ length: 6 }, () => frame([], { settled: [good(0.1, false)] }));
    expect(experienceOf(bad).weights.holes).toBe(1);
  });

  test('all looked at: each open frame asks for a look, accepted ones for nothing', () => {
    const frames = [frame([]), frame([doubt(1, 0.1)]), accepted(5)];
    const none = { pace: 1, weights: {} };
    expect(minutesToAll(frames, none)).toBeCloseTo(1 + 4 / 60);
    expect(minutesToAll([accepted(5)], none)).toBe(0);
  });
});
