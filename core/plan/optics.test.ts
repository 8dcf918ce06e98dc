import { describe, expect, test } from 'vitest';
import { besselJ1, blurDiameter, contrastThroughDisc, depthOfField } from './optics.ts';

describe('depth of field', () => {
  test('50 mm, f/8, circle 0.03 mm, focused at 5 m: near 3.39 m, far 9.53 m, as tables have it', () => {
    const { near, far } = depthOfField(0.05, 8, 5, 0.00003);
    expect(near).toBeCloseTo(3.39, 2);
    expect(far).toBeCloseTo(9.53, 1);
  });
  test('beyond the hyperfocal distance everything is sharp to infinity', () => {
    expect(depthOfField(0.05, 8, 11, 0.00003).far).toBe(Infinity);
  });
  test('at its limits the blur is just the circle', () => {
    const { near, far } = depthOfField(0.085, 4, 3.2, 0.00002);
    expect(blurDiameter(0.085, 4, 3.2, near)).toBeCloseTo(0.00002, 7);
    expect(blurDiameter(0.085, 4, 3.2, far)).toBeCloseTo(0.00002, 7);
  });
});

describe('defocus', () => {
  test('100 mm at f/2 focused at 2 m: a screen at 4 m is blurred to 1.3 mm', () => {
    // c = f² (d − s) / (N d (s − f)) = 0.01 · 2 / (2 · 4 · 1.9)
    expect(blurDiameter(0.1, 2, 2, 4)).toBeCloseTo(0.0013158, 6);
    expect(blurDiameter(0.1, 2, 2, 2)).toBe(0);
  });
  test('a disc leaves no contrast at 1.22 periods across it', () => {
    expect(contrastThroughDisc(0)).toBe(1);
    expect(contrastThroughDisc(1.2197)).toBeLessThan(0.001);
    expect(contrastThroughDisc(0.3)).toBeGreaterThan(contrastThroughDisc(0.6));
  });
  test('J₁ at published points', () => {
    expect(besselJ1(1)).toBeCloseTo(0.4400505857, 6);
    expect(besselJ1(3.8317059702)).toBeCloseTo(0, 6);
    expect(besselJ1(10)).toBeCloseTo(0.0434727462, 6);
    expect(besselJ1(-1)).toBeCloseTo(-0.4400505857, 6);
  });
});
