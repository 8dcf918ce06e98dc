import { expect, test } from 'vitest';
import { footOf, profileAt, softnessAt } from './outlineProfile.ts';

test('half covered where it lies, full inside, none at its foot', () => {
  for (const [edge, softness] of [
    [0, 0],
    [1.5, 0.6],
    [-2, 3],
  ]) {
    expect(profileAt(edge, edge, softness)).toBeCloseTo(0.5);
    expect(profileAt(edge - 10, edge, softness)).toBe(1);
    expect(profileAt(footOf(edge, softness), edge, softness)).toBe(0);
    expect(softnessAt(footOf(edge, softness), edge)).toBeCloseTo(softness);
  }
});

test('the softer, the less steep; a foot pulled inwards is as hard as can be', () => {
  const slope = (softness: number): number => profileAt(-0.1, 0, softness) - profileAt(0.1, 0, softness);
  expect(slope(2)).toBeLessThan(slope(1));
  expect(softnessAt(-3, 0)).toBe(0);
});
