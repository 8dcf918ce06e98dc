import { describe, expect, test } from 'vitest';
import { noGuidance } from '../cut/guidance.ts';
import { doubtFacts, type DoubtKind } from '../cut/doubts.ts';
import type { Doubt, LedgerEntry, Quality } from '../cut/quality.ts';
import { minutesLeft, noReview } from './review.ts';
import { stampOf } from './stamp.ts';
import { answered, questions, questionsOf, settledBy, zoneOf } from './walk.ts';

const box = (x: number, y: number, side = 0.1) => ({ x, y, width: side, height: side });
const doubt = (kind: DoubtKind, minutes: number, ...places: Doubt['places']): Doubt => ({ kind, minutes, places });
const entry = (x: number, y: number): LedgerEntry => ({
  place: box(x, y),
  centre: { x: x + 0.05, y: y + 0.05 },
  chroma: [0.2, 0.2],
  share: 0.01,
  likelihood: 0.5,
  verdict: 'keep',
  doubtful: true,
  byHand: false,
  evidence: { apart: 0.1, mostScreen: 0.5, rough: 0.1, atBorder: false },
});

describe('questions', () => {
  test('each has two or three answers and one ends each sentence as a question', () => {
    for (const [kind, { ask, answers }] of Object.entries(questions)) {
      expect(Object.keys(doubtFacts)).toContain(kind);
      expect(ask).toMatch(/\?$/);
      expect([2, 3]).toContain(answers.length);
      expect(new Set(answers.map(({ title }) => title)).size).toBe(answers.length);
    }
  });

  test('the costliest place first; cheap ones, settled ones and doubts of the whole frame are not asked', () => {
    const doubts = [
      doubt('holes', 2, box(0.1, 0.1), box(0.7, 0.7)),
      doubt('unsure', 1.5, box(0.4, 0.4)),
      doubt('noisy', 3),
      doubt('residue', 0.04, box(0.9, 0.1)),
    ];
    const asked = questionsOf({ doubts }, null);
    expect(asked.map(({ kind, place }) => [kind, place.x])).toEqual([
      ['unsure', 0.4],
      ['holes', 0.1],
      ['holes', 0.7],
    ]);
    const review = { ...noReview, settled: settledBy({ doubts }, asked[0], true) };
    expect(questionsOf({ doubts }, review).map(({ kind }) => kind)).toEqual(['holes', 'holes']);
  });

  test('what lies in a costlier place is asked with it and settled with it', () => {
    const doubts = [doubt('strands', 3, box(0.2, 0.2, 0.4)), doubt('unsure', 1, box(0.3, 0.3), box(0.8, 0.8))];
    const asked = questionsOf({ doubts }, null);
    expect(asked.map(({ kind, place }) => [kind, place.x])).toEqual([
      ['strands', 0.2],
      ['unsure', 0.8],
    ]);
    const settled = asked.flatMap((question) => settledBy({ doubts }, question, true));
    expect(settled).toHaveLength(3);
    const cut = { fingerprint: 'x', quality: { doubts } as Quality };
    expect(minutesLeft({ cut, review: { ...noReview, settled } })).toBeCloseTo(0);
  });
});

describe('an answer', () => {
  const [good, solid, gap] = questions.holes?.answers ?? [];
  const place = box(0.3, 0.3, 0.2);

  test('that leaves it as it is changes nothing; another lays a touch above all others', () => {
    const first = answered(noGuidance, { place }, solid, [], 'p', 'a');
    expect(answered(noGuidance, { place }, good, [], 'p', 'a')).toBe(noGuidance);
    expect(first.touches).toMatchObject([{ id: 'a', kind: 'add', path: 'p', on: true }]);
    const second = answered(first, { place }, gap, [], 'q', 'b');
    expect(second.touches.map(({ kind }) => kind)).toEqual(['add', 'screen']);
    expect(second.touches[1].at).toBeGreaterThan(second.touches[0].at);
    expect(first.touches).toHaveLength(1);
  });

  test('on green is a verdict on the patch of the place, in place of an earlier one', () => {
    const ledger = [entry(0.1, 0.1), entry(0.6, 0.6)];
    const [belongs, goes] = questions.greenClose?.answers ?? [];
    const once = answered(noGuidance, { place: box(0.6, 0.6) }, belongs, ledger, '', '');
    expect(once.verdicts).toMatchObject([{ x: expect.closeTo(0.65), keep: true }]);
    const twice = answered(once, { place: box(0.6, 0.6) }, goes, ledger, '', '');
    expect(twice.verdicts).toMatchObject([{ x: expect.closeTo(0.65), keep: false }]);
  });

  test('on a thing in pieces is a verdict on each of its doubtful ones', () => {
    const pieces = [entry(0.3, 0.3), entry(0.45, 0.3), entry(0.8, 0.3)].map((one) => ({ ...one, doubtful: true }));
    const ledger = [...pieces, { ...entry(0.35, 0.35), doubtful: false }];
    const [, goes] = questions.greenClose?.answers ?? [];
    const { verdicts } = answered(noGuidance, { place: box(0.29, 0.25, 0.3) }, goes, ledger, '', '');
    expect(verdicts.map(({ x, keep }) => [x, keep])).toEqual([
      [expect.closeTo(0.35), false],
      [expect.closeTo(0.5), false],
    ]);
  });
});

test('a zone holds its whole place, and little more', () => {
  for (const place of [box(0.3, 0.4, 0.2), { ...box(0.3, 0.4, 0.2), outline: [0.3, 0.4, 0.5, 0.4, 0.4, 0.6] }]) {
    const stamp = stampOf({ line: zoneOf(place), size: 0.001, softness: 0 }, 400, 400);
    const area = Array.from(stamp?.data ?? []).reduce((sum, v) => sum + v, 0) / 255;
    const own = ('outline' in place ? 0.5 : 1) * 80 * 80;
    expect(area).toBeGreaterThan(own);
    expect(area).toBeLessThan(1.25 * own);
  }
});
