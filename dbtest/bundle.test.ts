import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import yazl from 'yazl';
import {
  bundleJsonSchema,
  bundleSchema,
  type BackgroundResult,
  type Bundle,
  type Frame,
  type Job,
  type Setup,
  type Shoot,
  type ShootDetail,
  type ShootList,
} from '../contract/index.ts';
import { someDeliverySettings, someQuality } from '../contract/testing/items.ts';
import { defaultRecipe } from '../core/cut/index.ts';
import { noSubject } from '../core/gather/subject.ts';
import { demoPlans } from '../core/plan/index.ts';
import { checks, cuts, frames } from '../server/database/schema.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { entriesOfZip } from '../server/zip/readZip.ts';
import { served, type Served } from './served.ts';

/** A shoot carried away as one file, and taken in elsewhere. */

let f: Served;
let elsewhere: Served;
let folder: string;
let shootId: number;
let original: Buffer;
beforeAll(async () => {
  [f, elsewhere] = [await served(), await served()];
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-bundle-'));
  shootId = await fullShoot();
  original = await exported(f, shootId);
});
afterAll(async () => {
  await f.close();
  await elsewhere.close();
  await rm(folder, { recursive: true, force: true });
});

async function exported(at: Served, id: number): Promise<Buffer> {
  const response = await fetch(`${at.address}/api/shoots/${id}/bundle?deliveries=1`);
  expect(response.status).toBe(200);
  return Buffer.from(await response.arrayBuffer());
}

/** A shoot that has one of everything. */
async function fullShoot(): Promise<number> {
  // Another one before it, so that no id is what it is in the bundle.
  await f.call<Shoot>('POST', '/shoots', { name: 'Before', date: '2026-01-01' });
  const { id } = (await f.call<Shoot>('POST', '/shoots', { name: 'Fair – Łódź', date: '2026-06-13' })).body;
  const detail = async () => (await f.call<ShootDetail>('GET', `/shoots/${id}`)).body;
  const [{ id: setupId }] = (await detail()).setups;
  const window = (await f.call<Setup>('POST', `/shoots/${id}/setups`, { name: 'Window' })).body;
  const [plan] = Object.values(demoPlans());
  await f.call('POST', `/shoots/${id}/plans`, { plan, setupId: window.id });
  await f.call('POST', `/shoots/${id}/subjects`, { subjects: [{ ...noSubject, name: 'Ida', consent: 'yes' }] });
  const frameIds: number[] = [];
  for (let n = 0; n < 3; n++) {
    const content = await sampleImage({ shade: 20 + n })
      .png()
      .toBuffer();
    const path = `/setups/${n === 2 ? window.id : setupId}/frames?name=K${n}.png`;
    const { frame } = (await f.call<{ frame: Frame }>('POST', path, content)).body;
    frameIds.push(frame.id);
  }
  await f.idle();
  const all = await f.database.select().from(frames);
  for (const [n, frameId] of frameIds.entries()) {
    const file = await f.store.put(
      await sampleImage({ shade: 60 + n })
        .ensureAlpha()
        .png()
        .toBuffer(),
    );
    const plate = all.find((frame) => frame.id === frameIds[0])?.file;
    const row = { frameId, file, depth: 8, recipe: defaultRecipe, quality: someQuality(), plate };
    await f.database.insert(cuts).values(row).onDuplicateKeyUpdate({ set: { file, plate } });
  }
  await f.call('PUT', `/shoots/${id}/sorting`, { changes: [{ frameIds: [frameIds[1]], plate: true }] });
  const stroke = { closed: false, points: [{ x: 0.1, y: 0.1, pressure: 1 }] };
  const { body: kept } = await f.call<{ path: string }>('POST', '/paths', stroke);
  const touch = { id: 't', kind: 'add', at: 1, on: true, size: 0.02, softness: 0.5, strength: 1, path: kept.path };
  if (kept.path)
    await f.call('PATCH', `/frames/${frameIds[0]}`, {
      guidance: { masks: [], verdicts: [], touches: [touch], departures: [] },
    });
  const backdrop = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#135' } })
    .png()
    .toBuffer();
  const { body: dusk } = await f.call<BackgroundResult>('POST', '/backgrounds?name=dusk.png', backdrop);
  if (dusk.outcome !== 'stored') throw new Error('not stored');
  const beside = { frameId: frameIds[2], x: 0.2, y: 1, height: 0.5, mirrored: false, where: 'front' };
  const placement = { backgroundId: dusk.background.id, x: 0.5, y: 1, height: 0.9, others: [beside] };
  await f.call('PUT', `/shoots/${id}/placements`, { frameIds: [frameIds[0]], placement });
  await f.database.insert(checks).values({ setupId, marks: {}, findings: null, openPoints: ['Wind'] });
  const note = { kind: 'note', at: '2026-06-13T09:12', place: 'check', setupId, words: 'Wind', camera: null };
  const { body: written } = await f.call<{ id: number }>('POST', `/shoots/${id}/notes`, note);
  await f.call('POST', `/notes/${written.id}/picture?name=a.png`, await sampleImage({ shade: 99 }).png().toBuffer());
  await f.call('POST', `/shoots/${id}/activity`, { place: 'plan', day: '2026-06-12', seconds: 300 });
  const chosen = { picks: 'all' as const, subjects: null, setups: [setupId], backgrounds: null };
  await f.call('POST', `/shoots/${id}/deliveries`, someDeliverySettings({ chosen }));
  await f.idle();
  return id;
}

async function takeIn(content: Buffer, name = 'fair.shoot.zip'): Promise<Job> {
  return (await elsewhere.job(`/shoots/import?name=${name}`, content)) as Job;
}
const shootsElsewhere = async (): Promise<number> =>
  (await elsewhere.call<ShootList>('GET', '/shoots')).body.shoots.length;

test('a shoot taken in elsewhere goes out again as the very same bytes, and is all there', async () => {
  const job = await takeIn(original);
  expect(job).toMatchObject({ state: 'done', problem: null });
  const id = job.made?.shootId ?? 0;
  expect((await exported(elsewhere, id)).equals(original)).toBe(true);
  const { body } = await elsewhere.call<ShootDetail>('GET', `/shoots/${id}`);
  expect(body.broken).toEqual([]);
  expect(body.shoot).toMatchObject({ name: 'Fair – Łódź', cut: 3, placed: 1, handedOver: 1 });
  expect(body.setups.map(({ name }) => name)).toEqual(['Setup 1', 'Window']);
  expect(body.frames.filter(({ plate }) => plate)).toHaveLength(1);
  expect(body.deliveries[0]).toMatchObject({ files: 2, batch: { open: 0 } });
  const placed = body.frames.find(({ placement }) => placement);
  expect(body.frames.map((frame) => frame.id)).toContain(placed?.placement?.others?.[0].frameId);
  expect((await fetch(`${elsewhere.address}/api/frames/${placed?.id}/thumbnail?of=cut`)).status).toBe(200);
  // Once more is another shoot, on the same background.
  expect((await takeIn(original)).state).toBe('done');
  const { body: known } = await elsewhere.call<{ name: string }[]>('GET', '/backgrounds');
  expect(known.filter(({ name }) => name.startsWith('dusk'))).toHaveLength(1);
});

describe('hostile bundles', () => {
  interface Part {
    name: string;
    content: Buffer;
  }
  async function parts(): Promise<Part[]> {
    const path = join(folder, 'original.zip');
    await writeFile(path, original);
    const found: Part[] = [];
    for await (const { name, read } of entriesOfZip(path, 1000)) {
      const chunks: Buffer[] = [];
      for await (const chunk of await read()) chunks.push(chunk as Buffer);
      found.push({ name, content: Buffer.concat(chunks) });
    }
    return found;
  }
  async function zipOf(list: readonly Part[], compress = false): Promise<Buffer> {
    const zip = new yazl.ZipFile();
    for (const { name, content } of list) zip.addBuffer(content, name, { compress });
    zip.end();
    const chunks: Buffer[] = [];
    for await (const chunk of zip.outputStream) chunks.push(chunk as Buffer);
    return Buffer.concat(chunks);
  }
  const changed = (list: Part[], change: (content: Bundle & Record<string, unknown>) => void): Part[] =>
    list.map((part) => {
      if (part.name !== 'shoot.json') return part;
      const content = JSON.parse(part.content.toString()) as Bundle & Record<string, unknown>;
      change(content);
      return { ...part, content: Buffer.from(JSON.stringify(content)) };
    });

  test.each<[string, (list: Part[]) => Part[] | Promise<Part[]>, string]>([
    ['another file beside', (list) => [...list, { name: 'readme.txt', content: Buffer.from('x') }], 'does not belong'],
    [
      'a name that repeats a file',
      (list) => [...list, { name: `evil/${list[1].name.slice(6)}`, content: list[1].content }],
      'does not belong',
    ],
    [
      'a file under a wrong name',
      (list) => list.map((p, n) => (n === 1 ? { ...p, content: Buffer.from(p.content).fill(7) } : p)),
      'another file than its name says',
    ],
    ['a file too few', (list) => list.slice(0, -1), 'is not in it'],
    [
      'a file of another size',
      (list) => list.map((p, n) => (n === 1 ? { ...p, content: Buffer.alloc(9_000_000) } : p)),
      'another size',
    ],
    ['a later version', (list) => changed(list, (c) => Object.assign(c, { version: 99 })), 'version 99'],
    ['an unknown older version', (list) => changed(list, (c) => Object.assign(c, { version: 0 })), 'version 0'],
    [
      'another format',
      (list) => changed(list, (c) => Object.assign(c, { format: 'other' })),
      'no shoot that was exported here',
    ],
    [
      'a reference to nothing',
      (list) => changed(list, (c) => void (c.frames[0].setupId = 77)),
      'setup of a frame is not in it',
    ],
    [
      'two things of one number',
      (list) => changed(list, (c) => void (c.frames[1].id = c.frames[0].id)),
      'a number of a frame is in it twice',
    ],
    [
      'one photograph twice in a setup',
      (list) => changed(list, (c) => void c.frames.push({ ...c.frames[0], id: 900 })),
      'a photograph of a setup is in it twice',
    ],
    ['two cuts of one frame', (list) => changed(list, (c) => void c.cuts.push(c.cuts[0])), 'the cut of a frame'],
    [
      'two files of one name',
      (list) => changed(list, (c) => void c.deliveries[0].files.push(c.deliveries[0].files[0])),
      'a file of a hand-over',
    ],
    [
      'a setting out of range',
      (list) => changed(list, (c) => void (c.setups[0].recipe.floor = 900)),
      'setups.0.recipe.floor',
    ],
    [
      'a path for a hash',
      (list) => changed(list, (c) => void (c.frames[0].file = '../../../etc/passwd')),
      'frames.0.file',
    ],
    [
      'a file that nothing needs',
      (list) => changed(list, (c) => void c.files.push({ sha256: 'a'.repeat(64), bytes: 1 })),
      'nothing in it needs',
    ],
    ['no contents', (list) => list.slice(1), 'no shoot.json'],
    [
      'contents that are no JSON',
      (list) => list.map((p) => (p.name === 'shoot.json' ? { ...p, content: Buffer.from('{') } : p)),
      'no JSON',
    ],
  ])('%s: refused with the reason, and nothing is taken', async (_name, spoil, reason) => {
    const before = await shootsElsewhere();
    const job = await takeIn(await zipOf(await spoil(await parts())));
    expect(job.state).toBe('failed');
    expect(job.problem?.reason).toContain('“fair.shoot.zip” cannot be taken');
    expect(job.problem?.reason).toContain(reason);
    expect(await shootsElsewhere()).toBe(before);
  });

  test.each([
    ['cut short', (zip: Buffer) => zip.subarray(0, zip.length / 2)],
    ['no ZIP at all', () => Buffer.from('hello')],
    ['empty', () => Buffer.alloc(0)],
  ])('%s: refused as no sound ZIP', async (_name, spoil) => {
    const job = await takeIn(spoil(original));
    expect([job.state, job.problem?.reason]).toEqual(['failed', expect.stringContaining('no sound ZIP')]);
  });

  test('one that swells is held to the sizes that it lists', async () => {
    const bomb = changed(await parts(), () => undefined).map((part, n) =>
      n === 1 ? { ...part, content: Buffer.alloc(60_000_000) } : part,
    );
    const job = await takeIn(await zipOf(bomb, true));
    expect([job.state, job.problem?.reason]).toEqual(['failed', expect.stringContaining('another size')]);
  });
});

test('a bundle of the first version, as it was once stored, is taken in and goes out as it was', async () => {
  const stored = await readFile(new URL('./bundles/version-1.shoot.zip', import.meta.url));
  const job = await takeIn(stored, 'old.shoot.zip');
  expect(job).toMatchObject({ state: 'done' });
  await elsewhere.idle();
  const { body } = await elsewhere.call<ShootDetail>('GET', `/shoots/${job.made?.shootId}`);
  expect(
    body.frames.map(({ facts }) => facts === null),
    'read again',
  ).toEqual([false, false, false]);
  expect(body.frames.filter(({ plate }) => plate)).toHaveLength(1);
  const again = await exported(elsewhere, job.made?.shootId ?? 0);
  await writeFile(join(folder, 'again.zip'), again);
  for await (const { name, read } of entriesOfZip(join(folder, 'again.zip'), 1000)) {
    if (name !== 'shoot.json') continue;
    const chunks: Buffer[] = [];
    for await (const chunk of await read()) chunks.push(chunk as Buffer);
    const content = bundleSchema.parse(JSON.parse(Buffer.concat(chunks).toString()));
    expect(content.shoot.name).toBe('Fair – Łódź');
    expect(content.frames).toHaveLength(3);
  }
});

test('the published schema is that of the code', async () => {
  const published = await readFile(new URL('../docs/shoot.schema.json', import.meta.url), 'utf8');
  expect(JSON.parse(published)).toEqual(JSON.parse(JSON.stringify(bundleJsonSchema())));
});
