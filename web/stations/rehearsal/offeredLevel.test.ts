import { expect, test } from 'vitest';
import type { RehearsalResult } from '../../../contract/index.ts';
import { offeredLevel } from './offeredLevel.ts';

const tried = (level: number, causesRight: boolean, answered = true): RehearsalResult => ({
  id: 1,
  level,
  createdAt: '',
  answered,
  causesRight,
  remedyRight: false,
  causes: [],
});

test('three right answers in a row lead to the next level, and no level lies after the last', () => {
  expect(offeredLevel([])).toBe(1);
  expect(offeredLevel([tried(2, true), tried(2, true), tried(2, true)])).toBe(3);
  expect(offeredLevel([tried(2, true), tried(2, false), tried(2, true), tried(2, true)])).toBe(2);
  expect(offeredLevel([tried(5, true), tried(5, true), tried(5, true)])).toBe(5);
});

test('a set that was not answered says nothing', () => {
  expect(offeredLevel([tried(4, false, false), tried(2, true), tried(2, true)])).toBe(2);
});
