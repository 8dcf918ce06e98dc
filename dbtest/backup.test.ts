import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Frame, Problem, Shoot, ShootDetail, ShootList } from '../contract/index.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { served, type Served } from './served.ts';

/** Everything out and in again by one command each, while the application runs. */

const silentLawn = join(import.meta.dirname, '..', 'bin', 'silent-lawn');
let f: Served;
let elsewhere: Served;
let folder: string;
beforeAll(async () => {
  [f, elsewhere] = [await served(), await served()];
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-backup-'));
  for (const [name, { address }] of Object.entries({ here: f, there: elsewhere })) {
    await promisify(execFile)('mkdir', ['-p', join(folder, name)]);
    await writeFile(join(folder, name, 'running.json'), JSON.stringify({ address: `${address}/` }));
  }
});
afterAll(async () => {
  await f.close();
  await elsewhere.close();
  await rm(folder, { recursive: true, force: true });
});

/** Runs the command line; its code, and what it said. */
async function run(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  try {
    const { stdout, stderr } = await promisify(execFile)(silentLawn, args);
    return { code: 0, out: stdout, err: stderr };
  } catch (error) {
    const { code, stdout, stderr } = error as { code: number; stdout: string; stderr: string };
    return { code, out: stdout, err: stderr };
  }
}
async function shootWith(at: Served, name: string): Promise<number> {
  const { id } = (await at.call<Shoot>('POST', '/shoots', { name, date: '2026-06-13' })).body;
  const [setup] = (await at.call<ShootDetail>('GET', `/shoots/${id}`)).body.setups;
  const content = await sampleImage({ shade: 31 }).png().toBuffer();
  await at.call<{ frame: Frame }>('POST', `/setups/${setup.id}/frames?name=A.png`, content);
  await at.idle();
  return id;
}
const shootsOf = async (at: Served): Promise<string[]> =>
  (await at.call<ShootList>('GET', '/shoots')).body.shoots.map(({ name }) => name).toSorted();

test('a backup is restored elsewhere with every row and file; what is there is not replaced unasked', async () => {
  await shootWith(f, 'Kept');
  const backup = join(folder, 'all.zip');
  const [here, there] = ['here', 'there'].map((name) => ['--data', join(folder, name)]);
  expect(await run('backup', '--out', backup, ...here)).toMatchObject({ code: 0 });
  expect((await run('backup', '--out', backup, ...here)).err).toContain('is there already');
  await shootWith(elsewhere, 'In the way');
  const refused = await run('restore', backup, ...there);
  expect([refused.code, refused.err]).toEqual([1, expect.stringContaining('1 shoots of your own are here')]);
  expect(await shootsOf(elsewhere)).toEqual(['In the way']);
  expect(await run('restore', backup, '--replace', ...there)).toMatchObject({ code: 0 });
  expect(await shootsOf(elsewhere)).toEqual(['Kept']);
  const [shoot] = (await elsewhere.call<ShootList>('GET', '/shoots')).body.shoots;
  const { frames } = (await elsewhere.call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body;
  expect((await fetch(`${elsewhere.address}/api/frames/${frames[0].id}/thumbnail`)).status).toBe(200);
  // It goes on working.
  expect((await elsewhere.call('POST', '/shoots', { name: 'New', date: '2026-07-01' })).status).toBe(201);
});

test('a backup that is not whole changes nothing', async () => {
  const content = await readFile(join(folder, 'all.zip'));
  const before = await shootsOf(elsewhere);
  for (const spoilt of [content.subarray(0, content.length - 400), Buffer.from('no backup')]) {
    const { status, body } = await elsewhere.call<Problem>('POST', '/restore?replace=1', spoilt);
    expect([status, body.reason]).toEqual([400, expect.stringContaining('cannot be restored')]);
  }
  expect(await shootsOf(elsewhere)).toEqual(before);
});

test('a shoot is exported by its name and imported; what is not known is said with what is', async () => {
  const file = join(folder, 'kept.zip');
  const [here, there] = ['here', 'there'].map((name) => ['--data', join(folder, name)]);
  expect(await run('export', 'Kept', '--out', file, ...here)).toMatchObject({ code: 0 });
  const made = await run('import', file, '--json', ...there);
  expect(JSON.parse(made.out)).toMatchObject({ shootId: expect.any(Number) });
  expect((await shootsOf(elsewhere)).filter((name) => name === 'Kept')).toHaveLength(2);
  const unknown = await run('export', 'Nobody', '--out', join(folder, 'x.zip'), ...here);
  expect([unknown.code, unknown.err]).toEqual([1, expect.stringContaining('No shoot is called “Nobody”')]);
  const nowhere = await run('backup', '--out', join(folder, 'y.zip'), '--data', join(folder, 'none'));
  expect([nowhere.code, nowhere.err]).toEqual([1, expect.stringContaining('No Silent Lawn is running')]);
  expect((await run('export', '--out', 'x')).code).toBe(2);
});
