import { Router, type Request } from 'express';
import { and, eq } from 'drizzle-orm';
import { changeFrameSchema, fileNameSchema, regionSchema, type ImportResult } from '../../contract/index.ts';
import { compositeOnTone, judgingTones, mattePicture } from '../../core/place/index.ts';
import { filledSetup, readFrames } from '../database/queries.ts';
import { cuts, frames, setups } from '../database/schema.ts';
import { removeUnused } from '../jobs/finishJob.ts';
import { decodePicture } from '../pictures/decode.ts';
import { fromRaster } from '../pictures/encode.ts';
import { cutoutRegion, stackedPreview, thumbnail, workingCopy } from '../pictures/views.ts';
import { handler, idOf, notFound, parse, Refusal } from './answers.ts';
import type { Context } from './context.ts';
import { receivePicture } from './receivePicture.ts';

/** The browser cuts and shows frames at this size; see docs/architecture.md. */
export const WORKING_PIXELS = 2_000_000;
const PLACING_PIXELS = 1_000_000;

/** Frames: import, and the pictures of them. Pictures are addressed with a version and may be kept by the browser. */
export function frameRoutes({ database, store, events, persons }: Context): Router {
  const router = Router();
  const forever = 'private, max-age=31536000, immutable';

  router.post(
    '/setups/:id/frames',
    handler(async (request, response) => {
      const setupId = idOf(request);
      const { name } = parse(fileNameSchema, request.query);
      const [setup] = await database.select().from(setups).where(eq(setups.id, setupId));
      if (!setup) throw notFound('setup');
      const received = await receivePicture(request, store, 'frame');
      let result: ImportResult;
      if ('reason' in received) result = { outcome: 'refused', name, ...received };
      else {
        const there = await sameFile(setup.shootId, received.hash);
        if (there) {
          await received.drop();
          result = { outcome: 'duplicate', name, of: there };
        } else {
          await received.keep();
          const { width, height, depth, takenAt } = received.facts;
          const values = { setupId, name, file: received.hash, bytes: received.bytes, width, height, depth, takenAt: takenAt ?? null };
          // The same file twice in one drop: the second insert meets the first and changes nothing.
          const [{ insertId, affectedRows }] = await database.insert(frames).values(values).onDuplicateKeyUpdate({ set: { setupId } });
          const [frame] = await readFrames(database, { frameIds: affectedRows === 1 ? [insertId] : [] });
          if (frame) {
            events.send({ type: 'frame', shootId: setup.shootId, frame });
            // Found now, while the rest is on its way; who needs it before waits for it.
            void persons.file(received.hash).catch((error: Error) => console.error(`Where persons are in ${name} was not found:`, error.message));
            result = { outcome: 'stored', name, frame };
          } else result = { outcome: 'duplicate', name, of: name };
        }
      }
      response.json(result);
    }),
  );

  async function sameFile(shootId: number, file: string): Promise<string | undefined> {
    const [there] = await database
      .select({ name: frames.name })
      .from(frames)
      .innerJoin(setups, eq(setups.id, frames.setupId))
      .where(and(eq(setups.shootId, shootId), eq(frames.file, file)));
    return there?.name;
  }

  router.delete(
    '/frames/:id',
    handler(async (request, response) => {
      const { frame, cut, shootId } = await find(request);
      const [plateOf] = await database.select().from(setups).where(eq(setups.plateFrameId, frame.id));
      await database.delete(frames).where(eq(frames.id, frame.id));
      await removeUnused(database, store, frame.file);
      for (const file of [cut?.file, cut?.plate]) if (file) await removeUnused(database, store, file);
      if (plateOf) events.send({ type: 'setup', shootId, setup: { ...filledSetup(plateOf), plateFrameId: null } });
      events.send({ type: 'frameRemoved', shootId, frameId: frame.id });
      response.status(204).end();
    }),
  );

  router.patch(
    '/frames/:id',
    handler(async (request, response) => {
      const { frame, shootId } = await find(request);
      const change = parse(changeFrameSchema, request.body);
      if (Object.keys(change).length) await database.update(frames).set(change).where(eq(frames.id, frame.id));
      const [changed] = await readFrames(database, { frameIds: [frame.id] });
      events.send({ type: 'frame', shootId, frame: changed });
      response.json(changed);
    }),
  );

  async function find(request: Request) {
    const [row] = await database
      .select({ frame: frames, cut: cuts, shootId: setups.shootId })
      .from(frames)
      .innerJoin(setups, eq(setups.id, frames.setupId))
      .leftJoin(cuts, eq(cuts.frameId, frames.id))
      .where(eq(frames.id, idOf(request)));
    if (!row) throw notFound('frame');
    return row;
  }

  router.get(
    '/frames/:id/thumbnail',
    handler(async (request, response) => {
      const { frame, cut } = await find(request);
      const file = request.query.of === 'cut' && cut ? cut.file : frame.file;
      response.type('jpeg').set('cache-control', forever).send(await store.derived(file, 'thumbnails', (path) => thumbnail(path, 220)));
    }),
  );

  router.get(
    '/frames/:id/working',
    handler(async (request, response) => {
      const { frame } = await find(request);
      response.type('png').set('cache-control', forever).send(await workingCopy(store.path(frame.file), frame, WORKING_PIXELS));
    }),
  );

  router.get(
    '/frames/:id/persons',
    handler(async (request, response) => {
      const { frame } = await find(request);
      response.type('png').set('cache-control', forever).send(await persons.file(frame.file));
    }),
  );

  router.get(
    '/frames/:id/cutout',
    handler(async (request, response) => {
      const { cut } = await find(request);
      if (!cut) throw notCut();
      response.type('png').set('cache-control', forever).send(await stackedPreview(store.path(cut.file), PLACING_PIXELS));
    }),
  );

  router.get(
    '/frames/:id/region',
    handler(async (request, response) => {
      const { view, x, y, width, height } = parse(regionSchema, request.query);
      const { frame, cut } = await find(request);
      const region = { left: Math.min(x, frame.width - 1), top: Math.min(y, frame.height - 1), width: 0, height: 0 };
      region.width = Math.min(width, frame.width - region.left);
      region.height = Math.min(height, frame.height - region.top);
      if (view === 'photograph') {
        const whole = await decodePicture(store.path(frame.file), 'frame');
        response.type('png').set('cache-control', forever).send(await fromRaster(whole).extract(region).toColourspace('srgb').png({ compressionLevel: 2 }).toBuffer());
        return;
      }
      if (!cut) throw notCut();
      const part = await cutoutRegion(store.path(cut.file), region);
      const picture = view === 'matte' ? mattePicture(part) : compositeOnTone(part, judgingTones[view].tone);
      response.type('png').set('cache-control', forever).send(await fromRaster(picture).png({ compressionLevel: 2 }).toBuffer());
    }),
  );

  return router;
}

function notCut(): Refusal {
  return new Refusal(409, { reason: 'this frame has not been cut yet', remedy: 'Cut it first.' });
}
