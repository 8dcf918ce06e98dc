import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeEach, describe, expect, test } from 'vitest';
import { defaultRecipe, fingerprintOf, noGuidance } from '../core/cut/index.ts';
import type { JobKind } from '../contract/index.ts';
import type { Transaction } from '../server/database/connect.ts';
import { cuts, deliveries, deliveryFiles, frames, jobs } from '../server/database/schema.ts';
import { Events } from '../server/events.ts';
import { Arriving } from '../server/jobs/arriving.ts';
import { DatabaseQueue } from '../server/jobs/databaseQueue.ts';
import type { Hands } from '../server/jobs/definition.ts';
import { definitions } from '../server/jobs/kinds.ts';
import { Progress } from '../server/jobs/progress.ts';
import type { ClaimedJob } from '../server/jobs/queue.ts';
import { readBatches, secondsLeft } from '../server/jobs/readJobs.ts';
import { JobRunner } from '../server/jobs/runner.ts';
import { silentLog } from '../server/log.ts';
import { News } from '../server/news.ts';
import { queueFacts } from '../server/stations/gather/factsJob.ts';
import { readFrames } from '../server/stations/gather/readFrames.ts';
import type { CutOutput } from '../server/stations/extract/cutTask.ts';
import type { FilesInput } from '../server/stations/handOver/filesTask.ts';
import { Pools } from '../server/threads/pools.ts';
import type { Answer } from '../server/threads/task.ts';
import { someDeliverySettings, someQuality } from '../contract/testing/items.ts';
import { fixture, seedBatch, type Fixture } from './fixture.ts';

let f: Fixture;
let queue: DatabaseQueue;
let hands: Hands;
let arriving: Arriving;
beforeEach(async () => {
  await f?.close();
  f = await fixture();
  queue = new DatabaseQueue(f.database);
  arriving = new Arriving(0);
  hands = { database: f.database, store: f.store, queue, events: new Events(), arriving, printService: '' };
});
afterAll(() => f.close());

/** A runner whose workers answer what they are told. */
function runnerThat(answers: (input: unknown) => Promise<Answer<'cut'>>): JobRunner {
  const pools = {
    width: { batch: 2, set: 1, asked: 1 },
    run: (_lane: string, _task: string, input: unknown) => answers(input),
  };
  const news = new News(f.database, hands.events, new Progress(), 1);
  return new JobRunner(hands, pools as unknown as Pools, news, new Progress(), silentLog());
}

/** Has all jobs done. */
async function runAll(answers: (input: unknown) => Promise<Answer<'cut'>>): Promise<void> {
  const runner = runnerThat(answers);
  runner.wake();
  await expect
    .poll(
      async () => (await f.database.select().from(jobs)).some(({ state }) => state === 'queued' || state === 'running'),
      {
        timeout: 90_000,
      },
    )
    .toBe(false);
  await runner.stop();
}

const quality = someQuality({ minutes: 1.5 });

async function answer(content: string): Promise<Answer<'cut'> & { ok: true; output: CutOutput }> {
  return {
    ok: true,
    output: { file: await f.store.put(Buffer.from(content)), depth: 8, quality, faces: [], hands: [] },
    milliseconds: 1000,
  };
}

async function claimed(): Promise<ClaimedJob> {
  const job = await queue.claim(['cut', 'deliver']);
  if (!job) throw new Error('nothing to claim');
  return job;
}

const nothing = (): Promise<object> => Promise.resolve({});
const expire = (id: number): Promise<unknown> =>
  f.database
    .update(jobs)
    .set({ leaseUntil: sql`current_timestamp(3) - interval 1 second` as never })
    .where(eq(jobs.id, id));
const stateOf = async (id: number) => (await f.database.select().from(jobs).where(eq(jobs.id, id)))[0];

describe('claiming', () => {
  test('many at once: every job goes to exactly one', async () => {
    await seedBatch(f.database, 12);
    const got = await Promise.all(Array.from({ length: 20 }, () => queue.claim(['cut'])));
    const ids = got.filter((job) => job !== undefined).map((job) => job.id);
    expect(ids).toHaveLength(12);
    expect(new Set(ids).size).toBe(12);
  });

  test('a held job is not handed out until its lease ends; then the old holder’s result no longer counts', async () => {
    await seedBatch(f.database, 1);
    const dead = await claimed();
    expect(await queue.claim(['cut'])).toBeUndefined();
    await expire(dead.id);
    const heir = await claimed();
    expect(heir.id).toBe(dead.id);
    expect(await queue.renew(dead)).toBe(false);
    const late = (tx: Transaction) => tx.update(frames).set({ subject: 'late' });
    expect(await queue.complete(dead, 1, async (tx) => (await late(tx), {}))).toBeUndefined();
    expect((await f.database.select().from(frames))[0].subject).toBe('');
    expect(await queue.complete(heir, 1, nothing)).toEqual({});
    expect(await stateOf(heir.id)).toMatchObject({ state: 'done', milliseconds: 1 });
  });

  test('only jobs of the kinds that are asked for; of those that wait, the lowest priority first', async () => {
    const { shootId } = await seedBatch(f.database, 1);
    const later = { kind: 'rehearsal' as const, shootId, priority: 9 };
    await f.database.transaction((tx) => queue.add(tx, [later, { ...later, priority: 3 }]));
    expect((await queue.claim(['rehearsal']))?.id).toBeGreaterThan((await queue.claim(['rehearsal']))?.id ?? 0);
    expect(await queue.claim(['rehearsal'])).toBeUndefined();
    expect((await queue.claim(['cut']))?.kind).toBe('cut');
  });

  test('a frame that comes alone is read before cuts, a whole card after them', async () => {
    const { shootId, frameIds } = await seedBatch(f.database, 40);
    await f.database.transaction((tx) => queueFacts(tx, queue, [{ id: frameIds[0], shootId }]));
    const kinds: JobKind[] = ['cut', 'facts'];
    expect((await queue.claim(kinds))?.kind).toBe('facts');
    await f.database.transaction((tx) =>
      queueFacts(
        tx,
        queue,
        frameIds.map((id) => ({ id, shootId })),
      ),
    );
    for (let n = 0; n < 12; n++) expect((await queue.claim(kinds))?.kind).toBe('facts');
    expect((await queue.claim(kinds))?.kind).toBe('cut');
    // One that comes from the set meanwhile waits for neither the cuts nor the card.
    await f.database.transaction((tx) => queueFacts(tx, queue, [{ id: frameIds[1], shootId }]));
    expect(await queue.claim(kinds)).toMatchObject({ kind: 'facts', frameId: frameIds[1] });
    const order: string[] = [];
    for (let job = await queue.claim(kinds); job; job = await queue.claim(kinds)) order.push(job.kind);
    expect(order).toEqual([...Array.from({ length: 39 }, () => 'cut'), ...Array.from({ length: 28 }, () => 'facts')]);
  });

  test('jobs about one thing are found and cancelled together', async () => {
    const reading = (checkId: number) => ({ kind: 'reading' as const, payload: { checkId } });
    await f.database.transaction((tx) => queue.add(tx, [reading(1), reading(2)]));
    expect(await queue.isOpen(reading(2))).toBe(true);
    expect(await queue.cancel(reading(2))).toHaveLength(1);
    expect([await queue.isOpen(reading(1)), await queue.isOpen(reading(2))]).toEqual([true, false]);
  });

  test('renewing keeps a job', async () => {
    await seedBatch(f.database, 1);
    const job = await claimed();
    await expire(job.id);
    expect(await queue.renew(job)).toBe(true);
    expect(await queue.claim(['cut'])).toBeUndefined();
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
    await queue.release(second);
    await expire(first.id);
    expect((await claimed()).id, 'what waits goes first').toBe(second.id);
  });

  test('a released job waits again and has lost no attempt', async () => {
    await seedBatch(f.database, 1);
    const job = await claimed();
    await queue.release(job);
    expect(await stateOf(job.id)).toMatchObject({ state: 'queued', attempts: 0, token: null });
  });
});

describe('a runner', () => {
  test('that is stopped while it asks for work puts back what it gets', async () => {
    await seedBatch(f.database, 1);
    let asked = (): void => undefined;
    const asking = new Promise<void>((resolve) => (asked = resolve));
    let goOn = (): void => undefined;
    const held = new Promise<void>((resolve) => (goOn = resolve));
    const claim = queue.claim.bind(queue);
    let got: ClaimedJob | undefined;
    queue.claim = async (kinds) => {
      asked();
      await held;
      got = await claim(kinds);
      return got;
    };
    const runner = runnerThat(() => Promise.reject(new Error('nothing is done any more')));
    runner.wake();
    await asking;
    const stopped = runner.stop();
    goOn();
    await stopped;
    expect(got, 'stopped only when the question was answered').toBeDefined();
    const [job] = await f.database.select().from(jobs);
    expect(job).toMatchObject({ state: 'queued', attempts: 0, token: null });
  });
});

describe('a cut', () => {
  const order = { recipe: defaultRecipe, guidance: noGuidance, plate: null };

  test('replaces the one before and its file, and keeps what it was made by', async () => {
    const { frameIds } = await seedBatch(f.database, 1);
    const first = await answer('first');
    await runAll(() => Promise.resolve(first));
    await f.database.update(jobs).set({ state: 'queued' });
    const recipe = { ...defaultRecipe, floor: 0.2 };
    await f.database.execute(sql`update setups set recipe = ${JSON.stringify(recipe)}`);
    const second = await answer('second');
    await runAll(() => Promise.resolve(second));
    expect(await f.store.has(first.output.file)).toBe(false);
    const [frame] = await readFrames(f.database, { frameIds });
    const fingerprint = fingerprintOf({ ...order, recipe });
    expect(frame.cut).toMatchObject({ version: second.output.file.slice(0, 16), fingerprint, quality });
  });

  test('that was cancelled meanwhile writes nothing, and its file goes', async () => {
    await seedBatch(f.database, 1);
    const unwanted = await answer('unwanted');
    await runAll(async () => {
      await f.database.update(jobs).set({ state: 'cancelled' });
      return unwanted;
    });
    expect(await f.database.select().from(cuts)).toEqual([]);
    await expect.poll(() => f.store.has(unwanted.output.file)).toBe(false);
  });

  test('with a figure that is no number fails in words and is never stored', async () => {
    const { frameIds } = await seedBatch(f.database, 1);
    const good = await answer('nan');
    await runAll(() => Promise.resolve({ ...good, output: { ...good.output, quality: { ...quality, minutes: NaN } } }));
    const [frame] = await readFrames(f.database, { frameIds });
    expect(frame).toMatchObject({
      cut: null,
      job: { state: 'failed', problem: { reason: expect.stringContaining('minutes') } },
    });
  });

  test('whose file was removed before its row was written is made again', async () => {
    await seedBatch(f.database, 1);
    let runs = 0;
    await runAll(async () => {
      const made = await answer('removed');
      if (++runs === 1) await f.store.remove(made.output.file);
      return made;
    });
    expect(runs).toBe(2);
    expect(await f.database.select().from(jobs)).toMatchObject([{ state: 'done', attempts: 0 }]);
  });

  test('that cannot be made shows why', async () => {
    const { frameIds } = await seedBatch(f.database, 1);
    const problem = { reason: 'no screen', remedy: 'Use another.' };
    await runAll(() => Promise.resolve({ ok: false, ...problem }));
    expect((await readFrames(f.database, { frameIds }))[0].job).toEqual({ state: 'failed', problem });
  });
});

test('work that breaks off by itself again and again fails in words and never runs for ever; the others go on', async () => {
  await seedBatch(f.database, 2);
  // What the runner looks up of a frame is spoilt: a fault of ours, met before any worker has it.
  await f.database.execute(sql`update frames set guidance = '{"masks": 3}' where name = 'F0.jpg'`);
  await runAll(() => Promise.resolve({ ok: false, reason: 'the file is missing', remedy: '' }));
  const ended = await f.database.select().from(jobs);
  expect(ended[0]).toMatchObject({
    state: 'failed',
    problem: { reason: expect.stringContaining('broke off 3 times'), remedy: expect.stringContaining('log') },
  });
  expect(ended[1].problem?.reason).toContain('missing');
}, 30_000);

test('the time left comes from what is done, or from how long its like took', () => {
  expect(secondsLeft({ seconds: 10, share: 0.25 }, 5)).toBe(30);
  expect(secondsLeft({ seconds: 2, share: null }, 5)).toBe(3);
  expect(secondsLeft({ seconds: 20, share: null }, 5)).toBe(1);
  expect(secondsLeft(undefined, undefined)).toBeNull();
});

test('a batch counts its jobs and estimates the time left from those done', async () => {
  const { batchId } = await seedBatch(f.database, 5);
  expect((await readBatches(f.database, 2, { batchIds: [batchId] }))[0]).toMatchObject({
    total: 5,
    open: 5,
    secondsLeft: null,
  });
  await queue.complete(await claimed(), 1000, nothing);
  expect((await readBatches(f.database, 2, { batchIds: [batchId] }))[0]).toMatchObject({
    done: 1,
    failed: 0,
    open: 4,
    secondsLeft: 2,
  });
});

test('what is made of a frame goes into its rows of the hand-over, once, under the names that were given out', async () => {
  const { shootId, batchId, frameIds } = await seedBatch(f.database, 6, 'deliver');
  const settings = someDeliverySettings();
  const [{ insertId: deliveryId }] = await f.database.insert(deliveries).values({ shootId, batchId, settings });
  await f.database.update(jobs).set({ payload: { deliveryId } });
  const file = await f.store.put(Buffer.from('picture'));
  const { recipe, guidance } = { recipe: defaultRecipe, guidance: noGuidance };
  for (const id of frameIds) {
    await f.database.insert(cuts).values({ frameId: id, file, depth: 8, recipe, quality, guidance, fingerprint: 'x' });
    await f.database.insert(deliveryFiles).values({ deliveryId, frameId: id, name: `F${id}.png`, preset: 0 });
  }
  await runAll((input) => {
    const made = { file, bytes: 7, width: 1, height: 1, madeFrom: file };
    const files = (input as FilesInput).wanted.map(({ row }) => ({ row, ...made }));
    return Promise.resolve({ ok: true, output: { files } as never, milliseconds: 1 });
  });
  const rows = await f.database.select().from(deliveryFiles);
  expect(rows.map((row) => row.name).toSorted()).toEqual(frameIds.map((id) => `F${id}.png`).toSorted());
  expect(rows.every((row) => row.file === file && row.bytes === 7)).toBe(true);
});

test('every kind of job has a definition whose lane exists', () => {
  for (const [kind, { lane }] of Object.entries(definitions)) expect(['batch', 'set'], kind).toContain(lane);
});

test('while files come in, frames are read one at a time; afterwards as many at once as there are threads', async () => {
  const { frameIds, shootId } = await seedBatch(f.database, 3);
  await f.database.delete(jobs);
  await f.database
    .insert(jobs)
    .values(frameIds.map((frameId) => ({ kind: 'facts' as const, shootId, frameId, payload: {} })));
  let end: () => void = () => undefined;
  const coming = arriving.while(() => new Promise<void>((resolve) => (end = resolve)));
  const asked: (() => void)[] = [];
  const refused = { ok: false as const, reason: 'enough', remedy: 'None.' };
  const runner = runnerThat(() => new Promise((resolve) => asked.push(() => resolve(refused))));
  const running = async (): Promise<number> =>
    (await f.database.select().from(jobs)).filter(({ state }) => state === 'running').length;
  runner.wake();
  await expect.poll(running).toBe(1);
  await new Promise((resolve) => setTimeout(resolve, 300));
  runner.wake();
  expect(await running()).toBe(1);
  end();
  await coming;
  runner.wake();
  await expect.poll(running).toBe(2);
  for (const answerIt of asked) answerIt();
  await expect.poll(() => asked.length).toBe(3);
  for (const answerIt of asked) answerIt();
  await expect.poll(running).toBe(0);
  await runner.stop();
});
