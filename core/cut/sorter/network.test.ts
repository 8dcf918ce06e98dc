import { describe, expect, test } from 'vitest';
import { seededRandom } from '../../random.ts';
import { installedKernels, installKernels } from '../../kernels/kernels.ts';
import { EVIDENCE } from '../evidence.ts';
import { OUTPUTS, runNetwork, weightCount } from './network.ts';
import { readHalves } from './readWeights.ts';
import { sortFrame } from './sortFrame.ts';
import { sorterWeights } from './weights.ts';

const random = (seed: number, length: number, size = 1): Float32Array => {
  const next = seededRandom(seed);
  return Float32Array.from({ length }, () => size * (2 * next() - 1));
};

function plainly<T>(work: () => T): T {
  const compiled = installedKernels();
  installKernels(undefined);
  try {
    return work();
  } finally {
    installKernels(compiled);
  }
}

describe('runNetwork', () => {
  // Sides that are no multiple of 32, and less than it.
  test.each([
    [70, 45],
    [33, 64],
    [20, 9],
  ])('compiled and plain code give the same bits at %i × %i', (width, height) => {
    const weights = random(1, weightCount(), 0.3);
    const evidence = random(2, EVIDENCE * width * height);
    const compiled = runNetwork(evidence, width, height, weights);
    expect(compiled).toHaveLength(OUTPUTS * width * height);
    expect(compiled.some((v) => v !== compiled[0])).toBe(true);
    expect(plainly(() => runNetwork(evidence, width, height, weights))).toEqual(compiled);
  });

  test('what it was given is not changed', () => {
    const weights = random(1, weightCount(), 0.3);
    const evidence = random(2, EVIDENCE * 40 * 30);
    const before = evidence.slice();
    runNetwork(evidence, 40, 30, weights);
    expect(evidence).toEqual(before);
  });

  test('a change at one place reaches its surroundings', () => {
    const width = 64;
    const weights = random(3, weightCount(), 0.25);
    const evidence = random(5, EVIDENCE * width * width);
    const changed = evidence.slice();
    changed[width * 32 + 32] += 1;
    const before = runNetwork(evidence, width, width, weights);
    const after = runNetwork(changed, width, width, weights);
    expect(before.reduce((sum, v, i) => sum + (v === after[i] ? 0 : 1), 0)).toBeGreaterThan(100);
  });
});

describe('weights', () => {
  test('there are as many as the network uses', () => {
    expect(readHalves(sorterWeights)).toHaveLength(weightCount());
    expect(readHalves(sorterWeights).every(Number.isFinite)).toBe(true);
  });

  test('halves are read by their standard: 1, −2, 65504, the least subnormal, −0', () => {
    const bytes = [0x00, 0x3c, 0x00, 0xc0, 0xff, 0x7b, 0x01, 0x00, 0x00, 0x80];
    expect([...readHalves(Buffer.from(bytes).toString('base64'))]).toEqual([1, -2, 65504, 2 ** -24, -0]);
  });
});

test('likelihoods are between 0 and 1 and leave room for what is mixed', () => {
  const { clear, solid, coverage } = sortFrame(random(9, EVIDENCE * 50 * 40), 50, 40);
  for (let p = 0; p < 2000; p++) {
    for (const value of [clear.data[p], solid.data[p], coverage.data[p]]) {
      expect(value).toBeGreaterThanOrEqual(0);
      expect(value).toBeLessThanOrEqual(1);
    }
    expect(clear.data[p] + solid.data[p]).toBeLessThanOrEqual(1.000001);
  }
});
