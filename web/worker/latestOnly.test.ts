import { expect, test } from 'vitest';
import { latestOnly } from './latestOnly.ts';

test('of what is asked while work runs, only the last is done', async () => {
  const done: number[] = [];
  let release = (): void => undefined;
  const gate = new Promise<void>((resolve) => (release = resolve));
  const ask = latestOnly();
  ask(async () => {
    await gate;
    done.push(1);
  });
  for (const n of [2, 3, 4]) ask(async () => void done.push(n));
  release();
  await new Promise((resolve) => setTimeout(resolve));
  expect(done).toEqual([1, 4]);
});

test('a failure does not stop later work', async () => {
  const done: number[] = [];
  const ask = latestOnly();
  ask(() => Promise.reject(new Error('expected in this test')));
  await new Promise((resolve) => setTimeout(resolve));
  ask(async () => void done.push(1));
  await new Promise((resolve) => setTimeout(resolve));
  expect(done).toEqual([1]);
});
