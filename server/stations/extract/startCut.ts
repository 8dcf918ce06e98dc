import { and, eq, inArray } from 'drizzle-orm';
import type { Batch } from '../../../contract/index.ts';
import { frames, jobs, setups } from '../../database/schema.ts';
import { notFound, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startBatch, tellBatch } from '../../jobs/startBatch.ts';

/**
 * Puts frames of a setup into the queue to be cut; all of them when none are named. One that waits already is not put
 * in a second time: it takes the order of its turn.
 */
export async function startCut(context: Context, setupId: number, frameIds?: readonly number[]): Promise<Batch> {
  const { database, queue, runner } = context;
  const { batchId, fresh } = await database.transaction(async (tx) => {
    // Two windows that start at once come here one after the other.
    const [setup] = await tx.select().from(setups).where(eq(setups.id, setupId)).for('update');
    if (!setup) throw notFound('setup');
    const chosen = (
      await tx
        .select({ id: frames.id, plate: frames.plate, pick: frames.pick })
        .from(frames)
        .where(and(eq(frames.setupId, setupId), frameIds ? inArray(frames.id, [...frameIds, 0]) : undefined))
    )
      // What was dropped is cut where it is asked for by itself.
      .filter(({ plate, pick }) => !plate && (frameIds || pick !== 'drop'))
      .map(({ id }) => id);
    const waiting = await tx
      .select({ id: jobs.frameId })
      .from(jobs)
      .where(and(eq(jobs.kind, 'cut'), eq(jobs.state, 'queued'), inArray(jobs.frameId, [...chosen, 0])));
    const busy = new Set(waiting.map((row) => row.id));
    const fresh = chosen.filter((id) => !busy.has(id));
    if (!fresh.length) throw new Refusal(409, chosen.length ? allWait : noFrames);
    return { batchId: await startBatch(tx, queue, setup.shootId, 'cut', fresh), fresh };
  });
  runner.wake();
  return tellBatch(context, batchId, fresh);
}

const allWait = {
  reason: 'all of these frames already wait to be extracted',
  remedy: 'Wait for the batch, or cancel it first.',
};
const noFrames = { reason: 'this setup has no frames', remedy: 'Import frames at Gather first.' };
