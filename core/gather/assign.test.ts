import { describe, expect, test } from 'vitest';
import { assignFrames, type Sortable } from './assign.ts';
import { clocksOff } from './clocks.ts';
import { shootOf, type MadeShoot } from './testing/shootOf.ts';

const right = ({ frames, roster, slots }: MadeShoot, withSlots: boolean): number => {
  const { assigned } = assignFrames(frames, roster, withSlots ? slots : []);
  const who = new Map(assigned.map(({ frameId, subject }) => [frameId, subject]));
  return frames.filter(({ id, truth }) => who.get(id) === truth).length / frames.length;
};
const seeds = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];
const worst = (of: (seed: number) => number): number => Math.min(...seeds.map(of));

describe('made-up events of 100 guests, the worst of ten', () => {
  test('with slates every frame is given to whom it shows', () => {
    expect(worst((seed) => right(shootOf({ seed, guests: 100, slates: true, missing: 0.1 }), false))).toBe(1);
  });
  test('without slates, by order, gaps and looks', () => {
    expect(worst((seed) => right(shootOf({ seed, guests: 100, slates: false }), false))).toBeGreaterThan(0.9);
  });
  test('by slots when some do not come, where the order alone goes astray', () => {
    const made = (seed: number): MadeShoot => shootOf({ seed, guests: 100, slates: false, missing: 0.15 });
    expect(worst((seed) => right(made(seed), true))).toBeGreaterThan(0.9);
    expect(worst((seed) => right(made(seed), false))).toBeLessThan(0.5);
  });
  test('it is less sure of an order that does not fit the list than of one that does', () => {
    const sureOf = (missing: number): number => {
      const { frames, roster } = shootOf({ seed: 3, guests: 60, slates: false, missing });
      return assignFrames(frames, roster).assigned[0].sure;
    };
    expect(sureOf(0)).toBeGreaterThan(sureOf(0.2));
  });
});

const frame = (id: number, at: number | null, part: Partial<Sortable> = {}): Sortable => ({
  id,
  at,
  camera: 'A',
  slate: null,
  person: true,
  looks: null,
  ...part,
});
const roster = [
  { name: 'Ada', number: '7' },
  { name: 'Bo', number: '012' },
];

describe('slates', () => {
  test('everything after a slate until the next, noughts and letters alike; what came before is nobody’s', () => {
    const { assigned, unknown } = assignFrames(
      [frame(1, 5), frame(2, 10, { slate: '07' }), frame(3, 20), frame(4, 30, { slate: '12' }), frame(5, 40)],
      roster,
    );
    expect(assigned.map(({ frameId, subject, slate }) => [frameId, subject, slate])).toEqual([
      [2, 'Ada', true],
      [3, 'Ada', false],
      [4, 'Bo', true],
      [5, 'Bo', false],
    ]);
    expect(unknown).toEqual([]);
  });
  test('a slate of nobody is named, and the frames after it are not given to the one before', () => {
    const { assigned, unknown } = assignFrames(
      [frame(1, 1, { slate: '7' }), frame(2, 2), frame(3, 3, { slate: '99' }), frame(4, 4)],
      roster,
    );
    expect(unknown).toEqual([{ frameId: 3, number: '99' }]);
    expect(assigned.map(({ frameId }) => frameId)).toEqual([1, 2]);
  });
  test('a second camera goes by the first one’s slates, less surely; one with slates of its own by those', () => {
    const frames = [
      frame(1, 1, { slate: '7' }),
      frame(2, 2),
      frame(3, 6, { camera: 'B' }),
      frame(4, 4, { camera: 'C', slate: '12' }),
      frame(5, 5, { camera: 'C' }),
    ];
    const { assigned } = assignFrames(frames, roster);
    const of = (id: number) => assigned.find(({ frameId }) => frameId === id);
    expect([2, 4, 5].map((id) => of(id)?.subject)).toEqual(['Ada', 'Bo', 'Bo']);
    expect(of(2)?.sure).toBeGreaterThan(0.95);
    expect(of(3)).toMatchObject({ subject: 'Bo' });
    expect(of(3)?.sure).toBeLessThan(0.9);
  });
  test('frames without a time, or without anybody, are left', () => {
    const { assigned } = assignFrames(
      [frame(1, 1, { slate: '7' }), frame(2, null), frame(3, 3, { person: false }), frame(4, 4)],
      roster,
    );
    expect(assigned.map(({ frameId }) => frameId)).toEqual([1, 4]);
  });
});

test('nobody on the list, or no frames: nothing is proposed', () => {
  expect(assignFrames([frame(1, 1)], []).assigned).toEqual([]);
  expect(assignFrames([], roster).assigned).toEqual([]);
});

test('a clock that is off is told by the slates that both cameras saw', () => {
  const { frames } = shootOf({ seed: 3, guests: 30, slates: true });
  const second = frames
    .filter(({ id }) => id % 2 === 0)
    .map((one) => ({ ...one, id: one.id + 1000, camera: 'B', at: (one.at ?? 0) - 3720 + (one.id % 5) }));
  const [off, ...rest] = clocksOff([...frames, ...second]);
  expect(rest).toEqual([]);
  expect(off).toMatchObject({ camera: 'B', like: 'A' });
  expect(Math.abs(off.seconds - 3720)).toBeLessThan(5);
  expect(clocksOff([...frames, ...second.map((one) => ({ ...one, at: one.at + 3720 }))])).toEqual([]);
});
