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

test('a recipe is kept in the library with the lamps', async () => {
  const item = { kind: 'recipe', entry: { name: 'Curls', recipe: defaultRecipe } };
  const { body: kept } = await s.call<LibraryItem>('POST', '/library', item);
  expect((await s.call<LibraryItem[]>('GET', '/library')).body).toContainEqual({ id: kept.id, item });
  const spoilt = { kind: 'recipe', entry: { name: 'Curls', recipe: { ...defaultRecipe, hairReach: 90 } } };
  expect((await s.call('POST', '/library', spoilt)).status).toBe(400);
});
