import { expect, test } from 'vitest';
import { Arriving } from './arriving.ts';

test('is busy while a file comes in and shortly after the last one, also where one fails', async () => {
  let clock = 0;
  const arriving = new Arriving(1000, () => clock);
  expect(arriving.busy).toBe(false);
  let end: () => void = () => undefined;
  const slow = arriving.while(() => new Promise<void>((resolve) => (end = resolve)));
  await expect(arriving.while(() => Promise.reject(new Error('broken off')))).rejects.toThrow('broken off');
  clock = 5000;
  expect(arriving.busy).toBe(true);
  end();
  await slow;
  clock = 5900;
  expect(arriving.busy).toBe(true);
  clock = 6100;
  expect(arriving.busy).toBe(false);
});
