import { randomUUID } from 'node:crypto';
import { and, asc, eq, lt, or, sql } from 'drizzle-orm';
import type { Problem } from '../../contract/index.ts';
import type { Database } from '../database/connect.ts';
import { jobs } from '../database/schema.ts';

/** A job is held for this long; the holder renews it while it works, a dead holder's job is free again after it. */
export const LEASE_SECONDS = 12;
const MOST_ATTEMPTS = 3;

export interface ClaimedJob {
  id: number;
  batchId: number;
  frameId: number;
  token: string;
}

const leaseEnd = sql`current_timestamp(3) + interval ${sql.raw(String(LEASE_SECONDS))} second`;

/**
 * Takes the oldest job that waits, or whose holder died. Rows that another process is just taking are skipped, so any
 * number of workers may ask at once. A job that has killed its worker several times is given up.
 * @returns undefined if there is nothing to do.
 */
export async function claimJob(database: Database): Promise<ClaimedJob | undefined> {
  for (;;) {
    const outcome = await database.transaction(async (tx) => {
      const [job] = await tx
        .select()
        .from(jobs)
        .where(or(eq(jobs.state, 'queued'), and(eq(jobs.state, 'running'), lt(jobs.leaseUntil, sql`current_timestamp(3)`))))
        .orderBy(asc(jobs.id))
        .limit(1)
        .for('update', { skipLocked: true });
      if (!job) return 'none' as const;
      if (job.attempts >= MOST_ATTEMPTS) {
        const problem: Problem = { reason: `the work on it broke off ${MOST_ATTEMPTS} times`, remedy: 'Free some memory and cut it again; if it fails again, export the frame at a smaller size.' };
        await tx.update(jobs).set({ state: 'failed', problem, token: null, leaseUntil: null }).where(eq(jobs.id, job.id));
        return 'next' as const;
      }
      const token = randomUUID();
      await tx
        .update(jobs)
        .set({ state: 'running', token, attempts: job.attempts + 1, leaseUntil: leaseEnd as never })
        .where(eq(jobs.id, job.id));
      return { id: job.id, batchId: job.batchId, frameId: job.frameId, token };
    });
    if (outcome === 'none') return undefined;
    if (outcome !== 'next') return outcome;
  }
}

/** Holds on to a job for another lease. False if it is no longer ours (cancelled, or taken as dead). */
export async function renewLease(database: Database, job: ClaimedJob): Promise<boolean> {
  const [result] = await database
    .update(jobs)
    .set({ leaseUntil: leaseEnd as never })
    .where(and(eq(jobs.id, job.id), eq(jobs.token, job.token), eq(jobs.state, 'running')));
  return result.affectedRows === 1;
}

/** Puts a job back as it was, for a server that stops in good order; it does not count as an attempt. */
export async function releaseJob(database: Database, job: ClaimedJob): Promise<void> {
  await database
    .update(jobs)
    .set({ state: 'queued', token: null, leaseUntil: null, attempts: sql`greatest(0, cast(${jobs.attempts} as signed) - 1)` as never })
    .where(and(eq(jobs.id, job.id), eq(jobs.token, job.token), eq(jobs.state, 'running')));
}
