import { readdir, readFile, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { ImportResult, Problem, Shoot, ShootDetail } from '../contract/index.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { dropOldUploads } from '../server/uploads/uploads.ts';
import { served, type Served } from './served.ts';

/** Files that come in parts, by the tus protocol (1.0.0) over HTTP. */

let f: Served;
let setupId: number;
let picture: Buffer;
beforeAll(async () => {
  f = await served();
  const { id } = (await f.call<Shoot>('POST', '/shoots', { name: 'Parts', date: '2026-06-13' })).body;
  setupId = (await f.call<ShootDetail>('GET', `/shoots/${id}`)).body.setups[0].id;
  picture = await sampleImage({ width: 300, height: 400, shade: 7 }).png().toBuffer();
});
afterAll(() => f.close());

const tus = { 'tus-resumable': '1.0.0' };
async function create(bytes: number): Promise<Response> {
  return fetch(`${f.address}/api/uploads`, { method: 'POST', headers: { ...tus, 'upload-length': `${bytes}` } });
}
async function begun(bytes: number): Promise<string> {
  return ((await create(bytes)).headers.get('location') ?? '').split('/').at(-1) ?? '';
}
function part(id: string, offset: number, content: Buffer): Promise<Response> {
  const headers = { ...tus, 'upload-offset': `${offset}`, 'content-type': 'application/offset+octet-stream' };
  return fetch(`${f.address}/api/uploads/${id}`, { method: 'PATCH', headers, body: new Uint8Array(content) });
}
async function offsetOf(id: string): Promise<number> {
  const { headers } = await fetch(`${f.address}/api/uploads/${id}`, { method: 'HEAD', headers: tus });
  return Number(headers.get('upload-offset'));
}
const take = (id: string, name = 'parts.png') =>
  f.call<ImportResult & Problem>('POST', `/setups/${setupId}/frames?${new URLSearchParams({ name, upload: id })}`);
const arriving = (): Promise<string[]> => readdir(join(f.storeFolder, 'arriving'));

test('in two parts: not before it is whole, then once; nothing of it is left behind', async () => {
  const id = await begun(picture.length);
  const half = Math.floor(picture.length / 2);
  expect((await part(id, 0, picture.subarray(0, half))).status).toBe(204);
  expect(await take(id)).toMatchObject({ status: 404, body: { reason: '“parts.png” has not arrived whole' } });
  expect(await offsetOf(id)).toBe(half);
  expect((await part(id, 0, picture)).status, 'from where it is not').toBe(409);
  expect((await part(id, half, picture.subarray(half))).status).toBe(204);
  expect((await take(id)).body).toMatchObject({ outcome: 'stored', frame: { name: 'parts.png', width: 300 } });
  expect((await take(id)).status, 'it was forgotten').toBe(404);
  expect(await arriving()).toEqual([]);
});

test('sent whole as it begins; the same once more is found to be here', async () => {
  const headers = {
    ...{ ...tus, 'upload-length': `${picture.length}` },
    'content-type': 'application/offset+octet-stream',
  };
  const made = await fetch(`${f.address}/api/uploads`, { method: 'POST', headers, body: new Uint8Array(picture) });
  expect(made.headers.get('location')).toMatch(/^\/api\/uploads\/[0-9a-f]{32}$/);
  const id = (made.headers.get('location') ?? '').slice(-32);
  expect((await take(id, 'again.png')).body).toMatchObject({ outcome: 'duplicate', of: 'parts.png' });
});

test('what is no picture is refused by its content, and gone', async () => {
  const words = Buffer.from('no picture at all');
  const id = await begun(words.length);
  await part(id, 0, words);
  expect((await take(id, 'notes.jpg')).body).toMatchObject({ outcome: 'refused', name: 'notes.jpg' });
  expect(await arriving()).toEqual([]);
});

test('too large is said before anything is sent', async () => {
  const large = await create(600e6);
  expect([large.status, (JSON.parse(await large.text()) as Problem).reason]).toEqual([
    413,
    'the file is larger than 520 MB',
  ]);
});

test('names are nothing but names', async () => {
  const outside = join(f.storeFolder, 'secret');
  await writeFile(outside, 'secret');
  for (const id of ['../secret', '..%2Fsecret', 'x'.repeat(32), '']) {
    expect((await take(id)).status, id).toBe(404);
    const seen = await fetch(`${f.address}/api/uploads/${encodeURIComponent(id)}`, { method: 'HEAD', headers: tus });
    expect(seen.status, id).toBeGreaterThanOrEqual(400);
  }
});

test('what nobody went on with for days is dropped, what is under way is not', async () => {
  const [old, young] = [await begun(100), await begun(100)];
  const facts = { id: old, size: 100, offset: 0, creation_date: new Date(Date.now() - 4 * 86_400_000).toISOString() };
  await writeFile(join(f.storeFolder, 'arriving', `${old}.json`), JSON.stringify(facts));
  await utimes(join(f.storeFolder, 'arriving', old), 0, 0);
  await dropOldUploads(f.store);
  expect((await arriving()).sort()).toEqual([young, `${young}.json`].sort());
});

test('a HEIC file becomes a frame and a background that can be worked on, and is known when it comes again', async () => {
  const content = await readFile(new URL('../server/testing/heic/four-p3.heic', import.meta.url));
  const heic = await f.call<ImportResult>('POST', `/setups/${setupId}/frames?name=IMG_1.HEIC`, content);
  expect(heic.body).toMatchObject({
    outcome: 'stored',
    frame: { name: 'IMG_1.HEIC', width: 240, height: 320, depth: 8, takenAt: '2026-06-13T11:04:07', raw: false },
  });
  if (heic.body.outcome !== 'stored') return;
  expect((await fetch(`${f.address}/api/frames/${heic.body.frame.id}/thumbnail`)).status).toBe(200);
  const again = await f.call<ImportResult>('POST', `/setups/${setupId}/frames?name=IMG_1.HEIC`, content);
  expect(again.body).toMatchObject({ outcome: 'duplicate', of: 'IMG_1.HEIC' });
  expect((await f.call('POST', '/backgrounds?name=pier.heic', content)).body).toMatchObject({
    outcome: 'stored',
    background: { name: 'pier', width: 240, height: 320 },
  });
  const broken = await f.call('POST', `/setups/${setupId}/frames?name=half.heic`, content.subarray(0, 900));
  expect(broken.body).toMatchObject({ outcome: 'refused', reason: expect.stringContaining('damaged') });
});
