import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeEach, describe, expect, test } from 'vitest';
import { defaultRecipe, noGuidance, type Quality } from '../core/cut/index.ts';
import { readBatches, readFrames, type MadeWith } from '../server/database/queries.ts';
import { cuts, deliveries, deliveryFiles, frames, jobs } from '../server/database/schema.ts';
import { claimJob, releaseJob, renewLease, type ClaimedJob } from '../server/jobs/claim.ts';
import { Events } from '../server/events.ts';
import { FileGone, finishJob } from '../server/jobs/finishJob.ts';
import { JobRunner } from '../server/jobs/runner.ts';
import type { CutAnswer } from '../server/jobs/tasks.ts';
import { silentLog } from '../server/log.ts';
import { News } from '../server/news.ts';
import { fixture, seedBatch, type Fixture } from './fixture.ts';

let f: Fixture;
beforeEach(async () => {
  await f?.close();
  f = await fixture();
});
afterAll(() => f.close());

const quality: Quality = {
  screen: 'green',
  screenShare: 0.5,
  fringeShare: 0.1,
  unexplained: 0,
  noisePercent: 1,
  greenKept: 0,
  greenRemoved: 0,
  ledger: [],
  doubts: [],
  extent: { x: 0, y: 0, width: 1, height: 1 },
  minutes: 1.5,
};

const made: MadeWith = { recipe: defaultRecipe, guidance: noGuidance, plate: null, litBy: null, instructions: '' };

async function answer(content: string): Promise<CutAnswer> {
  return { ok: true, file: await f.store.put(Buffer.from(content)), depth: 8, quality, milliseconds: 1000 };
}

async function claimed(): Promise<ClaimedJob> {
  const job = await claimJob(f.database);
  if (!job) throw new Error('nothing to claim');
  return job;
}

const expire = (id: number): Promise<unknown> =>
  f.database
    .update(jobs)
    .set({ leaseUntil: sql`current_timestamp(3) - interval 1 second` as never })
    .where(eq(jobs.id, id));
const stateOf = async (id: number) => (await f.database.select().from(jobs).where(eq(jobs.id, id)))[0];

describe('claiming', () => {
  test('many at once: every job goes to exactly one', async () => {
    await seedBatch(f.database, 12);
    const got = await Promise.all(Array.from({ length: 20 }, () => claimJob(f.database)));
    const ids = got.filter((job) => job !== undefined).map((job) => job.id);
    expect(ids).toHaveLength(12);
    expect(new Set(ids).size).toBe(12);
  });

  test('a held job is not handed out until its lease ends; then the old holder’s result no longer counts', async () => {
    await seedBatch(f.database, 1);
    const dead = await claimed();
    expect(await claimJob(f.database)).toBeUndefined();
    await expire(dead.id);
    const heir = await claimed();
    expect(heir.id).toBe(dead.id);
    expect(await renewLease(f.database, dead)).toBe(false);
    const late = await answer('late');
    await finishJob(f.database, f.store, dead, made, late);
    expect(await f.database.select().from(cuts)).toEqual([]);
    expect(f.store.has(late.file)).toBe(false);
    await finishJob(f.database, f.store, heir, made, await answer('in time'));
    expect(await f.database.select().from(cuts)).toHaveLength(1);
    expect((await stateOf(heir.id)).state).toBe('done');
  });

  test('renewing keeps a job', async () => {
    await seedBatch(f.database, 1);
    const job = await claimed();
    await expire(job.id);
    expect(await renewLease(f.database, job)).toBe(true);
    expect(await claimJob(f.database)).toBeUndefined();
  });

  test('a killed holder is no failure of the frame, however often; but it waits behind the others from then on', async () => {
    await seedBatch(f.database, 2);
    const first = await claimed();
    const second = await claimed();
    for (let kills = 1; kills <= 6; kills++) {
      await expire(first.id);
      expect((await claimed()).id).toBe(first.id);
      expect(await stateOf(first.id)).toMatchObject({ state: 'running', attempts: 0, interrupted: kills });
    }
    await releaseJob(f.database, second);
    await expire(first.id);
    expect((await claimed()).id, 'what waits goes first').toBe(second.id);
  });

  test('a released job waits again and has lost no attempt', async () => {
    await seedBatch(f.database, 1);
    const job = await claimed();
    await releaseJob(f.database, job);
    expect(await stateOf(job.id)).toMatchObject({ state: 'queued', attempts: 0, token: null });
  });
});

describe('finishing', () => {
  test('a second cut replaces the first and its file', async () => {
    const { frameIds } = await seedBatch(f.database, 1);
    const first = await answer('first');
    await finishJob(f.database, f.store, await claimed(), made, first);
    await f.database.update(jobs).set({ state: 'queued' });
    const second = await answer('second');
    await finishJob(
      f.database,
      f.store,
      await claimed(),
      { ...made, recipe: { ...defaultRecipe, floor: 0.2 } },
      second,
    );
    expect(f.store.has(first.file)).toBe(false);
    const [frame] = await readFrames(f.database, { frameIds });
    expect(frame.cut).toMatchObject({ version: second.file.slice(0, 16), recipe: { floor: 0.2 }, quality });
  });

  test('a cancelled job takes no result', async () => {
    await seedBatch(f.database, 1);
    const job = await claimed();
    await f.database.update(jobs).set({ state: 'cancelled' });
    await finishJob(f.database, f.store, job, made, await answer('unwanted'));
    expect(await f.database.select().from(cuts)).toEqual([]);
  });

  test('a figure that is no number fails the frame in words and is never stored', async () => {
    const { frameIds } = await seedBatch(f.database, 1);
    await finishJob(f.database, f.store, await claimed(), made, {
      ...(await answer('nan')),
      quality: { ...quality, minutes: NaN },
    });
    const [frame] = await readFrames(f.database, { frameIds });
    expect(frame).toMatchObject({
      cut: null,
      job: { state: 'failed', problem: { reason: expect.stringContaining('minutes') } },
    });
  });

  test('a file that was removed before its row is written is made again', async () => {
    await seedBatch(f.database, 1);
    const job = await claimed();
    const made1 = await answer('removed');
    await f.store.remove(made1.file);
    await expect(finishJob(f.database, f.store, job, made, made1)).rejects.toThrow(FileGone);
    expect(await f.database.select().from(cuts)).toEqual([]);
    expect((await stateOf(job.id)).state).toBe('running');
  });

  test('a failure is kept with its reason and shown with the frame', async () => {
    const { frameIds } = await seedBatch(f.database, 1);
    await finishJob(f.database, f.store, await claimed(), made, {
      ok: false,
      reason: 'no screen',
      remedy: 'Use another.',
    });
    expect((await readFrames(f.database, { frameIds }))[0].job).toEqual({
      state: 'failed',
      problem: { reason: 'no screen', remedy: 'Use another.' },
    });
  });
});

test('work that breaks off by itself again and again fails in words and never runs for ever; the others go on', async () => {
  await seedBatch(f.database, 2);
  const events = new Events();
  const runner = new JobRunner(f.database, f.store, new News(f.database, events, 1), silentLog());
  // What the runner looks up of a frame is spoilt: a fault of ours, met before any worker has it.
  await f.database.execute(sql`update frames set guidance = '{"masks": 3}' where name = 'F0.jpg'`);
  runner.wake();
  await expect
    .poll(async () => (await f.database.select().from(jobs)).every(({ state }) => state === 'failed'), {
      timeout: 20_000,
    })
    .toBe(true);
  await runner.stop();
  events.close();
  const ended = await f.database.select().from(jobs);
  expect(ended[0]).toMatchObject({
    problem: { reason: expect.stringContaining('broke off 3 times'), remedy: expect.stringContaining('log') },
  });
  expect(ended[1].problem?.reason).toContain('missing');
}, 30_000);

test('a batch counts its jobs and estimates the time left from those done', async () => {
  const { batchId } = await seedBatch(f.database, 5);
  expect((await readBatches(f.database, 2, { batchIds: [batchId] }))[0]).toMatchObject({
    total: 5,
    open: 5,
    secondsLeft: null,
  });
  await finishJob(f.database, f.store, await claimed(), made, await answer('a'));
  expect((await readBatches(f.database, 2, { batchIds: [batchId] }))[0]).toMatchObject({
    done: 1,
    failed: 0,
    open: 4,
    secondsLeft: 2,
  });
});

test('frames of one name that finish at the same moment are delivered under different names', async () => {
  const { shootId, batchId } = await seedBatch(f.database, 6, 'deliver');
  await f.database.update(frames).set({ name: 'same.jpg' });
  await f.database
    .insert(deliveries)
    .values({ shootId, batchId, settings: { cutout: 'png', finished: 'none', quality: 90 } });
  const held = await Promise.all(Array.from({ length: 6 }, claimed));
  const file = await f.store.put(Buffer.from('picture'));
  const files = [{ kind: 'cutout' as const, extension: 'png', file, bytes: 7, width: 1, height: 1 }];
  await Promise.all(held.map((job) => finishJob(f.database, f.store, job, made, { ok: true, files, milliseconds: 1 })));
  const names = (await f.database.select().from(deliveryFiles)).map((row) => row.name).sort();
  expect(names).toEqual([
    'cutouts/same-2.png',
    'cutouts/same-3.png',
    'cutouts/same-4.png',
    'cutouts/same-5.png',
    'cutouts/same-6.png',
    'cutouts/same.png',
  ]);
});
