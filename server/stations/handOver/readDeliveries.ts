import { and, count, desc, eq, inArray, isNotNull, ne, sql } from 'drizzle-orm';
import type { Delivery, Differences } from '../../../contract/index.ts';
import { SMALL } from '../../../core/handOver/index.ts';
import type { Reader } from '../../database/connect.ts';
import { deliveries, deliveryFiles, frames, jobs } from '../../database/schema.ts';
import type { Unread } from '../../database/sound.ts';
import { readBatches } from '../../jobs/readJobs.ts';

export async function readDeliveries(
  database: Reader,
  workers: number,
  where: { shootId?: number; batchIds?: number[]; deliveryIds?: number[] },
): Promise<Unread<Delivery>[]> {
  if (where.batchIds?.length === 0 || where.deliveryIds?.length === 0) return [];
  const rows = await database
    .select({
      delivery: deliveries,
      files: count(deliveryFiles.id),
      bytes: sql<number>`coalesce(sum(${deliveryFiles.bytes}), 0)`,
    })
    .from(deliveries)
    .leftJoin(
      deliveryFiles,
      and(eq(deliveryFiles.deliveryId, deliveries.id), isNotNull(deliveryFiles.file), ne(deliveryFiles.preset, SMALL)),
    )
    .where(
      and(
        where.shootId ? eq(deliveries.shootId, where.shootId) : undefined,
        where.batchIds ? inArray(deliveries.batchId, where.batchIds) : undefined,
        where.deliveryIds ? inArray(deliveries.id, where.deliveryIds) : undefined,
      ),
    )
    .groupBy(deliveries.id)
    .orderBy(desc(deliveries.id));
  const batchIds = rows.map(({ delivery }) => delivery.batchId);
  const ofBatch = new Map((await readBatches(database, workers, { batchIds })).map((batch) => [batch.id, batch]));
  const failed = batchIds.length
    ? await database
        .select({ batchId: jobs.batchId, problem: jobs.problem, frame: frames.name })
        .from(jobs)
        .innerJoin(frames, eq(frames.id, jobs.frameId))
        .where(and(inArray(jobs.batchId, batchIds), eq(jobs.state, 'failed')))
    : [];
  const read: Unread<Delivery>[] = [];
  for (const { delivery, files, bytes } of rows) {
    const batch = ofBatch.get(delivery.batchId);
    if (!batch) continue;
    const problems = failed
      .filter(({ batchId }) => batchId === batch.id)
      .map(({ problem, frame }) => ({
        frame,
        reason: problem?.reason ?? 'it failed',
        remedy: problem?.remedy ?? 'Try again.',
      }));
    const { id, shootId, settings, createdAt, keptBack, notPlaced, repeats } = delivery;
    const done = repeats !== null && batch.open === 0;
    read.push({
      id,
      shootId,
      settings,
      createdAt: createdAt.toISOString(),
      batch,
      files,
      bytes: Number(bytes),
      problems,
      keptBack,
      notPlaced,
      differences: done ? await differencesOf(database, repeats, id) : null,
    });
  }
  return read;
}

/** What a hand-over has that an earlier one has not, and the other way round; files are the same if their content is. */
async function differencesOf(database: Reader, before: number, after: number): Promise<Differences> {
  const filesOf = async (id: number): Promise<Map<string, string>> => {
    const rows = await database
      .select({ name: deliveryFiles.name, file: deliveryFiles.file })
      .from(deliveryFiles)
      .where(and(eq(deliveryFiles.deliveryId, id), isNotNull(deliveryFiles.file), ne(deliveryFiles.preset, SMALL)));
    return new Map(rows.map(({ name, file }) => [name, file ?? '']));
  };
  const [was, is] = [await filesOf(before), await filesOf(after)];
  const names = [...is.keys()];
  return {
    of: before,
    same: names.filter((name) => was.get(name) === is.get(name)).length,
    changed: names.filter((name) => was.has(name) && was.get(name) !== is.get(name)),
    added: names.filter((name) => !was.has(name)),
    gone: [...was.keys()].filter((name) => !is.has(name)),
  };
}
