import { expect, test } from 'vitest';
import { someBackground } from '../../contract/testing/items.ts';
import { standInServer } from '../testing/server.ts';
import { changeBackground } from './placing.ts';
import { readLibrary, useStore } from './store.ts';

/** The library of backgrounds while it is changed here and read anew. */

const hall = someBackground({ id: 1, name: 'Hall' });
const nameNow = (): string => useStore.getState().backgrounds[0].name;

test('what was read before a change was saved does not take it back; it is read again', async () => {
  useStore.setState({ backgrounds: [hall], steps: [] });
  let stored = hall;
  const held: (() => void)[] = [];
  const until = (): Promise<void> => new Promise((resolve) => held.push(resolve));
  let readings = 0;
  standInServer(async ({ method, body }) => {
    if (method === 'GET') {
      readings++;
      const then = [stored];
      if (readings === 1) await until();
      return then;
    }
    await until();
    stored = { ...stored, name: (body as { name: string }).name };
    return stored;
  });
  const reading = readLibrary();
  await expect.poll(() => held).toHaveLength(1);
  const changing = changeBackground(hall, { name: 'Barn' }, 'name of a background');
  await expect.poll(() => held).toHaveLength(2);
  // The old answer comes while the change is on its way.
  held[0]();
  await reading;
  expect(nameNow()).toBe('Barn');
  held[1]();
  await changing;
  await expect.poll(() => readings).toBe(2);
  expect(nameNow()).toBe('Barn');
});
