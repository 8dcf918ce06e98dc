import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { useCalm } from './useCalm.ts';

beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] }));
afterEach(() => void vi.useRealTimers());

test('what changes all the time is followed now and then, the last of it too; at once where that is wanted', () => {
  const { result, rerender } = renderHook(({ value, atOnce }) => useCalm(value, atOnce, 1000), {
    initialProps: { value: 0, atOnce: false },
  });
  const seen = new Set<number>();
  for (let value = 1; value <= 30; value++) {
    rerender({ value, atOnce: false });
    act(() => void vi.advanceTimersByTime(100));
    seen.add(result.current);
  }
  expect(seen.size).toBeGreaterThan(2);
  expect(seen.size).toBeLessThan(6);
  act(() => void vi.advanceTimersByTime(1000));
  expect(result.current).toBe(30);
  rerender({ value: 31, atOnce: true });
  expect(result.current).toBe(31);
});
