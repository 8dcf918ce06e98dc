import { Router, type Request } from 'express';
import { and, eq, ne } from 'drizzle-orm';
import {
  changeFrameSchema,
  fileNameSchema,
  guidanceSchema,
  regionSchema,
  type Frame,
  type ImportResult,
  type Problem,
} from '../../../contract/index.ts';
import { compositeOnTone, judgingTones, mattePicture } from '../../../core/place/index.ts';
import { cuts, frames, setups } from '../../database/schema.ts';
import { removeUnused } from '../../jobs/finishJob.ts';
import { fromRaster } from '../../pictures/encode.ts';
import { LookedAt } from '../../pictures/lookedAt.ts';
import { cutoutRegion, stackedPreview, thumbnail, workingCopy } from '../../pictures/views.ts';
import { found, handler, idOf, notFound, parse, Refusal, sendPicture } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { mergedOrRefused } from '../../http/mergedOrRefused.ts';
import { receivePicture, THUMBNAIL_HEIGHT } from '../../http/receivePicture.ts';

/** The browser cuts and shows frames at this size; see docs/architecture.md. */
export const WORKING_PIXELS = 2_000_000;
const PLACING_PIXELS = 1_000_000;
/** A frame with less than this share of the others’ usual pixels is asked about, if there are so many others. */
const FAR_SMALLER = 0.34;
const LEAST_OTHERS = 2;

/** Frames: import, and the pictures of them. Pictures are addressed with a version and may be kept by the browser. */
export function frameRoutes({ database, store, news, persons, log }: Context): Router {
  const router = Router();
  const looked = new LookedAt();

  router.post(
    '/setups/:id/frames',
    handler(async (request, response) => {
      const setupId = idOf(request);
      const { name } = parse(fileNameSchema, request.query);
      const [setup] = await database.select().from(setups).where(eq(setups.id, setupId));
      if (!setup) throw notFound('setup');
      const received = await receivePicture(request, store, 'frame');
      if ('reason' in received)
        return void response.json({ outcome: 'refused', name, ...received } satisfies ImportResult);
      // File and row come together, so that nobody finds the file without a row and removes it.
      const kept = await store
        .exclusive(async (): Promise<{ of: string } | { frameId: number }> => {
          const there = await sameFile(setup.shootId, received.hash);
          // A file that had gone missing is back.
          if (there && store.has(received.hash)) return { of: there };
          await received.keep();
          if (there) return { of: there };
          const { width, height, depth, takenAt } = received.facts;
          const [{ insertId }] = await database
            .insert(frames)
            .values({
              setupId,
              name,
              file: received.hash,
              bytes: received.bytes,
              width,
              height,
              depth,
              takenAt: takenAt ?? null,
            });
          return { frameId: insertId };
        })
        .finally(() => received.drop());
      if ('of' in kept) return void response.json({ outcome: 'duplicate', name, of: kept.of } satisfies ImportResult);
      const frame = found(await news.tellOne(setup.shootId, 'frames', kept.frameId), 'frame');
      // Found now, while the rest is on its way; who needs it before waits for it.
      void persons
        .file(received.hash)
        .catch((err: Error) => log.warn({ err, name }, 'Where persons are was not found'));
      response.json({ outcome: 'stored', name, frame, question: await sizeQuestion(frame) } satisfies ImportResult);
    }),
  );

  /** Asks about a frame that is far smaller than the rest of its setup: a preview or an export by mistake. */
  async function sizeQuestion({ id, setupId, width, height }: Frame): Promise<Problem | undefined> {
    const rest = (
      await database
        .select({ width: frames.width, height: frames.height })
        .from(frames)
        .where(and(eq(frames.setupId, setupId), ne(frames.id, id)))
    )
      .map((other) => other.width * other.height)
      .sort((a, b) => a - b);
    const usual = rest[rest.length >> 1];
    if (rest.length < LEAST_OTHERS || width * height > FAR_SMALLER * usual) return undefined;
    const megapixels = (pixels: number): string => (pixels / 1e6).toFixed(pixels < 1e6 ? 2 : 0);
    return {
      reason: `it has ${megapixels(width * height)} megapixels, where the others of its setup have ${megapixels(usual)}`,
      remedy: 'If it is a preview or a small export, take it out and bring in the photograph itself.',
    };
  }

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
      const [plateOf] = await database.select({ id: setups.id }).from(setups).where(eq(setups.plateFrameId, frame.id));
      await database.delete(frames).where(eq(frames.id, frame.id));
      await news.tell(shootId, { frames: [frame.id], setups: plateOf ? [plateOf.id] : [] });
      for (const file of [frame.file, cut?.file, cut?.plate]) if (file) await removeUnused(database, store, file);
      response.status(204).end();
    }),
  );

  router.patch(
    '/frames/:id',
    handler(async (request, response) => {
      const {
        frame: { id },
        shootId,
      } = await find(request);
      const { seen = {}, ...to } = parse(changeFrameSchema, request.body);
      await database.transaction(async (tx) => {
        const [now] = await tx.select().from(frames).where(eq(frames.id, id)).for('update');
        if (!now) throw notFound('frame');
        const { subject, guidance } = mergedOrRefused(
          { subject: now.subject, guidance: now.guidance },
          seen,
          to,
          () => 'Who is on this frame',
        );
        await tx
          .update(frames)
          .set({ subject, guidance: parse(guidanceSchema, guidance, 'guidance') })
          .where(eq(frames.id, id));
      });
      response.json(found(await news.tellOne(shootId, 'frames', id), 'frame'));
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
      const [file, what] =
        request.query.of === 'cut' && cut
          ? ([cut.file, 'this cut'] as const)
          : ([frame.file, 'this photograph'] as const);
      sendPicture(
        request,
        response,
        'jpeg',
        file,
        await store.derived(file, 'thumbnails', what, (path) => thumbnail(path, THUMBNAIL_HEIGHT)),
      );
    }),
  );

  router.get(
    '/frames/:id/working',
    handler(async (request, response) => {
      const { frame } = await find(request);
      sendPicture(
        request,
        response,
        'png',
        frame.file,
        await workingCopy(store.need(frame.file, 'this photograph'), frame, WORKING_PIXELS),
      );
    }),
  );

  router.get(
    '/frames/:id/persons',
    handler(async (request, response) => {
      const { frame } = await find(request);
      store.need(frame.file, 'this photograph');
      sendPicture(request, response, 'png', frame.file, await persons.file(frame.file));
    }),
  );

  router.get(
    '/frames/:id/cutout',
    handler(async (request, response) => {
      const { cut } = await find(request);
      if (!cut) throw notCut();
      sendPicture(
        request,
        response,
        'png',
        cut.file,
        await stackedPreview(store.need(cut.file, 'this cut'), PLACING_PIXELS),
      );
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
        const picture = await looked.open(store.need(frame.file, 'this photograph'));
        sendPicture(
          request,
          response,
          'png',
          frame.file,
          await picture.extract(region).toColourspace('srgb').png({ compressionLevel: 2 }).toBuffer(),
        );
        return;
      }
      if (!cut) throw notCut();
      const part = await cutoutRegion(store.need(cut.file, 'this cut'), region);
      const picture = view === 'matte' ? mattePicture(part) : compositeOnTone(part, judgingTones[view].tone);
      sendPicture(
        request,
        response,
        'png',
        cut.file,
        await fromRaster(picture).png({ compressionLevel: 2 }).toBuffer(),
      );
    }),
  );

  return router;
}

function notCut(): Refusal {
  return new Refusal(409, { reason: 'this frame has not been cut yet', remedy: 'Cut it first.' });
}
