import { Router } from 'express';
import { and, eq, inArray, isNotNull, or } from 'drizzle-orm';
import { pipeline } from 'node:stream/promises';
import { cutRequestSchema, deliverySettingsSchema, placeRequestSchema, type Batch } from '../../../contract/index.ts';
import { safeName } from '../../../core/handOver/index.ts';
import type { Transaction } from '../../database/connect.ts';
import { readBatches } from '../../database/queries.ts';
import {
  backgrounds,
  batches,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  jobs,
  placements,
  setups,
  shoots,
} from '../../database/schema.ts';
import { zipOf } from '../handOver/zip.ts';
import { found, handler, idOf, notFound, parse, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';

/** Batches: cut, place, deliver. */
export function workRoutes({ database, store, news, runner, log }: Context): Router {
  const router = Router();

  const startBatch = async (
    tx: Transaction,
    shootId: number,
    kind: 'cut' | 'deliver',
    frameIds: number[],
  ): Promise<number> => {
    const [{ insertId }] = await tx.insert(batches).values({ shootId, kind });
    await tx.insert(jobs).values(frameIds.map((frameId) => ({ batchId: insertId, frameId })));
    return insertId;
  };

  /** The batch that has changed, told together with its frames. */
  const tellBatch = async (batchId: number, frameIds: number[] = []): Promise<Batch> => {
    const [row] = await database.select({ shootId: batches.shootId }).from(batches).where(eq(batches.id, batchId));
    const { batches: told } = await news.tell(found(row, 'batch').shootId, { batches: [batchId], frames: frameIds });
    return found(
      told.find(({ id }) => id === batchId),
      'batch',
    );
  };

  router.post(
    '/setups/:id/cut',
    handler(async (request, response) => {
      const setupId = idOf(request);
      const { frameIds } = parse(cutRequestSchema, request.body);
      const [setup] = await database.select().from(setups).where(eq(setups.id, setupId));
      if (!setup) throw notFound('setup');
      const { batchId, fresh } = await database.transaction(async (tx) => {
        const chosen = await tx
          .select({ id: frames.id })
          .from(frames)
          .where(and(eq(frames.setupId, setupId), frameIds ? inArray(frames.id, [...frameIds, 0]) : undefined));
        // A frame that already waits to be cut is not put in the queue a second time; it takes the recipe of its turn.
        const waiting = await tx
          .select({ id: jobs.frameId })
          .from(jobs)
          .innerJoin(batches, eq(batches.id, jobs.batchId))
          .where(
            and(
              eq(batches.kind, 'cut'),
              eq(jobs.state, 'queued'),
              inArray(jobs.frameId, [...chosen.map((f) => f.id), 0]),
            ),
          );
        const busy = new Set(waiting.map((row) => row.id));
        const fresh = chosen.map((f) => f.id).filter((id) => !busy.has(id));
        if (!fresh.length)
          throw new Refusal(
            409,
            chosen.length
              ? {
                  reason: 'all of these frames already wait to be cut',
                  remedy: 'Wait for the batch, or cancel it first.',
                }
              : { reason: 'this setup has no frames', remedy: 'Import frames at Gather first.' },
          );
        return { batchId: await startBatch(tx, setup.shootId, 'cut', fresh), fresh };
      });
      runner.wake();
      response.status(202).json(await tellBatch(batchId, fresh));
    }),
  );

  router.delete(
    '/batches/:id',
    handler(async (request, response) => {
      const batchId = idOf(request);
      const open = and(eq(jobs.batchId, batchId), or(eq(jobs.state, 'queued'), eq(jobs.state, 'running')));
      const stopped = await database.select({ id: jobs.frameId }).from(jobs).where(open);
      await database.update(jobs).set({ state: 'cancelled', token: null, leaseUntil: null }).where(open);
      runner.abort(batchId);
      response.json(
        await tellBatch(
          batchId,
          stopped.map((row) => row.id),
        ),
      );
    }),
  );

  router.put(
    '/shoots/:id/placements',
    handler(async (request, response) => {
      const shootId = idOf(request);
      const { frameIds, placement } = parse(placeRequestSchema, request.body);
      if (placement) {
        const [background] = await database
          .select()
          .from(backgrounds)
          .where(eq(backgrounds.id, placement.backgroundId));
        if (!background) throw notFound('background');
      }
      const chosen = await database
        .select({ id: frames.id })
        .from(frames)
        .innerJoin(setups, eq(setups.id, frames.setupId))
        .where(and(eq(setups.shootId, shootId), frameIds ? inArray(frames.id, [...frameIds, 0]) : undefined));
      const ids = chosen.map((row) => row.id);
      if (ids.length && !placement) await database.delete(placements).where(inArray(placements.frameId, ids));
      if (ids.length && placement) {
        await database
          .insert(placements)
          .values(ids.map((frameId) => ({ frameId, ...placement })))
          .onDuplicateKeyUpdate({ set: placement });
      }
      const { frames: told } = await news.tell(shootId, { frames: ids });
      response.json(told.filter(({ id }) => ids.includes(id)));
    }),
  );

  router.post(
    '/shoots/:id/deliveries',
    handler(async (request, response) => {
      const shootId = idOf(request);
      const settings = parse(deliverySettingsSchema, request.body);
      const deliveryId = await database.transaction(async (tx) => {
        const cutFrames = await tx
          .select({ id: frames.id })
          .from(frames)
          .innerJoin(setups, eq(setups.id, frames.setupId))
          .innerJoin(cuts, eq(cuts.frameId, frames.id))
          .where(and(eq(setups.shootId, shootId), isNotNull(cuts.file)));
        if (!cutFrames.length)
          throw new Refusal(409, {
            reason: 'no frame of this shoot has been cut yet',
            remedy: 'Cut the frames first, then deliver them.',
          });
        const id = await startBatch(
          tx,
          shootId,
          'deliver',
          cutFrames.map((f) => f.id),
        );
        return (await tx.insert(deliveries).values({ shootId, batchId: id, settings }))[0].insertId;
      });
      runner.wake();
      response.status(202).json(await news.tellOne(shootId, 'deliveries', deliveryId));
    }),
  );

  router.get(
    '/deliveries/:id/zip',
    handler(async (request, response) => {
      const id = idOf(request);
      const [delivery] = await database
        .select({ shoot: shoots.name, batchId: deliveries.batchId })
        .from(deliveries)
        .innerJoin(shoots, eq(shoots.id, deliveries.shootId))
        .where(eq(deliveries.id, id));
      if (!delivery) throw notFound('delivery');
      const [batch] = await readBatches(database, runner.workers, { batchIds: [delivery.batchId] });
      if (batch && batch.open > 0)
        throw new Refusal(409, {
          reason: `${batch.open} pictures of this delivery are still being made`,
          remedy: 'Wait until it is finished.',
        });
      const files = await database
        .select({ file: deliveryFiles, frame: frames.name, setup: setups.name })
        .from(deliveryFiles)
        .leftJoin(frames, eq(frames.id, deliveryFiles.frameId))
        .leftJoin(setups, eq(setups.id, frames.setupId))
        .where(eq(deliveryFiles.deliveryId, id))
        .orderBy(deliveryFiles.name);
      response.attachment(`${safeName(delivery.shoot)}.zip`).type('application/zip');
      const entries = files.map(({ file, frame, setup }) => ({
        ...file,
        frame: frame ?? '',
        setup: setup ?? '',
        path: store.path(file.file),
      }));
      // A broken-off download is the browser's business, not a fault.
      await pipeline(zipOf(entries), response).catch((err: NodeJS.ErrnoException) =>
        log[err.code === 'ERR_STREAM_PREMATURE_CLOSE' ? 'info' : 'warn']({ err, delivery: id }, 'A download broke off'),
      );
    }),
  );

  return router;
}
