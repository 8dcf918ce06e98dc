import sharp from 'sharp';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Frame, LibraryItem, OrderItem, Problem, Setup, Shoot, ShootDetail } from '../contract/index.ts';
import { defaultRecipe, noGuidance, type Departure } from '../core/cut/index.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { served, type Served } from './served.ts';

/** Settings for a setup, a subject, a frame; tried before they are kept; kept as recipes. */

let s: Served;
let setup: Setup;
let frames: Frame[];
let shootId: number;
beforeAll(async () => {
  s = await served();
  shootId = (await s.call<Shoot>('POST', '/shoots', { name: 'Settings', date: '2026-06-13' })).body.id;
  [setup] = (await detail()).setups;
  frames = [];
  for (const [n, quality] of [90, 91, 92].entries()) {
    const content = await sampleImage().jpeg({ quality }).toBuffer();
    frames.push(
      (await s.call<{ frame: Frame }>('POST', `/setups/${setup.id}/frames?name=S${n}.jpg`, content)).body.frame,
    );
  }
});
afterAll(() => s.close());

const detail = async (): Promise<ShootDetail> => (await s.call<ShootDetail>('GET', `/shoots/${shootId}`)).body;
const wanted = async (): Promise<OrderItem['wanted'][]> => {
  const { orders } = await detail();
  return frames.map(({ id }) => orders.find((order) => order.id === id)?.wanted ?? null);
};
const depart = (frame: Frame, subject: string, ...departures: Departure[]) =>
  s.call<Frame>('PATCH', `/frames/${frame.id}`, { subject, guidance: { ...noGuidance, departures } });

test('a departure changes what its frame is wanted with; one for the subject that of its other frames, too', async () => {
  const before = await wanted();
  expect((await depart(frames[0], '', { id: 'edge', to: 1 })).status).toBe(200);
  let now = await wanted();
  expect(now.map((one, n) => one === before[n])).toEqual([false, true, true]);
  await s.call('PATCH', `/frames/${frames[1].id}`, { subject: 'Ada' });
  await depart(frames[0], 'Ada', { id: 'edge', to: 1, wholeSubject: true });
  now = await wanted();
  expect(now.map((one, n) => one === before[n])).toEqual([false, false, true]);
  await depart(frames[0], 'Ada');
  expect(await wanted()).toEqual(before);
});

test('a departure beyond its setting’s range, or of no setting, is refused by its field', async () => {
  for (const departure of [
    { id: 'edge', to: 40 },
    { id: 'sparkle', to: 1 },
    { id: 'method', to: 3 },
  ]) {
    const { status, body } = await s.call<Problem>('PATCH', `/frames/${frames[0].id}`, {
      guidance: { ...noGuidance, departures: [departure] },
    });
    expect(status).toBe(400);
    expect(body.reason).toContain('guidance.departures.0');
  }
});

test('a trial compares every frame and keeps nothing', async () => {
  const before = await detail();
  const recipe = { ...defaultRecipe, floor: 0.3, edge: -3 };
  const done = await s.job(`/setups/${setup.id}/trial`, { recipe });
  expect(done).toMatchObject({ kind: 'trial', about: { setupId: setup.id }, state: 'done' });
  const compared = done.made?.compared ?? [];
  expect(compared.map(({ frameId }) => frameId).sort()).toEqual(frames.map(({ id }) => id).sort());
  for (const { changed } of compared) expect(changed).toBeGreaterThan(0);
  const after = await detail();
  expect(after.setups[0].recipe).toEqual(before.setups[0].recipe);
  expect(after.orders.map((order) => order.wanted)).toEqual(before.orders.map((order) => order.wanted));
});

test('a frame that cannot be compared is left out of a trial and stops no other', async () => {
  const gone = { id: 'a', at: 1, kind: 'take', on: true, size: 0.1, softness: 0, strength: 1, path: 'f'.repeat(64) };
  await s.call('PATCH', `/frames/${frames[1].id}`, { guidance: { ...noGuidance, touches: [gone] } });
  const done = await s.job(`/setups/${setup.id}/trial`, { recipe: { ...defaultRecipe, edge: -1 } });
  expect(done.state).toBe('done');
  expect(done.made?.compared?.map(({ frameId }) => frameId)).toEqual([frames[0].id, frames[2].id]);
  await s.call('PATCH', `/frames/${frames[1].id}`, { guidance: noGuidance });
});

test('a recipe is kept in the library with the lamps', async () => {
  const item = { kind: 'recipe', entry: { name: 'Curls', recipe: defaultRecipe } };
  const { body: kept } = await s.call<LibraryItem>('POST', '/library', item);
  expect((await s.call<LibraryItem[]>('GET', '/library')).body).toContainEqual({ id: kept.id, item });
  const spoilt = { kind: 'recipe', entry: { name: 'Curls', recipe: { ...defaultRecipe, hairReach: 90 } } };
  expect((await s.call('POST', '/library', spoilt)).status).toBe(400);
});

test('a matte made elsewhere is the frame’s coverage; one of another shape is refused; taken off, all is as before', async () => {
  const [frame] = frames;
  const cut = async (): Promise<void> => {
    await s.call('POST', `/setups/${setup.id}/cut`, { frameIds: [frame.id] });
    await s.idle();
  };
  const coverage = async (): Promise<Buffer> => {
    const response = await fetch(
      `${s.address}/api/frames/${frame.id}/region?view=matte&x=0&y=0&width=2000&height=2000`,
    );
    return (
      await sharp(Buffer.from(await response.arrayBuffer()))
        .raw()
        .toBuffer({ resolveWithObject: true })
    ).data;
  };
  await cut();
  const before = await coverage();
  const { width, height } = frame;
  const left = { create: { width: width >> 1, height, channels: 3 as const, background: '#fff' } };
  const grey = await sharp({ create: { width, height, channels: 3, background: '#000' } })
    .composite([{ input: await sharp(left).png().toBuffer(), left: 0, top: 0 }])
    .png()
    .toBuffer();
  const { status, body } = await s.call<{ file: string }>('POST', `/frames/${frame.id}/matte`, grey);
  expect(status).toBe(201);
  const matte = { file: body.file, use: 'instead' };
  expect((await s.call('PATCH', `/frames/${frame.id}`, { guidance: { ...noGuidance, matte } })).status).toBe(200);
  await cut();
  const half = await coverage();
  expect(half[3 * (5 * width + 3)]).toBe(255);
  expect(half[3 * (5 * width + width - 3)]).toBe(0);
  // The transparency of a cut-out picture serves as well.
  const cutout = await sharp({ create: { width, height, channels: 4, background: { r: 9, g: 9, b: 9, alpha: 0 } } })
    .composite([{ input: await sharp(left).png().toBuffer(), left: 0, top: 0 }])
    .png()
    .toBuffer();
  const second = (await s.call<{ file: string }>('POST', `/frames/${frame.id}/matte`, cutout)).body;
  await s.call('PATCH', `/frames/${frame.id}`, { guidance: { ...noGuidance, matte: { ...matte, ...second } } });
  await cut();
  expect(await coverage()).toEqual(half);
  const shown = await fetch(`${s.address}/api/mattes/${second.file}`);
  expect(shown.headers.get('content-type')).toBe('image/png');

  const long = await sharp(left).resize(width, width).png().toBuffer();
  const refused = await s.call<Problem>('POST', `/frames/${frame.id}/matte`, long);
  expect([refused.status, refused.body.reason]).toEqual([
    400,
    expect.stringContaining(`the frame ${width} × ${height}`),
  ]);
  expect((await s.call('POST', `/frames/${frame.id}/matte`, Buffer.from('no picture'))).status).toBe(400);

  await s.call('PATCH', `/frames/${frame.id}`, { guidance: { ...noGuidance, matte: null } });
  await cut();
  expect(await coverage()).toEqual(before);
});

test('a picture that was cut out elsewhere comes in as a frame: its transparency is its matte, no screen is asked for', async () => {
  const [width, height] = [120, 160];
  const disc = Buffer.from(
    `<svg width="${width}" height="${height}"><circle cx="60" cy="80" r="40" fill="#a06040" /></svg>`,
  );
  const cutout = await sharp(disc).png().toBuffer();
  const path = `/setups/${setup.id}/frames?name=elsewhere.png`;
  const { frame, question } = (await s.call<{ frame: Frame; question?: Problem }>('POST', path, cutout)).body;
  expect(question?.reason).toContain('cut out already');
  expect(frame.guidance).toMatchObject({ matte: { use: 'instead' }, departures: [{ id: 'method', to: 'whole' }] });
  await s.call('POST', `/setups/${setup.id}/cut`, { frameIds: [frame.id] });
  await s.idle();
  const done = (await detail()).frames.find(({ id }) => id === frame.id);
  expect(done?.cut?.quality).toMatchObject({ screen: 'none', minutes: 0 });
  const response = await fetch(`${s.address}/api/frames/${frame.id}/region?view=matte&x=0&y=0&width=120&height=160`);
  const shown = await sharp(Buffer.from(await response.arrayBuffer()))
    .extractChannel(0)
    .raw()
    .toBuffer();
  const given = await sharp(cutout).extractChannel(3).raw().toBuffer();
  expect(shown.length).toBe(given.length);
  // Coverage of a few hundredths counts as gone.
  shown.forEach((value, p) => expect(Math.abs(value - given[p])).toBeLessThanOrEqual(12));
  // A photograph is as it was: nothing is said of it.
  expect(frames[0].guidance).toEqual(noGuidance);
});
