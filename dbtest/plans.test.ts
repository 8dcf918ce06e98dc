import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Frame, Job, LibraryItem, PlanRow, Shoot, ShootDetail } from '../contract/index.ts';
import { startingPlan } from '../core/plan/index.ts';
import { served, type Served } from './served.ts';

describe('plans over HTTP', () => {
  let f: Served;
  let shoot: Shoot;
  beforeAll(async () => {
    f = await served();
    shoot = await send<Shoot>('POST', '/shoots', { name: 'Planned', date: '2026-06-13' });
  });
  afterAll(() => f.close());
  const send = async <T>(method: string, path: string, body?: unknown): Promise<T> =>
    (await f.call<T>(method, path, body)).body;
  const plan = startingPlan('Hall', '2026-06-13');

  test('made, changed, tied to a setup, exported, removed', async () => {
    const made = await send<PlanRow>('POST', `/shoots/${shoot.id}/plans`, { plan });
    expect(made.plan).toEqual(plan);
    const detail = await send<ShootDetail>('GET', `/shoots/${shoot.id}`);
    expect(detail.plans.map((row) => row.id)).toEqual([made.id]);
    const setupId = detail.setups[0].id;
    const changed = await send<PlanRow>('PATCH', `/plans/${made.id}`, {
      setupId,
      plan: { ...plan, name: '=Hall "two"' },
    });
    expect(changed).toMatchObject({ setupId, plan: { name: '=Hall "two"' } });
    const file = await fetch(`${f.address}/api/plans/${made.id}/plan.json`);
    expect(file.headers.get('content-disposition')).toContain('attachment');
    expect(await file.json()).toEqual(changed.plan);
    expect(await (await fetch(`${f.address}/api/plans/${made.id}/slots.csv`)).text()).toContain('time,guest');
    expect(await (await fetch(`${f.address}/api/plans/${made.id}/slots.ics`)).text()).toContain('BEGIN:VCALENDAR');
    for (const units of ['metric', 'imperial'])
      expect(
        Buffer.from(await (await fetch(`${f.address}/api/plans/${made.id}/sheet.pdf?units=${units}`)).arrayBuffer())
          .length,
      ).toBeGreaterThan(2000);
    expect((await fetch(`${f.address}/api/plans/${made.id}/secrets`)).status).toBe(404);
    await send('DELETE', `/plans/${made.id}`);
    expect((await send<ShootDetail>('GET', `/shoots/${shoot.id}`)).plans).toEqual([]);
    expect(await send('PATCH', `/plans/${made.id}`, { setupId: null })).toMatchObject({
      reason: expect.stringContaining('does not exist'),
    });
  });

  test('a guest’s name that looks like a formula stays text in the slot list', async () => {
    const made = await send<PlanRow>('POST', `/shoots/${shoot.id}/plans`, {
      plan: { ...plan, event: { ...plan.event, guests: 1, roster: [{ name: '=1+1', colours: [], people: 1 }] } },
    });
    expect(await (await fetch(`${f.address}/api/plans/${made.id}/slots.csv`)).text()).toContain("'=1+1");
  });

  test('what is outside the schema is refused by field; foreign setups too', async () => {
    expect(
      await send('POST', `/shoots/${shoot.id}/plans`, { plan: { ...plan, camera: { ...plan.camera, iso: 1 } } }),
    ).toMatchObject({ reason: expect.stringContaining('plan.camera.iso'), remedy: expect.any(String) });
    expect(await send('POST', `/shoots/999/plans`, { plan })).toMatchObject({
      reason: expect.stringContaining('does not exist'),
    });
    const other = await send<Shoot>('POST', '/shoots', { name: 'Other', date: '2026-06-14' });
    const { setups } = await send<ShootDetail>('GET', `/shoots/${other.id}`);
    expect(await send('POST', `/shoots/${shoot.id}/plans`, { plan, setupId: setups[0].id })).toMatchObject({
      reason: expect.stringContaining('another shoot'),
    });
  });

  test('the stand-in camera takes frames into a setup, the same one only once', async () => {
    const small = { ...plan, camera: { ...plan.camera, pixelsAcross: 200, pixelsDown: 300 } };
    const made = await send<PlanRow>('POST', `/shoots/${shoot.id}/plans`, { plan: small });
    const setupId = (await send<ShootDetail>('GET', `/shoots/${shoot.id}`)).setups[0].id;
    const shot = { kind: 'people', people: ['ada'], seed: 3, setupId };
    const taken = await f.job(`/plans/${made.id}/frames`, shot);
    const frameOf = async (job: { made: Job['made'] }): Promise<Frame | undefined> =>
      (await send<ShootDetail>('GET', `/shoots/${shoot.id}`)).frames.find(({ id }) => id === job.made?.frameId);
    expect(await frameOf(taken)).toMatchObject({ name: 'STANDIN_ada_3.jpg', width: 200, height: 300, depth: 8 });
    const again = await f.job(`/plans/${made.id}/frames`, shot);
    expect(again.made).toEqual(taken.made);
    const sixteen = await send<PlanRow>('PATCH', `/plans/${made.id}`, {
      plan: { ...small, camera: { ...small.camera, file: '16-bit' } },
    });
    const card = await f.job(`/plans/${sixteen.id}/frames`, { kind: 'grey card', people: [], setupId });
    expect(await frameOf(card)).toMatchObject({ name: 'STANDIN_grey-card_1.tif', depth: 16 });
    expect(
      await send('POST', `/plans/${made.id}/frames`, { kind: 'people', people: ['nobody'], setupId }),
    ).toMatchObject({ reason: expect.stringContaining('people') });
  }, 60_000);

  test('the library keeps, changes and removes entries of one’s own', async () => {
    const entry = {
      name: 'Van lamp',
      kind: 'panel',
      output: 5000,
      unit: 'lumen',
      beam: 100,
      width: 0.3,
      height: 0.3,
      temperature: 5600,
      tint: 0,
      watts: 60,
      flashDuration: 0.001,
    };
    const kept = await send<LibraryItem>('POST', '/library', { kind: 'lamp', entry });
    await send('PUT', `/library/${kept.id}`, { kind: 'lamp', entry: { ...entry, output: 6000 } });
    expect((await send<LibraryItem[]>('GET', '/library')).map(({ item }) => item.entry)).toEqual([
      { ...entry, output: 6000 },
    ]);
    expect(await send('POST', '/library', { kind: 'lamp', entry: { ...entry, beam: 400 } })).toMatchObject({
      reason: expect.stringContaining('entry.beam'),
    });
    await send('DELETE', `/library/${kept.id}`);
    expect(await send('GET', '/library')).toEqual([]);
  });
});
