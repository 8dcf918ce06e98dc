import { expect, test } from 'vitest';
import { both, setWhere, where, without } from './masks.ts';
import type { Mask } from './raster.ts';

const mask = (...values: number[]): Mask => ({ width: values.length, height: 1, data: Uint8Array.from(values) });

test('masks of where values are, are in both, or in one alone, leave what they are made from', () => {
  const a = mask(0, 1, 2, 2, 0);
  const b = mask(0, 0, 1, 0, 1);
  expect(where(a, 2)).toEqual(mask(0, 0, 1, 1, 0));
  expect(where(a, 0)).toEqual(mask(1, 0, 0, 0, 1));
  expect(both(a, b)).toEqual(mask(0, 0, 1, 0, 0));
  expect(without(a, b)).toEqual(mask(0, 1, 0, 1, 0));
  expect(without(b, a)).toEqual(mask(0, 0, 0, 0, 1));
  expect(a).toEqual(mask(0, 1, 2, 2, 0));
});

test('setting where another mask is set changes nothing else', () => {
  const a = mask(0, 1, 2, 2, 0);
  setWhere(a, mask(1, 0, 2, 0, 0), 7);
  expect(a).toEqual(mask(7, 1, 7, 2, 0));
});
