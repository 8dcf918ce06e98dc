import { Router } from 'express';
import { regionOnSchema } from '../../../contract/index.ts';
import { handler, idOf, parse, Refusal, sendPicture } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { THUMBNAIL_HEIGHT } from '../../http/receivePicture.ts';
import { figure, stackedPreview, thumbnail, workingCopy } from '../../pictures/views.ts';
import { findFrame } from './frames.ts';
import { notCut, Regions } from './regions.ts';

/** The browser cuts and shows frames at this size; see docs/architecture.md. */
export const WORKING_PIXELS = 2_000_000;
/** Height of a cut's coverage for laying all gestures over each other. */
const FIGURE_HEIGHT = 160;
/** Height of a frame in the fast look. */
const VIEW_HEIGHT = 1400;
const PLACING_PIXELS = 1_000_000;

/** The pictures of frames and of their cuts. They are addressed with a version and may be kept by the browser. */
export function framePictureRoutes(context: Context): Router {
  const { store, pools } = context;
  const router = Router();

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
    '/frames/:id/figure',
    handler(async (request, response) => {
      const { cut } = await findFrame(context, idOf(request));
      if (!cut) throw notCut();
      const { file } = cut;
      const small = await store.derived(file, 'figures', 'this cut', (path) => figure(path, FIGURE_HEIGHT));
      sendPicture(request, response, 'png', file, small);
    }),
  );

  router.get(
    '/frames/:id/view',
    handler(async (request, response) => {
      const { frame } = await findFrame(context, idOf(request));
      const { file } = frame;
      const small = await store.derived(file, 'views', 'this photograph', (path) => thumbnail(path, VIEW_HEIGHT));
      sendPicture(request, response, 'jpeg', file, small);
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

  const regions = new Regions(context);
  router.get(
    '/frames/:id/region',
    handler(async (request, response) => {
      const { view, wanted, on, x, y, width, height } = parse(regionOnSchema, request.query);
      const found = await findFrame(context, idOf(request));
      const { frame, cut } = found;
      const left = Math.min(x, frame.width - 1);
      const top = Math.min(y, frame.height - 1);
      const region = {
        left,
        top,
        width: Math.min(width, frame.width - left),
        height: Math.min(height, frame.height - top),
      };
      const gone = (): boolean => response.closed;
      const picture = await regions.show(found, view, region, { gone: wanted === undefined ? undefined : gone, on });
      if (!picture) return;
      // What is computed as it is wanted now is no file of its own.
      const hash = view === 'photograph' ? frame.file : wanted === undefined ? (cut?.file ?? '') : '';
      sendPicture(request, response, 'png', hash, await picture.png({ compressionLevel: 2 }).toBuffer());
    }),
  );

  return router;
}
