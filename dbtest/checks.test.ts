import { readFile } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Check, Shoot, ShootDetail, TestPictureResult } from '../contract/index.ts';
import { startingPlan } from '../core/plan/index.ts';
import { seededSet, shotsOf, takeFrame } from '../core/studio/index.ts';
import { checks, testPictures } from '../server/database/schema.ts';
import { fromRaster } from '../server/pictures/encode.ts';
import { served, type Served } from './served.ts';

describe('rounds of test frames over HTTP', () => {
  let f: Served;
  let setupId: number;
  let shootId: number;
  const frames: Record<string, Buffer> = {};

  beforeAll(async () => {
    f = await served();
    const shoot = await send<Shoot>('POST', '/shoots', { name: 'Checked', date: '2026-06-13' });
    shootId = shoot.id;
    setupId = (await send<ShootDetail>('GET', `/shoots/${shoot.id}`)).setups[0].id;
    const set = seededSet(4400, [], 480);
    const shots = shotsOf(set, 4400, 480);
    for (const kind of ['people', 'plate', 'grey card'] as const)
      frames[kind] = await fromRaster(takeFrame(set.plan, shots[kind]).frame)
        .toColourspace('srgb')
        .jpeg({ quality: 92 })
        .toBuffer();
  });
  afterAll(() => f.close());
  const send = async <T>(method: string, path: string, body?: unknown): Promise<T> =>
    (await f.call<T>(method, path, body)).body;
  const roundNow = async (id: number): Promise<Check | undefined> =>
    (await send<ShootDetail>('GET', `/shoots/${shootId}`)).checks.find((check) => check.id === id);
  const add = (id: number, name: string, content: Buffer, kind = ''): Promise<TestPictureResult> =>
    send('POST', `/checks/${id}/pictures?name=${name}${kind && `&kind=${kind}`}`, content);

  test('pictures are recognised, read, replaced and removed; files go when nothing needs them', async () => {
    const check = await send<Check>('POST', `/setups/${setupId}/checks`);
    expect(check).toMatchObject({ setupId, pictures: [], findings: null, signedAt: null });
    expect(await send('PUT', `/checks/${check.id}/signature`)).toMatchObject({
      reason: expect.stringContaining('no readings'),
      remedy: expect.any(String),
    });
    const plate = await add(check.id, 'empty.jpg', frames.plate);
    expect(plate).toMatchObject({ outcome: 'stored', kind: 'plate' });
    const people = await add(check.id, 'frame.jpg', frames.people);
    if (people.outcome !== 'stored') throw new Error(people.reason);
    expect(people.kind).toBe('people');
    await f.idle();
    const read = (await send<ShootDetail>('GET', `/shoots/${shootId}`)).checks[0];
    expect(read.findings?.readings.map(({ id }) => id)).toEqual(expect.arrayContaining(['spread', 'noise', 'shadow']));
    expect(people.check.pictures.map(({ kind }) => kind).sort()).toEqual(['people', 'plate']);
    const view = await fetch(`${f.address}/api/checks/${check.id}/pictures/people/view`);
    expect((await sharp(Buffer.from(await view.arrayBuffer())).metadata()).height).toBe(720);

    const [row] = await f.database.select().from(testPictures).where(eq(testPictures.kind, 'people'));
    const file = f.store.path(row.file);
    const replaced = await add(check.id, 'other.jpg', frames.plate, 'people');
    expect(replaced).toMatchObject({ outcome: 'stored', kind: 'people' });
    await expect(readFile(file)).rejects.toThrow();
    expect(await send('DELETE', `/checks/${check.id}/pictures/people`)).toMatchObject({
      pictures: [{ kind: 'plate' }],
    });
    expect(await send('DELETE', `/checks/${check.id}/pictures/people`)).toMatchObject({
      reason: expect.stringContaining('does not exist'),
    });
    await send('DELETE', `/checks/${check.id}`);
    expect((await send<ShootDetail>('GET', `/shoots/${shootId}`)).checks).toEqual([]);
  }, 120_000);

  test('a gathered frame of the grey card is handed to a round of its setup, and what it asks for is read', async () => {
    const gathered = async (kind: string): Promise<number> =>
      (await send<{ frame: { id: number } }>('POST', `/setups/${setupId}/frames?name=${kind}.jpg`, frames[kind])).frame
        .id;
    const [card, people] = [await gathered('grey card'), await gathered('people')];
    await f.idle();
    const round = await send<Check>('POST', `/frames/${card}/test-picture`);
    expect(round).toMatchObject({ setupId, pictures: [{ kind: 'grey card', name: 'grey card.jpg' }] });
    await f.idle();
    const balance = (await roundNow(round.id))?.findings?.balance;
    expect(balance?.by).toBe('grey card');
    for (const gain of balance?.gains ?? [0]) expect(gain).toBeCloseTo(1, 1);
    // Once more it is the same round; whoever is on a frame is no test of the set.
    expect((await send<Check>('POST', `/frames/${card}/test-picture`)).id).toBe(round.id);
    expect(await send('POST', `/frames/${people}/test-picture`)).toMatchObject({
      reason: expect.stringContaining('not recognised'),
    });
    await send('DELETE', `/checks/${round.id}`);
    const thumbnail = await fetch(`${f.address}/api/frames/${card}/thumbnail`);
    expect(thumbnail.status, 'the frame is still there').toBe(200);
  }, 120_000);

  test('signing off lists what is open; another picture opens it again', async () => {
    const check = await send<Check>('POST', `/setups/${setupId}/checks`);
    await add(check.id, 'empty.jpg', frames.plate);
    await f.idle();
    const signed = await send<Check>('PUT', `/checks/${check.id}/signature`);
    expect(signed.signedAt).not.toBeNull();
    expect(signed.findings?.reference, 'for the frames of its setup').toMatchObject({
      upright: expect.any(Boolean),
      screen: { colour: signed.findings?.colour, level: expect.any(Number) },
    });
    const beyond = signed.findings?.readings.filter(({ verdict }) => verdict === 'beyond').length ?? 0;
    expect(signed.openPoints).toHaveLength(beyond + 3);
    expect(signed.openPoints, 'what was not photographed stays open').toEqual(
      expect.arrayContaining([
        'Not photographed: somebody on the set',
        'Not photographed: the ball',
        'Not photographed: the grey card',
      ]),
    );
    const after = await add(check.id, 'frame.jpg', frames.people);
    expect(after.outcome === 'stored' && after.check.signedAt).toBeNull();
  }, 60_000);

  test('a reading that a kill cut short is made up for', async () => {
    const check = await send<Check>('POST', `/setups/${setupId}/checks`);
    await add(check.id, 'empty.jpg', frames.plate);
    await f.idle();
    await f.database.update(checks).set({ findings: null }).where(eq(checks.id, check.id));
    await send<Check>('POST', `/checks/${check.id}/reading`);
    await f.idle();
    expect((await roundNow(check.id))?.findings?.found).toBe(true);
  }, 60_000);

  test('what is no picture, has no screen, or is asked of another shoot is refused with a remedy', async () => {
    const check = await send<Check>('POST', `/setups/${setupId}/checks`);
    expect(await add(check.id, 'broken.jpg', Buffer.from('no picture'))).toMatchObject({
      outcome: 'refused',
      name: 'broken.jpg',
      reason: expect.any(String),
      remedy: expect.any(String),
    });
    const wall = await sharp({ create: { width: 200, height: 150, channels: 3, background: '#b0a090' } })
      .jpeg()
      .toBuffer();
    expect(await add(check.id, 'wall.jpg', wall)).toMatchObject({
      outcome: 'refused',
      reason: expect.stringContaining('no green or blue screen'),
    });
    expect(await add(check.id, 'wall.jpg', wall, 'plate')).toMatchObject({ outcome: 'stored' });
    await f.idle();
    expect((await roundNow(check.id))?.findings?.found).toBe(false);
    expect(await send('POST', `/checks/${check.id}/shots`, { planId: 9999, kind: 'plate', people: [] })).toMatchObject({
      reason: expect.stringContaining('planId'),
    });
    expect(
      await send('PATCH', `/checks/${check.id}`, { marks: { ball: { x: 0.5, y: 0.5, radius: -1 } } }),
    ).toMatchObject({ reason: expect.stringContaining('marks.ball.radius') });
    expect(await send('POST', '/setups/9999/checks')).toMatchObject({ reason: expect.stringContaining('setup') });
    expect(await send('GET', `/checks/${check.id}/pictures/elephant/view`)).toMatchObject({
      reason: expect.stringContaining('kind'),
    });
  }, 60_000);

  test('the stand-in camera takes test frames of a plan of the shoot', async () => {
    const plan = startingPlan('Hall', '2026-06-13');
    const row = await send<{ id: number }>('POST', `/shoots/${shootId}/plans`, {
      plan: { ...plan, camera: { ...plan.camera, pixelsAcross: 300, pixelsDown: 450 } },
      setupId,
    });
    const check = await send<Check>('POST', `/setups/${setupId}/checks`);
    await f.job(`/checks/${check.id}/shots`, { planId: row.id, kind: 'plate', people: [], seed: 3 });
    const taken = await roundNow(check.id);
    expect(taken?.pictures).toMatchObject([{ kind: 'plate', width: 300, height: 450 }]);
    expect(taken?.findings?.difference?.lamps.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['Screen lamp left', 'Screen lamp right']),
    );
  }, 60_000);
});
