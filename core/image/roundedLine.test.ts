import { describe, expect, test } from 'vitest';
import { roundedLine } from './roundedLine.ts';

const ring = (count: number, radius = 1): { x: number; y: number }[] =>
  Array.from({ length: count }, (_, n) => {
    const turn = (2 * Math.PI * n) / count;
    return { x: radius * Math.cos(turn), y: radius * Math.sin(turn) };
  });

describe('roundedLine', () => {
  test('goes through every corner', () => {
    const corners = [
      { x: 0, y: 0 },
      { x: 4, y: 0 },
      { x: 4.2, y: 0.3 },
      { x: 1, y: 3 },
    ];
    const line = roundedLine(corners, 200);
    corners.forEach((corner) =>
      expect(Math.min(...line.map(({ x, y }) => Math.hypot(x - corner.x, y - corner.y)))).toBeLessThan(1e-9),
    );
  });
  test('eight corners on a circle make nearly the circle', () => {
    const line = roundedLine(ring(8), 200);
    expect(line.length).toBe(96);
    line.forEach(({ x, y }) => expect(Math.abs(Math.hypot(x, y) - 1)).toBeLessThan(0.01));
  });
  test('has never more points than wanted, and all corners where there is no room for more', () => {
    expect(roundedLine(ring(30), 200).length).toBe(180);
    expect(roundedLine(ring(150), 200)).toEqual(ring(150));
    expect(roundedLine(ring(8).slice(0, 2), 200).length).toBe(2);
  });
  test('a very short stretch beside long ones makes no loop', () => {
    const corners = [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
      { x: 10.01, y: 0.01 },
      { x: 0, y: 10 },
    ];
    roundedLine(corners, 200).forEach(({ x, y }) => {
      expect(x).toBeLessThan(11.5);
      expect(y).toBeLessThan(11.5);
    });
  });
  test('two corners on one place are no harm', () => {
    const line = roundedLine([...ring(4), ring(4)[3]], 100);
    expect(line.every(({ x, y }) => Number.isFinite(x + y))).toBe(true);
  });
});
