import { randomUUID } from 'node:crypto';
import { and, asc, eq, inArray, isNull, lt, ne, or, sql, type SQL } from 'drizzle-orm';
import type { Job, JobKind, Problem } from '../../contract/index.ts';
import type { Database, Transaction } from '../database/connect.ts';
import { jobs } from '../database/schema.ts';
import type { ClaimedJob, Ended, JobChoice, NewJob, Queue } from './queue.ts';

/** A job is held for this long; the holder renews it while it works, a dead holder's job is free again after it. */
export const LEASE_SECONDS = 12;

const leaseEnd = sql`current_timestamp(3) + interval ${sql.raw(String(LEASE_SECONDS))} second`;
const isOpen = or(eq(jobs.state, 'queued'), eq(jobs.state, 'running'));

/** The queue as rows: `SELECT … FOR UPDATE SKIP LOCKED`, a lease, and a token for whoever holds a job. */
export class DatabaseQueue implements Queue {
  constructor(private readonly database: Database) {}

  async add(tx: Transaction, added: readonly NewJob[]): Promise<number[]> {
    if (!added.length) return [];
    const rows = await tx
      .insert(jobs)
      .values(added.map(({ payload = {}, ...job }) => ({ ...job, payload })))
      .$returningId();
    return rows.map(({ id }) => id);
  }

  claim(kinds: readonly JobKind[]): Promise<ClaimedJob | undefined> {
    return this.database.transaction(async (tx) => {
      const next = (where: SQL | undefined, ...order: SQL[]) =>
        tx
          .select()
          .from(jobs)
          .where(and(inArray(jobs.kind, kinds), where))
          .orderBy(...order)
          .limit(1)
          .for('update', { skipLocked: true });
      const waiting = await next(eq(jobs.state, 'queued'), asc(jobs.interrupted), asc(jobs.priority), asc(jobs.id));
      const abandoned = waiting.length
        ? []
        : await next(
            and(eq(jobs.state, 'running'), lt(jobs.leaseUntil, sql`current_timestamp(3)`)),
            asc(jobs.leaseUntil),
          );
      const [job] = [...waiting, ...abandoned];
      if (!job) return undefined;
      const token = randomUUID();
      await tx
        .update(jobs)
        .set({
          state: 'running',
          token,
          interrupted: job.interrupted + abandoned.length,
          leaseUntil: leaseEnd as never,
        })
        .where(eq(jobs.id, job.id));
      const { id, kind, payload, shootId, batchId, frameId, attempts } = job;
      return { id, kind, payload, shootId, batchId, frameId, attempts, token };
    });
  }

  async renew(job: ClaimedJob): Promise<boolean> {
    const [result] = await this.database
      .update(jobs)
      .set({ leaseUntil: leaseEnd as never })
      .where(held(job));
    return result.affectedRows === 1;
  }

  async release(job: ClaimedJob, attempts = job.attempts): Promise<void> {
    await this.database.update(jobs).set({ state: 'queued', token: null, leaseUntil: null, attempts }).where(held(job));
  }

  complete<T extends { made?: Job['made'] }>(
    job: ClaimedJob,
    milliseconds: number,
    write: (tx: Transaction) => Promise<T>,
  ): Promise<T | undefined> {
    return this.database.transaction(async (tx) => {
      const [ours] = await tx.select().from(jobs).where(held(job)).for('update');
      if (!ours) return undefined;
      const written = await write(tx);
      await tx
        .update(jobs)
        .set({ state: 'done', milliseconds, made: written.made ?? null, token: null, leaseUntil: null })
        .where(eq(jobs.id, job.id));
      return written;
    });
  }

  async fail(job: ClaimedJob, problem: Problem): Promise<void> {
    await this.database.update(jobs).set({ state: 'failed', problem, token: null, leaseUntil: null }).where(held(job));
  }

  cancel(choice: JobChoice): Promise<Ended[]> {
    const open = and(isOpen, chosen(choice));
    return this.database.transaction(async (tx) => {
      const ended = await tx
        .select({ id: jobs.id, shootId: jobs.shootId, batchId: jobs.batchId, frameId: jobs.frameId })
        .from(jobs)
        .where(open)
        .for('update');
      if (ended.length) await tx.update(jobs).set({ state: 'cancelled', token: null, leaseUntil: null }).where(open);
      return ended;
    });
  }

  async dismiss(id: number): Promise<void> {
    await this.database
      .update(jobs)
      .set({ state: 'cancelled' })
      .where(and(eq(jobs.id, id), eq(jobs.state, 'failed')));
  }

  async isOpen(choice: JobChoice): Promise<boolean> {
    const rows = await this.database
      .select({ id: jobs.id })
      .from(jobs)
      .where(and(isOpen, chosen(choice)))
      .limit(1);
    return rows.length > 0;
  }

  async forget(age: number): Promise<void> {
    const before = new Date(Date.now() - age);
    await this.database
      .delete(jobs)
      .where(
        and(isNull(jobs.batchId), lt(jobs.createdAt, before), ne(jobs.state, 'queued'), ne(jobs.state, 'running')),
      );
  }
}

function held(job: ClaimedJob): SQL | undefined {
  return and(eq(jobs.id, job.id), eq(jobs.token, job.token), eq(jobs.state, 'running'));
}

function chosen(choice: JobChoice): SQL | undefined {
  if ('every' in choice) return undefined;
  if ('id' in choice) return eq(jobs.id, choice.id);
  if ('batchId' in choice) return eq(jobs.batchId, choice.batchId);
  if ('shootId' in choice) return eq(jobs.shootId, choice.shootId);
  const about = Object.entries(choice.payload).map(
    ([name, id]) => sql`json_value(${jobs.payload}, ${`$.${name}`}) = ${id}`,
  );
  return and(eq(jobs.kind, choice.kind), ...about);
}
