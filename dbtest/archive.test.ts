import { mkdtemp, readdir, rename, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Frame, Problem, Shoot, ShootDetail, Space, Subject } from '../contract/index.ts';
import { noSubject } from '../core/gather/subject.ts';
import { backupOf } from '../server/backup/backup.ts';
import { jobs } from '../server/database/schema.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { served, type Served } from './served.ts';

/** The pictures of a shoot moved to another disk, over HTTP. */

let f: Served;
let disk: string;
beforeAll(async () => {
  f = await served();
  disk = await mkdtemp(join(tmpdir(), 'silent-lawn-disk-'));
});
afterAll(async () => {
  await f.close();
  await rm(disk, { recursive: true, force: true });
});

async function shootOf(name: string, shades: number[]): Promise<{ shootId: number; frames: Frame[] }> {
  const { id: shootId } = (await f.call<Shoot>('POST', '/shoots', { name, date: '2025-06-13' })).body;
  const { setups } = (await f.call<ShootDetail>('GET', `/shoots/${shootId}`)).body;
  const frames: Frame[] = [];
  for (const shade of shades) {
    const content = await sampleImage({ shade }).png().toBuffer();
    const path = `/setups/${setups[0].id}/frames?name=${name}-${shade}.png`;
    frames.push((await f.call<{ frame: Frame }>('POST', path, content)).body.frame);
  }
  await f.idle();
  return { shootId, frames };
}
const space = async (shootId: number): Promise<Space> => (await f.call<Space>('GET', `/shoots/${shootId}/space`)).body;
const stored = async (): Promise<string[]> =>
  (await readdir(disk, { recursive: true })).filter((n) => /[0-9a-f]{64}$/.test(n));
const look = async ({ id }: Frame): Promise<number> => (await fetch(`${f.address}/api/frames/${id}/working`)).status;

test('its own pictures move and are found there; what another shoot needs stays; they come back', async () => {
  const { shootId, frames } = await shootOf('Old', [1, 2]);
  // Just the same picture as one of the old shoot's.
  await shootOf('New', [2]);
  expect(await f.job(`/shoots/${shootId}/archive`, { folder: disk })).toMatchObject({ state: 'done' });
  expect(await stored()).toHaveLength(1);
  expect((await space(shootId)).archive).toEqual({ folder: disk, there: true });
  expect((await space(shootId)).taken[0]).toMatchObject({ what: 'photographs', files: 2 });
  expect(await Promise.all(frames.map(look))).toEqual([200, 200]);
  const { body } = await f.call<{ shoots: Shoot[] }>('GET', '/shoots');
  expect(body.shoots.map(({ name, archive }) => [name, archive])).toEqual([
    ['New', null],
    ['Old', disk],
  ]);

  const refused = await f.call<Problem>('POST', `/shoots/${shootId}/archive`, { folder: tmpdir() });
  expect(refused).toMatchObject({ status: 409, body: { reason: expect.stringContaining(disk) } });
  expect((await f.call<Problem>('POST', `/shoots/${shootId}/archive`, { folder: 'here' })).status).toBe(400);
  // The same folder, written otherwise.
  expect(await f.job(`/shoots/${shootId}/archive`, { folder: `${disk}/` })).toMatchObject({ state: 'done' });

  expect(await f.job(`/shoots/${shootId}/archive`, { folder: null })).toMatchObject({ state: 'done' });
  expect(await stored()).toEqual([]);
  expect((await space(shootId)).archive).toBeNull();
  expect(await Promise.all(frames.map(look))).toEqual([200, 200]);
});

test('while its disk is away nothing is taken for lost: no backup, no deletion, no bringing back; each says why', async () => {
  const { shootId, frames } = await shootOf('Away', [5]);
  await f.call('POST', `/shoots/${shootId}/subjects`, { subjects: [{ ...noSubject, name: 'Ida' }] });
  await f.call('PUT', `/shoots/${shootId}/sorting`, { changes: [{ frameIds: [frames[0].id], subject: 'Ida' }] });
  expect(await f.job(`/shoots/${shootId}/archive`, { folder: disk })).toMatchObject({ state: 'done' });
  const unplugged = `${disk} unplugged`;
  await rename(disk, unplugged);

  expect((await space(shootId)).archive).toEqual({ folder: disk, there: false });
  expect(await look(frames[0])).toBeGreaterThanOrEqual(400);
  const carried = await f.call<Problem>('GET', `/shoots/${shootId}/bundle`);
  expect(carried).toMatchObject({ status: 409, body: { reason: expect.stringContaining(disk) } });
  await expect(backupOf(f.context)).rejects.toMatchObject({ problem: { reason: expect.stringContaining(disk) } });
  const { subjects } = (await f.call<ShootDetail>('GET', `/shoots/${shootId}`)).body;
  const ida = subjects.find(({ name }) => name === 'Ida') as Subject;
  const erased = await f.call<Problem>('DELETE', `/subjects/${ida.id}/pictures`);
  expect(erased).toMatchObject({ status: 409, body: { reason: expect.stringContaining(disk) } });
  expect(await f.job(`/shoots/${shootId}/archive`, { folder: null })).toMatchObject({
    state: 'failed',
    problem: { reason: expect.stringContaining('not there now') },
  });

  await rename(unplugged, disk);
  expect((await backupOf(f.context)).some((entry) => 'stored' in entry)).toBe(true);
  expect((await f.call('DELETE', `/subjects/${ida.id}/pictures`)).status).toBe(200);
  expect(await stored(), 'deleted on the other disk, too').toEqual([]);
});

test('a folder that is not there is refused, and the shoot stays where it is', async () => {
  const { shootId } = await shootOf('Typing', [7]);
  const missing = join(disk, 'not', 'there');
  const refused = await f.call<Problem>('POST', `/shoots/${shootId}/archive`, { folder: missing });
  expect(refused).toMatchObject({ status: 409, body: { reason: `the folder “${missing}” is not there` } });
  expect((await space(shootId)).archive).toBeNull();
  expect((await backupOf(f.context)).length, 'nothing stands in a backup’s way').toBeGreaterThan(2);
});

test('is refused while something is made from them', async () => {
  const { shootId } = await shootOf('Busy', [9]);
  await f.database.insert(jobs).values({ kind: 'facts', shootId, payload: {}, state: 'running' });
  const { status, body } = await f.call<Problem>('POST', `/shoots/${shootId}/archive`, { folder: disk });
  expect([status, body.reason]).toEqual([409, 'something is still being made from the pictures of “Busy”']);
  await f.database.delete(jobs);
});
