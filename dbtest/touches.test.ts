import { utimes } from 'node:fs/promises';
import { setTimeout as sleep } from 'node:timers/promises';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, test } from 'vitest';
import {
  guidanceFileSchema,
  type Frame,
  type Problem,
  type RibbonSheet,
  type Setup,
  type Shoot,
  type ShootDetail,
} from '../contract/index.ts';
import type { Path, Touch } from '../core/cut/index.ts';
import { sweep } from '../server/store/sweep.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { served, type Served } from './served.ts';

/** Touches of a hand: kept with their frame, their paths as files, held in the cut; and what was said of its cut. */

let s: Served;
let setup: Setup;
let frame: Frame;
let shootId: number;
beforeAll(async () => {
  s = await served();
  shootId = (await s.call<Shoot>('POST', '/shoots', { name: 'Touched', date: '2026-06-13' })).body.id;
  [setup] = (await s.call<ShootDetail>('GET', `/shoots/${shootId}`)).body.setups;
  const content = await sampleImage().png().toBuffer();
  frame = (await s.call<{ frame: Frame }>('POST', `/setups/${setup.id}/frames?name=T.png`, content)).body.frame;
});
afterAll(() => s.close());

const line: Path = {
  closed: false,
  points: [
    { x: 0.3, y: 0.6, pressure: 1 },
    { x: 0.7, y: 0.6, pressure: 1 },
  ],
};
const touch = (path: string, part: Partial<Touch> = {}): Touch => ({
  id: 'one',
  at: 1,
  kind: 'take',
  on: true,
  size: 0.1,
  softness: 0,
  strength: 1,
  path,
  ...part,
});
const keep = async (path: Path): Promise<string> => (await s.call<{ path: string }>('POST', '/paths', path)).body.path;
const lay = (...touches: Touch[]) =>
  s.call<Frame>('PATCH', `/frames/${frame.id}`, { guidance: { masks: [], verdicts: [], touches } });

async function cut(): Promise<ShootDetail> {
  await s.call('POST', `/setups/${setup.id}/cut`, {});
  for (let n = 0; n < 200; n++) {
    const { body } = await s.call<ShootDetail>('GET', `/shoots/${shootId}`);
    if (body.batches.length === 0 && body.frames[0].job === null) return body;
    await sleep(100);
  }
  throw new Error('the cut does not end');
}

async function coverageAt(x: number, y: number): Promise<number> {
  const response = await fetch(`${s.address}/api/frames/${frame.id}/region?view=matte&x=${x}&y=${y}&width=4&height=4`);
  const { data } = await sharp(Buffer.from(await response.arrayBuffer()))
    .raw()
    .toBuffer({ resolveWithObject: true });
  return data[0];
}

test('a path is kept once, by its content, and read back as it was', async () => {
  const path = await keep(line);
  expect(await keep(line)).toBe(path);
  expect((await s.call<Path>('GET', `/paths/${path}`)).body).toEqual(line);
  expect((await s.call('GET', '/paths/..%2F..%2Fetc')).status).toBe(400);
  expect((await s.call<Problem>('GET', `/paths/${'0'.repeat(64)}`)).body.remedy).toContain('draw it again');
  expect((await s.call('POST', '/paths', { ...line, points: [] })).status).toBe(400);
});

test('a touch is in the cut; switched off it is not, and the old cut is wanted again', async () => {
  const untouched = (await cut()).frames[0].cut?.fingerprint;
  expect(await coverageAt(60, 96)).toBe(255);
  const path = await keep(line);
  expect((await lay(touch(path))).body.guidance.touches).toEqual([touch(path)]);
  const after = await cut();
  expect(after.frames[0].cut?.fingerprint).not.toBe(untouched);
  expect(after.orders[0].wanted).toBe(after.frames[0].cut?.fingerprint);
  expect(await coverageAt(60, 96)).toBe(0);
  expect(await coverageAt(60, 120)).toBe(255);
  await lay(touch(path, { on: false }));
  expect((await s.call<ShootDetail>('GET', `/shoots/${shootId}`)).body.orders[0].wanted).toBe(untouched);
});

test('the outline of a cut is unrolled: as long as its disc goes round, with a place for every eighth pixel', async () => {
  await lay();
  await cut();
  const ask = (query: string) => s.call<RibbonSheet>('GET', `/frames/${frame.id}/ribbon?${query}`);
  const { body } = await ask('view=grey&across=200');
  // A disc of 36 pixels, whose lower and upper edge lie within the frame.
  expect(body.length / (2 * Math.PI * 36)).toBeCloseTo(1, 1);
  expect(body.places).toHaveLength(2 * Math.ceil(body.length / body.step));
  const { width, height } = await sharp(Buffer.from(body.picture.split(',')[1], 'base64')).metadata();
  expect([width, height]).toEqual([200, 2 * body.row]);
  for (let n = 0; n < body.places.length; n += 2)
    expect(Math.hypot(body.places[n] * 120 - 60, body.places[n + 1] * 160 - 96)).toBeCloseTo(36, -1);
  // Before: the same way through the photograph, where the outside is the screen.
  const photograph = (await ask('view=photograph&across=200')).body;
  expect(photograph.places).toEqual(body.places);
  const { data } = await sharp(Buffer.from(photograph.picture.split(',')[1], 'base64'))
    .raw()
    .toBuffer({ resolveWithObject: true });
  const [r, g, b] = data.subarray((2 * 200 + 60) * 3);
  expect(g).toBeGreaterThan(1.3 * Math.max(r, b));
  // Without a background it is shown on mid-grey.
  expect((await ask('view=background&across=200')).body.picture).toBe(body.picture);
  expect((await ask('view=spill&across=200')).status).toBe(400);
  expect((await ask('view=grey&across=9')).status).toBe(400);

  // Along the same outline, what a touch would do to it before it is extracted.
  const matte = (await ask('view=matte&across=200')).body;
  expect((await ask('view=matte&across=200&wanted=now')).body).toEqual(matte);
  await lay(touch(await keep(line), { size: 0.4 }));
  const touched = (await ask('view=matte&across=200&wanted=now')).body;
  expect(touched.places).toEqual(matte.places);
  const light = async ({ picture }: RibbonSheet): Promise<number> =>
    (await sharp(Buffer.from(picture.split(',')[1], 'base64')).stats()).channels[0].mean;
  expect(await light(touched)).toBeLessThan(0.6 * (await light(matte)));
  expect((await ask('view=matte&across=200')).body).toEqual(matte);
});

test('a cut tells which touches it no longer needs, of those that are switched on', async () => {
  const corner = await keep({ closed: false, points: [{ x: 0.05, y: 0.05, pressure: 1 }] });
  const body = await keep(line);
  await lay(touch(corner), touch(body, { id: 'two', at: 2 }), touch(corner, { id: 'three', at: 3, on: false }));
  expect((await cut()).frames[0].cut?.quality.idle).toEqual(['one']);
  await lay(touch(body));
  expect((await cut()).frames[0].cut?.quality.idle).toBeUndefined();
});

test('two windows each lay on a touch: both stay', async () => {
  const path = await keep(line);
  const seen = { guidance: (await lay(touch(path))).body.guidance };
  const from = (id: string) =>
    s.call<Frame>('PATCH', `/frames/${frame.id}`, {
      guidance: { ...seen.guidance, touches: [...seen.guidance.touches, touch(path, { id, at: 2 })] },
      seen,
    });
  await Promise.all([from('left'), from('right')]);
  const [now] = (await s.call<ShootDetail>('GET', `/shoots/${shootId}`)).body.frames;
  expect(now.guidance.touches.map(({ id }) => id).sort()).toEqual(['left', 'one', 'right']);
});

test('the sweep keeps paths that a frame or a cut names; a cut whose path is gone says what to do', async () => {
  const paths = [line, { ...line, points: line.points.slice(1) }];
  const [named, loose] = [await keep(paths[0]), await keep(paths[1])];
  await lay(touch(named));
  const old = new Date(Date.now() - 86_400_000);
  for (const path of [named, loose]) await utimes(s.store.path(path), old, old);
  expect(await sweep(s.database, s.store)).toBe(1);
  expect(await s.store.has(named)).toBe(true);
  expect(await s.store.has(loose)).toBe(false);
  await lay(touch(loose));
  await s.call('POST', `/setups/${setup.id}/cut`, {});
  const failed = async (): Promise<string> =>
    (await s.call<ShootDetail>('GET', `/shoots/${shootId}`)).body.frames[0].job?.problem?.remedy ?? '';
  await expect.poll(failed, { timeout: 90_000 }).toContain('draw it again');
  await lay();
});

test('what was said of a cut is kept; a word of another window stays', async () => {
  const review = { state: 'accepted', of: 'abc', seconds: 4, settled: [{ kind: 'holes', x: 0.5, y: 0.5, good: true }] };
  const said = await s.call<Frame>('PATCH', `/frames/${frame.id}`, { review, seen: { review: null } });
  expect(said.body.review).toEqual(review);
  const more = { ...review, settled: [...review.settled, { kind: 'unsure', x: 0.2, y: 0.2, good: false }] };
  const less = { ...review, state: 'again' };
  await s.call('PATCH', `/frames/${frame.id}`, { review: more, seen: { review } });
  const now = await s.call<Frame>('PATCH', `/frames/${frame.id}`, { review: less, seen: { review } });
  expect(now.body.review).toEqual({ ...more, state: 'again' });
  expect((await s.call('PATCH', `/frames/${frame.id}`, { review: { ...review, state: 'lost' } })).status).toBe(400);
});

test('full-size pixels as they are wanted now are those that the batch gives, before it runs', async () => {
  const pixels = async (query: string): Promise<Buffer> => {
    const response = await fetch(
      `${s.address}/api/frames/${frame.id}/region?view=matte&x=10&y=20&width=2000&height=2000${query}`,
    );
    expect(response.status).toBe(200);
    const { data, info } = await sharp(Buffer.from(await response.arrayBuffer()))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual([frame.width - 10, frame.height - 20]);
    return data;
  };
  await lay();
  await cut();
  const before = await pixels('');
  await lay(
    touch(await keep(line), { kind: 'add', size: 0.3 }),
    touch(await keep(line), { id: 'two', at: 2, kind: 'hair' }),
  );
  // What is stored stays what it is; what is wanted is told beforehand.
  expect(await pixels('')).toEqual(before);
  const wanted = await pixels('&wanted=now');
  expect(wanted).not.toEqual(before);
  await cut();
  expect(await pixels('')).toEqual(wanted);
  expect(await pixels('&wanted=now')).toEqual(wanted);
});

test('all that is said of a frame goes out as a file, with the paths of its touches', async () => {
  const departures = [{ id: 'edge', to: 1 }];
  await s.call('PATCH', `/frames/${frame.id}`, {
    guidance: { masks: [], verdicts: [], touches: [touch(await keep(line))], departures },
  });
  const response = await fetch(`${s.address}/api/frames/${frame.id}/guidance.json`);
  expect(response.headers.get('content-disposition')).toContain('T.guidance.json');
  const read = guidanceFileSchema.parse(await response.json());
  expect(read.guidance).toMatchObject({ departures, touches: [{ kind: 'take', size: 0.1 }] });
  expect(read.paths.get(read.guidance.touches[0].path)).toEqual(line);
});
