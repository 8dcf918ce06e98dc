import { renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { useSecondsLeft } from './useSecondsLeft.ts';

beforeEach(() => vi.useFakeTimers({ toFake: ['performance'] }));
afterEach(() => vi.useRealTimers());

test('what is left takes as long for each as what is done; more to come is a new beginning', () => {
  const { result, rerender } = renderHook(({ left }) => useSecondsLeft(left), { initialProps: { left: 10 } });
  expect(result.current).toBeNull();
  vi.advanceTimersByTime(2000);
  rerender({ left: 9 });
  expect(result.current).toBe(18);
  vi.advanceTimersByTime(4000);
  rerender({ left: 8 });
  expect(result.current).toBe(24);
  rerender({ left: 20 });
  expect(result.current).toBeNull();
  vi.advanceTimersByTime(1000);
  rerender({ left: 19 });
  expect(result.current).toBe(19);
});
