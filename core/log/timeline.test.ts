import { expect, test } from 'vitest';
import { timelineOf, type Course } from './timeline.ts';

const nothing: Course = { plans: [], rounds: [], frames: [], batches: [], deliveries: [] };
const round = (at: string, spread: number, signedAt: string | null = null): Course['rounds'][number] => ({
  at,
  signedAt,
  setup: 'Tent',
  readings: [{ id: 'spread', value: spread, beyond: spread > 1 }],
  minutes: 30,
  openPoints: [],
  camera: 'f/8, 1/160 s, ISO 200',
});

test('frames that come in together are one event of their setup; a pause begins another', () => {
  const minute = (n: number, setup = 'Tent') => ({
    at: `2026-06-13T10:${String(n).padStart(2, '0')}:00.000Z`,
    time: n * 60_000,
    setup,
  });
  const events = timelineOf({ ...nothing, frames: [minute(0), minute(1), minute(2, 'Window'), minute(9), minute(30)] });
  expect(events.map(({ setup, words }) => [setup, words])).toEqual([
    ['Tent', '3 frames came in'],
    ['Window', '1 frame came in'],
    ['Tent', '1 frame came in'],
  ]);
});

test('a round tells its exposure, what was changed on the set since the last, and its signature', () => {
  const events = timelineOf({
    ...nothing,
    rounds: [round('2026-06-13T08:00:00Z', 1.8), round('2026-06-13T08:20:00Z', 0.5, '2026-06-13T08:25:00Z')],
  });
  expect(events.map(({ words }) => words)).toEqual([
    'Test frames read: 1 of 1 out of bounds',
    'Test frames read: 0 of 1 out of bounds',
    'Signed off',
  ]);
  expect(events[1].details).toEqual([
    'f/8, 1/160 s, ISO 200',
    '30 min by hand foreseen',
    'Unevenness of the seen screen: 1.80 → 0.50 stops',
  ]);
});

test('everything stands in its order, whatever it is', () => {
  const events = timelineOf({
    ...nothing,
    plans: [{ at: '2026-06-10', name: 'Tent', setup: '', minutes: 60, frames: 200 }],
    deliveries: [{ at: '2026-06-14', presets: ['Screen'], files: 1, keptBack: 2 }],
    batches: [
      { at: '2026-06-13', kind: 'cut', total: 40, failed: 2 },
      { at: '2026-06-13', kind: 'deliver', total: 40, failed: 0 },
    ],
  });
  expect(events.map(({ place, words, details }) => [place, words, details.join()])).toEqual([
    ['plan', 'Set “Tent” planned', '60 min by hand foreseen for 200 frames'],
    ['extract', '40 frames extracted', '2 failed'],
    ['handOver', '1 file handed over', 'Screen,2 frames kept back'],
  ]);
});
