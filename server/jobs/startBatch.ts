import { eq } from 'drizzle-orm';
import type { Batch, JobKind } from '../../contract/index.ts';
import type { Transaction } from '../database/connect.ts';
import { batches } from '../database/schema.ts';
import { found } from '../http/answers.ts';
import type { Context } from '../http/context.ts';
import type { Queue } from './queue.ts';

/** A batch of jobs of one kind, one for each frame. @returns its id. */
export async function startBatch(
  tx: Transaction,
  queue: Queue,
  shootId: number,
  kind: JobKind & ('cut' | 'deliver'),
  frameIds: readonly number[],
  payload?: (batchId: number) => Promise<object>,
): Promise<number> {
  const [{ insertId: batchId }] = await tx.insert(batches).values({ shootId, kind });
  const given = await payload?.(batchId);
  await queue.add(
    tx,
    frameIds.map((frameId) => ({ kind, shootId, batchId, frameId, payload: given })),
  );
  return batchId;
}

/** Cancels what is open of a batch. */
export async function cancelBatch(context: Context, batchId: number): Promise<Batch> {
  const { queue, runner } = context;
  const ended = await queue.cancel({ batchId });
  runner.abort(ended);
  return tellBatch(
    context,
    batchId,
    ended.flatMap(({ frameId }) => frameId ?? []),
  );
}

/** A batch that has changed, told together with its frames. */
export async function tellBatch({ database, news }: Context, batchId: number, frames: number[] = []): Promise<Batch> {
  const [row] = await database.select({ shootId: batches.shootId }).from(batches).where(eq(batches.id, batchId));
  const told = await news.tell(found(row, 'batch').shootId, { batches: [batchId], frames });
  return found(
    told.batches.find(({ id }) => id === batchId),
    'batch',
  );
}
