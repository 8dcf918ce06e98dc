import { mkdtemp, readdir, readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { beforeEach, expect, test } from 'vitest';
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
