import { describe, expect, test } from 'vitest';
import type { Analysis } from './analysis.ts';
import { sampleBilinear, type Matte } from './matte.ts';
import { doubtFacts, judgeQuality } from './quality.ts';
import { type GreenPatch } from './ledger.ts';
import { Region } from './regions.ts';

function analysis(part: { fringe?: number; noise?: number; patches?: Partial<GreenPatch>[] }): Analysis {
  const data = new Uint8Array(100).fill(Region.clear);
  data.fill(Region.fringe, 0, part.fringe ?? 10);
  data.fill(Region.core, 60);
  return {
    survey: { screen: 'green' },
    regions: { width: 10, height: 10, data },
    noise: part.noise ?? 0.01,
    patches: (part.patches ?? []) as GreenPatch[],
  } as unknown as Analysis;
}
const matte = (unexplained: number): Matte => ({ width: 1, height: 1, alpha: new Uint16Array(1), fringePixels: 10, unexplained });

describe('judgeQuality', () => {
  test('readings within their bounds cost nothing', () => {
    expect(judgeQuality(analysis({}), matte(0.01))).toMatchObject({ screen: 'green', screenShare: 0.5, fringeShare: 0.1, doubts: [], minutes: 0 });
  });
  test('each reading beyond its bound is a doubt with minutes; the costliest comes first; they add up', () => {
    const { doubts, minutes } = judgeQuality(analysis({ fringe: 55, noise: 0.05, patches: [{ verdict: 'keep', doubtful: true }] }), matte(0.09));
    expect(doubts.map((d) => d.kind).sort()).toEqual(Object.keys(doubtFacts).sort());
    expect([...doubts].sort((a, b) => b.minutes - a.minutes)).toEqual(doubts);
    expect(minutes).toBeCloseTo(doubts.reduce((sum, d) => sum + d.minutes, 0), 2);
  });
  test('minutes grow with the reading and stop at their most', () => {
    const cost = [0.05, 0.06, 0.08, 0.9].map((share) => judgeQuality(analysis({}), matte(share)).minutes);
    for (let n = 1; n < cost.length; n++) expect(cost[n]).toBeGreaterThan(cost[n - 1]);
    expect(cost[3]).toBe(doubtFacts.unexplained.most);
  });
  test('a sure verdict on green is counted but is no doubt', () => {
    const quality = judgeQuality(analysis({ patches: [{ verdict: 'keep', doubtful: false }, { verdict: 'remove', doubtful: false }] }), matte(0));
    expect(quality).toMatchObject({ greenKept: 1, greenRemoved: 1, doubts: [] });
  });
});

test('sampleBilinear: exact at pixel centres, halfway between, clamped outside', () => {
  const data = Float32Array.from([0, 0, 0, 1, 2, 3, 4, 4, 4, 5, 6, 7]);
  const out = new Float32Array(3);
  const read = (x: number, y: number): number[] => (sampleBilinear(data, 2, 2, x, y, out), [...out]);
  expect(read(1, 0)).toEqual([1, 2, 3]);
  expect(read(0.5, 0)).toEqual([0.5, 1, 1.5]);
  expect(read(0.5, 0.5)).toEqual([2.5, 3, 3.5]);
  expect(read(-5, 9)).toEqual([4, 4, 4]);
});
