import { expect, test } from 'vitest';
import { placeAt, workClock } from './activity.ts';

const extract = { shootId: 3, place: 'extract' as const };
const place = { shootId: 3, place: 'place' as const };

function told() {
  const heard: [string, number][] = [];
  const clock = workClock((at, seconds) => heard.push([at.place, seconds]));
  let now = 0;
  return {
    heard,
    clock,
    /** So many ticks, stirring at each or never. */
    pass: (ticks: number, where: typeof extract | typeof place | undefined, stirs = true, shown = true): void => {
      for (let n = 0; n < ticks; n++) {
        now += 5000;
        if (stirs) clock.stir(now);
        clock.tick(now, where, shown);
      }
    },
  };
}

test('work is told by the minute and by its station; leaving a station tells what is left', () => {
  const { heard, pass } = told();
  pass(1, extract);
  pass(13, extract);
  pass(1, place);
  expect(heard).toEqual([
    ['extract', 60],
    ['extract', 5],
  ]);
});

test('who does not stir for a minute is away, and a page out of sight is nobody’s work', () => {
  const { heard, clock, pass } = told();
  pass(2, extract);
  pass(100, extract, false);
  clock.flush();
  // Five seconds of work and the minute in which it was not yet known that nobody is there.
  expect(heard.reduce((sum, [, seconds]) => sum + seconds, 0)).toBe(65);
  pass(20, extract, true, false);
  clock.flush();
  expect(heard.reduce((sum, [, seconds]) => sum + seconds, 0)).toBe(65);
});

test('addresses name their station; those of no shoot name none', () => {
  expect(placeAt('/shoots/12/hand-over/crops')).toEqual({ shootId: 12, place: 'handOver' });
  expect(placeAt('/shoots/12')).toBeUndefined();
  expect(placeAt('/rehearsal')).toBeUndefined();
});
