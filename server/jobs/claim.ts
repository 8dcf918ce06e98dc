import { randomUUID } from 'node:crypto';
import { and, asc, eq, lt, sql } from 'drizzle-orm';
import type { Database } from '../database/connect.ts';
import { jobs } from '../database/schema.ts';

/** A job is held for this long; the holder renews it while it works, a dead holder's job is free again after it. */
export const LEASE_SECONDS = 12;
/** A job whose own work broke off this often is given up. */
export const MOST_ATTEMPTS = 3;

export interface ClaimedJob {
  id: number;
  batchId: number;
  frameId: number;
  /** Attempts that failed by themselves before this one. */
  attempts: number;
  token: string;
}

const leaseEnd = sql`current_timestamp(3) + interval ${sql.raw(String(LEASE_SECONDS))} second`;

/**
 * Takes the oldest job that waits, or else one whose holder died. Rows that another process is just taking are skipped, so any
 * number of workers may ask at once. A dead holder is no failure of the job: a kill, a power cut and a stop say nothing
 * about the frame. But it waits behind the others from then on, so that a frame over which everything dies holds up none.
 * @returns undefined if there is nothing to do.
 */
export async function claimJob(database: Database): Promise<ClaimedJob | undefined> {
  return database.transaction(async (tx) => {
    const waiting = await tx
      .select()
      .from(jobs)
      .where(eq(jobs.state, 'queued'))
      .orderBy(asc(jobs.interrupted), asc(jobs.id))
      .limit(1)
      .for('update', { skipLocked: true });
    const abandoned = waiting.length
      ? []
      : await tx
          .select()
          .from(jobs)
          .where(and(eq(jobs.state, 'running'), lt(jobs.leaseUntil, sql`current_timestamp(3)`)))
          .orderBy(asc(jobs.leaseUntil))
          .limit(1)
          .for('update', { skipLocked: true });
    const [job] = [...waiting, ...abandoned];
    if (!job) return undefined;
    const token = randomUUID();
    await tx
      .update(jobs)
      .set({ state: 'running', token, interrupted: job.interrupted + abandoned.length, leaseUntil: leaseEnd as never })
      .where(eq(jobs.id, job.id));
    return { id: job.id, batchId: job.batchId, frameId: job.frameId, attempts: job.attempts, token };
  });
}

/** Holds on to a job for another lease. False if it is no longer ours (cancelled, or taken as dead). */
export async function renewLease(database: Database, job: ClaimedJob): Promise<boolean> {
  const [result] = await database
    .update(jobs)
    .set({ leaseUntil: leaseEnd as never })
    .where(and(eq(jobs.id, job.id), eq(jobs.token, job.token), eq(jobs.state, 'running')));
  return result.affectedRows === 1;
}

/** Puts a job back into the queue, with so many attempts that failed by themselves. A server that stops in good order changes nothing in it. */
export async function releaseJob(database: Database, job: ClaimedJob, attempts = job.attempts): Promise<void> {
  await database
    .update(jobs)
    .set({ state: 'queued', token: null, leaseUntil: null, attempts })
    .where(and(eq(jobs.id, job.id), eq(jobs.token, job.token), eq(jobs.state, 'running')));
}
