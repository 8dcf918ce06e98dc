import { and, count, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Delivery } from '../../../contract/index.ts';
import type { Database } from '../../database/connect.ts';
import { deliveries, deliveryFiles, frames, jobs } from '../../database/schema.ts';
import type { Unread } from '../../database/sound.ts';
import { readBatches } from '../../jobs/readJobs.ts';

export async function readDeliveries(
  database: Database,
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
    .leftJoin(deliveryFiles, eq(deliveryFiles.deliveryId, deliveries.id))
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
  const unfinished = batchIds.length
    ? await database
        .select({ batchId: jobs.batchId, frame: frames.name })
        .from(jobs)
        .innerJoin(frames, eq(frames.id, jobs.frameId))
        .innerJoin(deliveries, eq(deliveries.batchId, jobs.batchId))
        .leftJoin(
          deliveryFiles,
          and(
            eq(deliveryFiles.deliveryId, deliveries.id),
            eq(deliveryFiles.frameId, jobs.frameId),
            eq(deliveryFiles.kind, 'finished'),
          ),
        )
        .where(and(inArray(jobs.batchId, batchIds), eq(jobs.state, 'done'), isNull(deliveryFiles.id)))
    : [];
  return rows.flatMap(({ delivery, files, bytes }) => {
    const batch = ofBatch.get(delivery.batchId);
    if (!batch) return [];
    const problems = failed
      .filter(({ batchId }) => batchId === batch.id)
      .map(({ problem, frame }) => ({
        frame,
        reason: problem?.reason ?? 'it failed',
        remedy: problem?.remedy ?? 'Try again.',
      }));
    const { id, shootId, settings, createdAt } = delivery;
    return [
      {
        id,
        shootId,
        settings,
        createdAt: createdAt.toISOString(),
        batch,
        files,
        bytes: Number(bytes),
        problems,
        keptBack: delivery.keptBack,
        leftOut:
          settings.finished === 'none'
            ? []
            : unfinished.filter(({ batchId }) => batchId === batch.id).map(({ frame }) => frame),
      },
    ];
  });
}
