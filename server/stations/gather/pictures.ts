import { eq } from 'drizzle-orm';
import { Router } from 'express';
import { regionSchema } from '../../../contract/index.ts';
import { onBackground, shownAs, underCrop, type Placement } from '../../../core/place/index.ts';
import { backgrounds, placements } from '../../database/schema.ts';
import { handler, idOf, parse, Refusal, sendPicture } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { THUMBNAIL_HEIGHT } from '../../http/receivePicture.ts';
import { fromRaster } from '../../pictures/encode.ts';
import { LookedAt } from '../../pictures/lookedAt.ts';
import { cutoutRegion, stackedPreview, thumbnail, workingCopy } from '../../pictures/views.ts';
import { findFrame } from './frames.ts';

/** The browser cuts and shows frames at this size; see docs/architecture.md. */
export const WORKING_PIXELS = 2_000_000;
const PLACING_PIXELS = 1_000_000;

/** The pictures of frames and of their cuts. They are addressed with a version and may be kept by the browser. */
export function framePictureRoutes(context: Context): Router {
  const { store, pools } = context;
  const router = Router();
  const looked = new LookedAt();
  const backgroundOf = async (frameId: number): Promise<{ path: string; placement: Placement } | undefined> => {
    const [row] = await context.database
      .select({ file: backgrounds.file, placement: placements })
      .from(placements)
      .innerJoin(backgrounds, eq(backgrounds.id, placements.backgroundId))
      .where(eq(placements.frameId, frameId));
    return row && { path: await store.need(row.file, 'the background'), placement: row.placement };
  };

  router.get(
    '/frames/:id/thumbnail',
    handler(async (request, response) => {
      const { frame, cut } = await findFrame(context, idOf(request));
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
      const { frame } = await findFrame(context, idOf(request));
      sendPicture(
        request,
        response,
        'png',
        frame.file,
        await workingCopy(await store.need(frame.file, 'this photograph'), frame, WORKING_PIXELS),
      );
    }),
  );

  router.get(
    '/frames/:id/persons',
    handler(async (request, response) => {
      const { frame } = await findFrame(context, idOf(request));
      await store.need(frame.file, 'this photograph');
      const map = await pools.run('asked', 'persons', { hash: frame.file });
      if (!map.ok) throw new Refusal(409, map);
      sendPicture(request, response, 'png', frame.file, Buffer.from(map.output));
    }),
  );

  router.get(
    '/frames/:id/cutout',
    handler(async (request, response) => {
      const { cut } = await findFrame(context, idOf(request));
      if (!cut) throw notCut();
      sendPicture(
        request,
        response,
        'png',
        cut.file,
        await store.derived(cut.file, 'previews', 'this cut', (path) => stackedPreview(path, PLACING_PIXELS)),
      );
    }),
  );

  router.get(
    '/frames/:id/region',
    handler(async (request, response) => {
      const { view, x, y, width, height } = parse(regionSchema, request.query);
      const { frame, cut } = await findFrame(context, idOf(request));
      const region = { left: Math.min(x, frame.width - 1), top: Math.min(y, frame.height - 1), width: 0, height: 0 };
      region.width = Math.min(width, frame.width - region.left);
      region.height = Math.min(height, frame.height - region.top);
      if (view === 'photograph') {
        const picture = await looked.open(await store.need(frame.file, 'this photograph'));
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
      const part = await cutoutRegion(await store.need(cut.file, 'this cut'), region);
      const behind = view === 'background' ? await backgroundOf(frame.id) : undefined;
      const picture =
        view === 'background'
          ? behind
            ? onBackground(part, underCrop(await looked.raster(behind.path), frame, behind.placement, region))
            : shownAs(part, 'grey')
          : shownAs(part, view);
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

export function notCut(): Refusal {
  return new Refusal(409, { reason: 'this frame has not been extracted yet', remedy: 'Extract it first.' });
}
