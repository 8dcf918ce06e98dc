import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import { demoFrames, demoShot, takeFrame } from '../../core/studio/index.ts';
import { mapAt } from '../../core/persons/personMap.ts';
import { encodePicture } from '../pictures/encode.ts';
import { LocalStore } from '../store/localStore.ts';
import { findPersons } from './findPersons.ts';
import { decodePersons, encodePersons, keptPersons, personsFile } from './keptPersons.ts';
import * as looking from './findPersons.ts';

let folder: string;
let taken: ReturnType<typeof takeFrame>;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-persons-'));
  const { plan, shot } = demoShot(demoFrames[0], 480);
  taken = takeFrame(plan, shot);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe('findPersons', () => {
  test('sees a person where one is, and nobody beside', async () => {
    const { frame, matte } = taken;
    const map = mapAt(await findPersons(frame), frame.width, frame.height);
    let both = 0;
    let either = 0;
    for (let p = 0; p < matte.data.length; p++) {
      const seen = map.data[p] > 0.5;
      const there = matte.data[p] > 0.5;
      if (seen && there) both++;
      if (seen || there) either++;
    }
    expect(both / either).toBeGreaterThan(0.85);
  });

  test('the console stays as it was, and what the runtime needs for loading is gone again', async () => {
    await findPersons(taken.frame);
    expect('importScripts' in globalThis).toBe(false);
    expect('require' in globalThis).toBe(false);
  });
});

describe('kept maps', () => {
  test('a map as a file is the very same map', async () => {
    const map = await findPersons(taken.frame);
    expect(await decodePersons(await encodePersons(map))).toEqual(map);
  });

  test('a stored photograph is looked at once', async () => {
    const store = new LocalStore(join(folder, 'store'));
    const hash = await store.put(await encodePicture(taken.frame, 'tiff16'));
    const look = vi.spyOn(looking, 'findPersons');
    const first = await personsFile(store, hash);
    expect(await personsFile(store, hash)).toEqual(first);
    expect(await keptPersons(store, hash, taken.frame)).toEqual(await decodePersons(first));
    expect(look.mock.calls.length).toBeLessThanOrEqual(1);
    await store.remove(hash);
    await expect(personsFile(store, hash)).rejects.toThrow();
  });

  test('where it cannot be found the cut goes on without, and says so', async () => {
    const said = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    const store = new LocalStore(join(folder, 'no folder'));
    await writeFile(join(folder, 'no folder'), '');
    expect(await keptPersons(store, 'f'.repeat(64), taken.frame)).toBeUndefined();
    expect(said).toHaveBeenCalled();
    said.mockRestore();
  });
});
