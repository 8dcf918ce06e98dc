import { and, asc, count, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Batch, Job, JobKind } from '../../contract/index.ts';
import type { Reader } from '../database/connect.ts';
import type { Unread } from '../database/sound.ts';
import { batches, jobs } from '../database/schema.ts';
import type { Progress } from './progress.ts';

/** So many of the latest of a kind tell how long the next will take. */
const LATEST = 20;

/** Jobs that stand alone. @param where of a shoot: those that are open or have failed. */
export async function readJobs(
  database: Reader,
  progress: Progress,
  where: { shootId: number } | { jobIds: number[] } | { kind: JobKind },
): Promise<Unread<Job>[]> {
  if ('jobIds' in where && !where.jobIds.length) return [];
  const alive = inArray(jobs.state, ['queued', 'running', 'failed']);
  const rows = await database
    .select()
    .from(jobs)
    .where(
      and(
        isNull(jobs.batchId),
        'jobIds' in where ? inArray(jobs.id, where.jobIds) : alive,
        'shootId' in where ? eq(jobs.shootId, where.shootId) : undefined,
        'kind' in where ? eq(jobs.kind, where.kind) : undefined,
      ),
    )
    .orderBy(asc(jobs.id));
  const usual = await usualSeconds(
    database,
    rows.filter(({ state }) => state === 'queued' || state === 'running').map(({ kind }) => kind),
  );
  return rows.map(({ id, kind, shootId, payload, state, problem, made }) => {
    const now = progress.of(id);
    const about = payload as Job['about'];
    const { setupId, checkId, planId, deliveryId } = about;
    return {
      id,
      kind,
      shootId,
      about: { setupId, checkId, planId, deliveryId },
      state,
      progress: now?.share ?? null,
      secondsLeft: state === 'queued' || state === 'running' ? secondsLeft(now, usual.get(kind)) : null,
      problem,
      made,
    };
  });
}

/** From what is done of it, or from how long its like took. */
export function secondsLeft(
  now: { seconds: number; share: number | null } | undefined,
  usual: number | undefined,
): number | null {
  if (now?.share) return (now.seconds / now.share) * (1 - now.share);
  return usual === undefined ? null : Math.max(1, usual - (now?.seconds ?? 0));
}

async function usualSeconds(database: Reader, kinds: JobKind[]): Promise<Map<JobKind, number>> {
  const usual = new Map<JobKind, number>();
  for (const kind of new Set(kinds)) {
    const rows = await database
      .select({ milliseconds: jobs.milliseconds })
      .from(jobs)
      .where(and(eq(jobs.kind, kind), eq(jobs.state, 'done')))
      .orderBy(desc(jobs.id))
      .limit(LATEST);
    if (rows.length) usual.set(kind, rows.reduce((sum, row) => sum + (row.milliseconds ?? 0), 0) / rows.length / 1000);
  }
  return usual;
}

/** @param workers how many jobs run at once, for the time left. */
export async function readBatches(
  database: Reader,
  workers: number,
  where: { shootId?: number; batchIds?: number[] },
): Promise<Unread<Batch>[]> {
  if (where.batchIds?.length === 0) return [];
  const tally = (state: string) => sql<number>`cast(sum(${jobs.state} = ${state}) as signed)`;
  const rows = await database
    .select({
      id: batches.id,
      shootId: batches.shootId,
      kind: batches.kind,
      total: count(jobs.id),
      done: tally('done'),
      failed: tally('failed'),
      cancelled: tally('cancelled'),
      mean: sql<number | null>`cast(avg(${jobs.milliseconds}) as double)`,
    })
    .from(batches)
    .innerJoin(jobs, eq(jobs.batchId, batches.id))
    .where(
      and(
        where.shootId ? eq(batches.shootId, where.shootId) : undefined,
        where.batchIds ? inArray(batches.id, where.batchIds) : undefined,
      ),
    )
    .groupBy(batches.id)
    .orderBy(desc(batches.id));
  return rows.map(({ mean, ...row }) => {
    const open = row.total - Number(row.done) - Number(row.failed) - Number(row.cancelled);
    return {
      ...row,
      done: Number(row.done),
      failed: Number(row.failed),
      cancelled: Number(row.cancelled),
      open,
      secondsLeft:
        mean === null || open === 0 ? null : Math.ceil((Number(mean) * open) / Math.min(workers, open) / 1000),
    };
  });
}
