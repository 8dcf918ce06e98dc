import { and, eq, isNotNull } from 'drizzle-orm';
import type { Delivery, DeliverySettings } from '../../../contract/index.ts';
import { cuts, deliveries, deliveryFiles, frames, setups, shoots } from '../../database/schema.ts';
import { found, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startBatch } from '../../jobs/startBatch.ts';
import { readBatches } from '../../jobs/readJobs.ts';
import { refusedFrames } from '../gather/consent.ts';
import type { ZipEntry } from './zip.ts';

/** Has the files of all cut frames of a shoot made. */
export async function startDelivery(context: Context, shootId: number, settings: DeliverySettings): Promise<Delivery> {
  const { database, queue, runner, news } = context;
  const deliveryId = await database.transaction(async (tx) => {
    const cutFrames = await tx
      .select({ id: frames.id, pick: frames.pick })
      .from(frames)
      .innerJoin(setups, eq(setups.id, frames.setupId))
      .innerJoin(cuts, eq(cuts.frameId, frames.id))
      .where(and(eq(setups.shootId, shootId), isNotNull(cuts.file)));
    if (!cutFrames.length)
      throw new Refusal(409, {
        reason: 'no frame of this shoot has been extracted yet',
        remedy: 'Extract the frames first, then hand them over.',
      });
    const refused = await refusedFrames(tx, shootId);
    const picked = cutFrames.filter(({ pick }) => pick !== 'drop');
    const ids = picked.map(({ id }) => id).filter((id) => !refused.has(id));
    if (!ids.length)
      throw new Refusal(409, {
        reason: 'every extracted frame of this shoot was dropped, or shows somebody who said no',
        remedy: 'Look at the picks and at the roster at Gather.',
      });
    const keptBack = picked.flatMap(({ id }) => refused.get(id) ?? []);
    let made = 0;
    await startBatch(tx, queue, shootId, 'deliver', ids, async (batchId) => {
      [{ insertId: made }] = await tx.insert(deliveries).values({ shootId, batchId, settings, keptBack });
      return { deliveryId: made };
    });
    return made;
  });
  runner.wake();
  return found(await news.tellOne(shootId, 'deliveries', deliveryId), 'hand-over');
}

/** The shoot's name and the files of a finished hand-over. @throws Refusal while some are still being made. */
export async function filesOf(
  { database, pools, store }: Context,
  id: number,
): Promise<{ shoot: string; entries: ZipEntry[] }> {
  const [row] = await database
    .select({ shoot: shoots.name, shootId: shoots.id, batchId: deliveries.batchId })
    .from(deliveries)
    .innerJoin(shoots, eq(shoots.id, deliveries.shootId))
    .where(eq(deliveries.id, id));
  const delivery = found(row, 'hand-over');
  const [batch] = await readBatches(database, pools.width.batch, { batchIds: [delivery.batchId] });
  if (batch && batch.open > 0)
    throw new Refusal(409, {
      reason: `${batch.open} pictures of this hand-over are still being made`,
      remedy: 'Wait until it is finished.',
    });
  const files = await database
    .select({ file: deliveryFiles, frame: frames.name, setup: setups.name })
    .from(deliveryFiles)
    .leftJoin(frames, eq(frames.id, deliveryFiles.frameId))
    .leftJoin(setups, eq(setups.id, frames.setupId))
    .where(eq(deliveryFiles.deliveryId, id))
    .orderBy(deliveryFiles.name);
  // Last thing: somebody may have said no since it was made.
  const refused = await refusedFrames(database, delivery.shootId);
  const entries: ZipEntry[] = [];
  for (const { file, frame, setup } of files) {
    if (refused.has(file.frameId ?? 0)) continue;
    const gone = !(await store.has(file.file));
    entries.push({
      ...file,
      frame: frame ?? '',
      setup: setup ?? '',
      gone,
      open: () => store.need(file.file, 'this cut'),
    });
  }
  return { shoot: delivery.shoot, entries };
}
