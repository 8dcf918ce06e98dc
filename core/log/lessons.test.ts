import { describe, expect, test } from 'vitest';
import { byOwnLog, factorsFrom, fitDoubts, fitForecast, noFactors } from './factors.ts';
import { lessonsOf, materialCards, type OfShoot } from './lessons.ts';
import { costOf, noCosts, secondsOf, type LoggedSetup } from './logged.ts';

let ids = 0;
const one = (part: Partial<LoggedSetup> = {}): OfShoot => ({
  shoot: 'Pier',
  id: ++ids,
  name: 'Tent',
  set: {
    material: 'Muslin',
    colour: 'green',
    area: 6,
    screenCost: 4,
    kitCost: 30,
    distance: 1.2,
    light: 'softbox; tubes on the screen',
  },
  readings: { spread: 1.4, wrinkle: 3 },
  measured: true,
  plan: { frames: 100, causes: { base: 8, spread: 20 } },
  check: null,
  frames: 100,
  cut: 100,
  accepted: { frames: 100, foreseen: { strands: 30 }, spent: 56 },
  doubts: 40,
  ...part,
});

describe('lessons', () => {
  test('share out what was spent as the forecast weighs it, and set it against setups without the cause', () => {
    const even = one({
      readings: { spread: 0.3 },
      plan: { frames: 100, causes: { base: 8 } },
      accepted: { frames: 100, foreseen: {}, spent: 8 },
    });
    const [lesson, ...others] = lessonsOf([one(), even], noFactors);
    expect(others).toEqual([]);
    expect(lesson).toMatchObject({ cause: 'spread', minutes: 40, spent: true, withIt: 0.56, without: 0.08 });
    expect(lesson.setups).toEqual([{ shoot: 'Pier', setup: 'Tent', reading: 1.4, minutes: 40 }]);
  });

  test('where nobody has worked yet, what is foreseen counts, by the own coefficients; the test frame before the plan', () => {
    const setup = one({
      check: { frames: 100, causes: { base: 8, noise: 10 } },
      accepted: { frames: 0, foreseen: {}, spent: 0 },
    });
    const [lesson] = lessonsOf([setup], { causes: { noise: 2 }, doubts: {} });
    expect(lesson).toMatchObject({ cause: 'noise', minutes: 20, spent: false });
    expect(lessonsOf([one({ plan: null, check: null })], noFactors)).toEqual([]);
  });
});

test('a material’s card holds its uses, its cost, what it reached and what it cost by hand', () => {
  const frame = one({ set: { ...(one().set as NonNullable<LoggedSetup['set']>), material: 'Spring frame', area: 4 } });
  expect(materialCards([one(), one({ readings: { spread: 0.6 } }), frame, one({ set: null })])).toEqual([
    expect.objectContaining({ material: 'Muslin', uses: 2, area: 6, cost: 4, spread: 1.4, minutes: 0.56, frames: 200 }),
    expect.objectContaining({ material: 'Spring frame', uses: 1, area: 4 }),
  ]);
});

test('the own log: twice what was foreseen pulls its cause up, in the forecast and in the doubts', () => {
  const setups = Array.from({ length: 6 }, () => one());
  const causes = fitForecast(setups);
  const doubts = fitDoubts(setups);
  const factors = factorsFrom(causes, doubts);
  expect(factors.causes.spread).toBeGreaterThan(1.5);
  expect(factors.doubts.strands).toBeGreaterThan(1.4);
  expect(factors.causes.noise).toBeUndefined();
  const forecast = {
    minutes: 28,
    low: 20,
    high: 40,
    causes: [
      { id: 'base', minutes: 8 },
      { id: 'spread', minutes: 20 },
    ],
  };
  const own = byOwnLog(forecast, factors);
  expect(own.causes[0].id).toBe('spread');
  expect(own.minutes).toBeCloseTo(8 * (factors.causes.base ?? 1) + 20 * (factors.causes.spread ?? 1), 6);
  expect(own.high / own.minutes).toBeCloseTo(40 / 28, 6);
  expect(byOwnLog(forecast, noFactors)).toBe(forecast);
});

test('cost: kit, hours by the hour, other; times that were set right count as they were set', () => {
  const times = [
    { place: 'plan' as const, day: '2026-06-12', seconds: 3600, corrected: null },
    { place: 'extract' as const, day: '2026-06-13', seconds: 9000, corrected: 1800 },
  ];
  expect(secondsOf(times)).toBe(5400);
  expect(secondsOf(times, 'extract')).toBe(1800);
  const costs = { ...noCosts, hour: 40, hoursThere: 4, other: 25 };
  expect(costOf([one()], times, costs, 50)).toEqual({
    kit: 30,
    hours: 5.5,
    work: 220,
    other: 25,
    total: 275,
    each: 5.5,
  });
  expect(costOf([], [], noCosts, 0).each).toBeNull();
});
