import { mkdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { shootListSchema, type Shoot, type ShootDetail, type ShootList } from '../contract/index.ts';
import { startingPlan } from '../core/plan/index.ts';
import { demoBackgrounds, demoFrames } from '../core/studio/index.ts';
import { backgrounds, frames, jobs, placements, setups, shoots } from '../server/database/schema.ts';
import { decodePicture } from '../server/pictures/decode.ts';
import { ensureSample, takenAt } from '../server/stations/shoots/sample.ts';
import { purgeShoots } from '../server/stations/shoots/shoots.ts';
import { served, type Served } from './served.ts';

let f: Served;
beforeAll(async () => {
  f = await served();
});
afterAll(() => f.close());
const send = async <T>(method: string, path: string, body?: unknown): Promise<T> =>
  (await f.call<T>(method, path, body)).body;
const list = async (): Promise<Shoot[]> => shootListSchema.parse(await send('GET', '/shoots')).shoots;

describe('a shoot', () => {
  let shoot: Shoot;
  beforeAll(async () => {
    shoot = await send<Shoot>('POST', '/shoots', { name: 'Harbour day', date: '2026-07-01', place: 'Quay' });
  });

  test('is renamed; a wrong date is refused by its field', async () => {
    expect(await send('PATCH', `/shoots/${shoot.id}`, { name: 'Harbour night' })).toMatchObject({
      name: 'Harbour night',
      place: 'Quay',
    });
    expect(await send('PATCH', `/shoots/${shoot.id}`, { date: 'soon' })).toMatchObject({
      reason: expect.stringContaining('date'),
    });
  });

  test('is duplicated with its plans and its setups’ settings, tied as they were, and without frames', async () => {
    const { setups: made } = await send<ShootDetail>('GET', `/shoots/${shoot.id}`);
    await send('PATCH', `/setups/${made[0].id}`, { name: 'Blue room' });
    await send('POST', `/shoots/${shoot.id}/plans`, { plan: startingPlan('Hall', '2026-07-01'), setupId: made[0].id });
    const copy = await send<Shoot>('POST', `/shoots/${shoot.id}/copy`);
    expect(copy).toMatchObject({ name: 'Harbour night, again', plans: 1, frames: 0 });
    const detail = await send<ShootDetail>('GET', `/shoots/${copy.id}`);
    expect(detail.setups.map(({ name }) => name)).toEqual(['Blue room']);
    expect(detail.plans[0].setupId).toBe(detail.setups[0].id);
  });

  test('is removed, comes back within ten minutes, and goes for good after them', async () => {
    expect((await f.call('DELETE', `/shoots/${shoot.id}`)).status).toBe(204);
    expect((await f.call('GET', `/shoots/${shoot.id}`)).status).toBe(404);
    const removed = (await list()).find(({ id }) => id === shoot.id);
    expect(removed?.removedAt).not.toBeNull();
    await purgeShoots(f.context);
    expect(await send('POST', `/shoots/${shoot.id}/return`)).toMatchObject({ removedAt: null, plans: 1 });
    await send('DELETE', `/shoots/${shoot.id}`);
    await f.database
      .update(shoots)
      .set({ removedAt: new Date(Date.now() - 11 * 60_000) })
      .where(eq(shoots.id, shoot.id));
    await purgeShoots(f.context);
    expect((await list()).some(({ id }) => id === shoot.id)).toBe(false);
    expect((await f.call('POST', `/shoots/${shoot.id}/return`)).status).toBe(404);
  });
});

describe('the sample shoot', () => {
  const chosen = demoFrames.filter(({ name }) => Number(name.slice(-2)) <= 2);

  test('is rendered with its truth, placed, cut and tested by itself', async () => {
    await mkdir(join(f.storeFolder, '..', 'demo-truth'), { recursive: true });
    await ensureSample(f.context, f.context.sample);
    f.runner.wake();
    await f.idle();
    const [sample] = (await list()).filter((one) => one.sample);
    expect(sample).toMatchObject({ frames: chosen.length, placed: chosen.length, pending: 0, rounds: 2 });
    const detail = await send<ShootDetail>('GET', `/shoots/${sample.id}`);
    expect(detail.frames.map(({ name }) => name).sort()).toEqual(chosen.map(({ name }) => `${name}.jpg`).sort());
    // Frames of 120 pixels are too coarse for a promise that each can be cut; what came of each is told.
    for (const { cut, job } of detail.frames) expect(cut !== null || job?.state === 'failed').toBe(true);
    for (const { pictures, findings } of detail.checks) {
      expect(pictures).toHaveLength(4);
      expect(findings).not.toBeNull();
    }
    const [first] = await f.database.select().from(frames);
    const picture = await decodePicture(f.store.path(first.file), 'frame');
    expect([picture.width, picture.height]).toEqual([80, 120]);
    for (const { name } of chosen)
      expect((await stat(join(f.storeFolder, '..', 'demo-truth', `${name}.png`))).size).toBeGreaterThan(100);
    expect(await send('GET', '/backgrounds')).toHaveLength(demoBackgrounds.length);
    expect(sample.strip.length).toBeGreaterThan(0);
  }, 300_000);

  test('a second start makes nothing twice, whatever the setups are called', async () => {
    const before = (await f.database.select().from(jobs)).length;
    await f.database.update(setups).set({ name: 'Named anew' });
    await ensureSample(f.context, f.context.sample);
    expect(await f.database.select().from(jobs)).toHaveLength(before);
  });

  test('once removed it stays away at the next start; brought back for its pictures alone, nobody is placed, cut or tested', async () => {
    const { shoots: all } = await send<ShootList>('GET', '/shoots');
    const sample = all.find((one) => one.sample && one.removedAt === null);
    await send('DELETE', `/shoots/${sample?.id}`);
    await ensureSample(f.context, f.context.sample);
    expect(await send('GET', '/shoots')).toMatchObject({ sampleHere: false });
    // Whatever comes first: the backgrounds are not there, either.
    await f.database.delete(placements);
    await f.database.delete(backgrounds);
    f.context.sample.extent = 'pictures';
    expect(await send('POST', '/sample')).toMatchObject({ sampleHere: true });
    await f.idle();
    const back = (await list()).find((one) => one.sample && one.removedAt === null);
    expect(back).toMatchObject({ frames: chosen.length, placed: 0, cut: 0, rounds: 0, pending: 0 });
    expect(await send('GET', '/backgrounds')).toHaveLength(demoBackgrounds.length);
  }, 300_000);

  test('the day’s times follow the numbers', () => {
    expect(takenAt('SKM_0101')).toBe('2026:06:13 11:04:07');
    expect(takenAt('SKM_0205')).toBe('2026:06:13 14:20:07');
  });
});
