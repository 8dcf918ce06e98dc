import { describe, expect, test } from 'vitest';
import { gaussian, seededRandom, type Random } from '../random.ts';
import { fitFactors, type Observation } from './fit.ts';

const options = { prior: 0.4, frame: 1.6 };

/** Shoots of three setups with some causes each; frames scatter as the forecast says that they do. */
function simulated(truth: readonly number[], shoots: number, random: Random): Observation[] {
  const sigma = Math.sqrt(Math.log(1 + options.frame ** 2));
  return Array.from({ length: shoots * 3 }, () => {
    const frames = 60 + Math.floor(120 * random());
    const each = truth.map((_, i) => (i === 0 ? 0.08 : random() < 0.5 ? 0.9 * random() ** 2 : 0));
    const mean = each.reduce((sum, minutes, i) => sum + minutes * truth[i], 0);
    let spent = 0;
    for (let n = 0; n < frames; n++) spent += mean * Math.exp(sigma * gaussian(random) - (sigma * sigma) / 2);
    return { foreseen: each.map((minutes) => minutes * frames), spent, frames };
  });
}

describe('fitted factors', () => {
  test('find those that simulated logs were made with within 15 % after ten shoots, in the middle of many (seeded)', () => {
    const truth = [1, 0.6, 1.5, 0.8, 1.3, 1];
    const random = seededRandom(21);
    const off = Array.from({ length: 40 }, () =>
      fitFactors(simulated(truth, 10, random), truth.length, options)
        .slice(1)
        .map(({ factor }, i) => Math.abs(factor / truth[i + 1] - 1)),
    ).flat();
    off.sort((a, b) => a - b);
    expect(off[Math.floor(off.length / 2)]).toBeLessThan(0.08);
    expect(off.filter((error) => error < 0.15).length / off.length).toBeGreaterThan(0.85);
  });

  test('say how far they are known: the truth lies within two deviations nineteen times in twenty (seeded)', () => {
    const truth = [1, 0.7, 1.4, 1.1];
    const random = seededRandom(4);
    const within = Array.from({ length: 60 }, () =>
      fitFactors(simulated(truth, 6, random), truth.length, options).map(
        ({ factor, deviation }, i) => Math.abs(factor - truth[i]) < 2 * deviation,
      ),
    ).flat();
    expect(within.filter(Boolean).length / within.length).toBeGreaterThan(0.88);
  });

  test('without a log, and for a cause that was never met, are what shipped', () => {
    expect(fitFactors([], 2, options)).toEqual([
      { factor: 1, deviation: 0.4, seen: 0 },
      { factor: 1, deviation: 0.4, seen: 0 },
    ]);
    const [met, never] = fitFactors([{ foreseen: [60, 0], spent: 120, frames: 100 }], 2, options);
    expect(met.factor).toBeGreaterThan(1.3);
    expect(never).toEqual({ factor: 1, deviation: 0.4, seen: 0 });
  });

  test('one odd evening does not bend them', () => {
    const usual = Array.from({ length: 8 }, () => ({ foreseen: [60], spent: 60, frames: 150 }));
    const odd = { foreseen: [60], spent: 900, frames: 150 };
    expect(fitFactors([...usual, odd], 1, options)[0].factor).toBeLessThan(1.12);
  });
});
