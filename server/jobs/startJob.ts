import type { Job } from '../../contract/index.ts';
import type { Transaction } from '../database/connect.ts';
import type { Context } from '../http/context.ts';
import { found, notFound } from '../http/answers.ts';
import type { NewJob } from './queue.ts';
import { readJobs } from './readJobs.ts';

/**
 * Puts a job that stands alone into the queue and tells the pages.
 * @param guard refuses it, or locks what it is about until it is in.
 */
export async function startJob(
  { database, queue, runner, news }: Context,
  job: NewJob,
  guard?: (tx: Transaction) => Promise<void>,
): Promise<Job> {
  const [id] = await database.transaction(async (tx) => {
    await guard?.(tx);
    return queue.add(tx, [job]);
  });
  runner.wake();
  return told({ news }, job.shootId ?? null, id);
}

/** Cancels an open job, and dismisses one that failed. */
export async function endJob({ database, queue, runner, news, progress }: Context, id: number): Promise<Job> {
  const [job] = await readJobs(database, progress, { jobIds: [id] });
  if (!job) throw notFound('job');
  if (job.state === 'failed') await queue.dismiss(id);
  else runner.abort(await queue.cancel({ id }));
  return told({ news }, job.shootId, id);
}

async function told({ news }: Pick<Context, 'news'>, shootId: number | null, id: number): Promise<Job> {
  return found(shootId === null ? await news.tellJob(id) : await news.tellOne(shootId, 'jobs', id), 'job');
}
