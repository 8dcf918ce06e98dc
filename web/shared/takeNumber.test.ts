import { expect, test } from 'vitest';
import { takeNumber, trimNumber } from './takeNumber.ts';

test('point and comma are the same, a true minus is one too', () => {
  for (const text of ['-1.5', '-1,5', ' −1,5 '])
    expect(takeNumber(text, -3, 3)).toEqual({ value: -1.5, problem: 'none' });
});

test('what is out of range is held at the end of it, and said', () => {
  expect(takeNumber('12', -3, 3)).toEqual({ value: 3, problem: 'range' });
  expect(takeNumber('-12', -3, 3)).toEqual({ value: -3, problem: 'range' });
});

test('what is no number changes nothing', () => {
  for (const text of ['', '  ', 'two', '1.2.3', '1e999'])
    expect(takeNumber(text, 0, 9)).toEqual({ problem: 'no number' });
});

test('noughts at the end are not shown', () => {
  expect([trimNumber(0.5, 3), trimNumber(2, 1), trimNumber(0.12345, 3)]).toEqual(['0.5', '2', '0.123']);
});
