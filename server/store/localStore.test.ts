import { existsSync } from 'node:fs';
import { mkdtemp, readdir, readFile, rename, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { beforeEach, describe, expect, test } from 'vitest';
import { LocalStore } from './localStore.ts';
import { BrokenOff } from './store.ts';

let folder: string;
let store: LocalStore;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-store-'));
  store = new LocalStore(folder);
});

test('content is kept once, under its hash', async () => {
  const hash = await store.put(Buffer.from('a frame'));
  expect(await store.put(Buffer.from('a frame'))).toBe(hash);
  expect(await readFile(store.path(hash), 'utf8')).toBe('a frame');
  expect(await readdir(join(folder, 'incoming'))).toEqual([]);
});

test('a stream becomes a file only when adopted', async () => {
  const received = await store.receive(Readable.from([Buffer.from('one '), Buffer.from('two')]), 100);
  if ('tooLarge' in received) throw new Error('too large');
  expect(await store.has(received.hash)).toBe(false);
  await store.adopt(received.temporary, received.hash);
  expect(await store.put(Buffer.from('one two'))).toBe(received.hash);
});

test('an upload that is too large or breaks off leaves nothing behind', async () => {
  expect(await store.receive(Readable.from([Buffer.alloc(60), Buffer.alloc(60)]), 100)).toEqual({ tooLarge: true });
  const broken = Readable.from(
    (async function* () {
      yield Buffer.from('half');
      throw new Error('cable pulled');
    })(),
  );
  await expect(store.receive(broken, 100)).rejects.toThrow(BrokenOff);
  // Also where it breaks off while its file is still being opened.
  const already = Readable.from([Buffer.from('half')]);
  const early = store.receive(already, 100);
  already.destroy();
  await expect(early).rejects.toThrow(BrokenOff);
  expect(await readdir(join(folder, 'incoming'))).toEqual([]);
});

test('nothing but a hash becomes a path', () => {
  for (const name of ['../../etc/passwd', '', 'A'.repeat(64), `${'0'.repeat(63)}/`])
    expect(() => store.path(name)).toThrow(/64 hex digits/);
});

test('a thumbnail is made once and goes with its file', async () => {
  const hash = await store.put(Buffer.from('a frame'));
  let made = 0;
  const make = (): Promise<Buffer> => Promise.resolve(Buffer.from(`small ${++made}`));
  expect((await store.derived(hash, 'thumbnails', 'this photograph', make)).toString()).toBe('small 1');
  expect((await store.derived(hash, 'thumbnails', 'this photograph', make)).toString()).toBe('small 1');
  await store.remove(hash);
  await expect(store.derived(hash, 'thumbnails', 'this photograph', make)).rejects.toThrow(
    /photograph is missing.*Bring the same file in again/s,
  );
});

describe('a file moved to a folder elsewhere', () => {
  const moved = async (): Promise<{ hash: string; elsewhere: string; root: string }> => {
    const hash = await store.put(Buffer.from('an old frame'));
    const elsewhere = await mkdtemp(join(tmpdir(), 'silent-lawn-disk-'));
    await store.move(hash, elsewhere, 'this photograph');
    return { hash, elsewhere, root: join(elsewhere, (await readdir(elsewhere))[0]) };
  };

  test('is found there as before, also by a store that is opened anew, and comes back', async () => {
    const { hash, elsewhere } = await moved();
    expect(existsSync(store.path(hash))).toBe(false);
    const other = new LocalStore(folder);
    expect(await other.has(hash)).toBe(true);
    expect(await readFile(await other.need(hash, 'this photograph'), 'utf8')).toBe('an old frame');
    expect(await other.olderThan(-1000)).toEqual([hash]);
    expect(await other.archives()).toEqual([{ folder: elsewhere, there: true }]);
    await other.move(hash, null, 'this photograph');
    expect(await readFile(store.path(hash), 'utf8')).toBe('an old frame');
    expect((await readdir(elsewhere, { recursive: true })).filter((name) => name.endsWith(hash))).toEqual([]);
  });

  test('whose disk is away says so; put once more it is at home as well, and removed it is nowhere', async () => {
    const { hash, elsewhere, root } = await moved();
    await rename(root, `${root} away`);
    expect(await store.has(hash)).toBe(false);
    expect(await store.archives()).toEqual([{ folder: elsewhere, there: false }]);
    await expect(store.need(hash, 'this photograph')).rejects.toThrow(`“${elsewhere}” is not there now`);
    expect(await store.put(Buffer.from('an old frame'))).toBe(hash);
    await rename(`${root} away`, root);
    await store.remove(hash);
    expect(await store.has(hash)).toBe(false);
  });

  test('that is damaged, or has no room, stays where it is', async () => {
    const hash = await store.put(Buffer.from('a third frame'));
    await expect(store.move(hash, join(folder, 'no-such-disk'), 'this photograph')).rejects.toThrow('is not there');
    expect(await store.archives()).toEqual([]);
    await writeFile(store.path(hash), 'a thirD frame');
    const elsewhere = await mkdtemp(join(tmpdir(), 'silent-lawn-disk-'));
    await expect(store.move(hash, elsewhere, 'this photograph')).rejects.toThrow('is damaged');
    expect(existsSync(store.path(hash))).toBe(true);
    expect((await readdir(elsewhere, { recursive: true })).filter((name) => name.includes(hash))).toEqual([]);
  });
});
