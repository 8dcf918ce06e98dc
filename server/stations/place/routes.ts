import { Router } from 'express';
import { eq } from 'drizzle-orm';
import { fileNameSchema, placeRequestSchema } from '../../../contract/index.ts';
import { backgrounds } from '../../database/schema.ts';
import { handler, idOf, notFound, parse, sendPicture } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { THUMBNAIL_HEIGHT } from '../../http/receivePicture.ts';
import { thumbnail, workingCopy } from '../../pictures/views.ts';
import { addBackground } from './addBackground.ts';
import { placeFrames } from './place.ts';
import { readBackgrounds } from './readBackgrounds.ts';

const VIEW_PIXELS = 1_200_000;

/** Backgrounds, and frames placed on them. */
export function placeRoutes(context: Context): Router {
  const { database, store } = context;
  const router = Router();
  router.get(
    '/backgrounds',
    handler(async (_request, response) => void response.json(await readBackgrounds(database))),
  );
  router.post(
    '/backgrounds',
    handler(async (request, response) => {
      const { name } = parse(fileNameSchema, request.query);
      response.json(await addBackground(context, name, request));
    }),
  );
  router.put(
    '/shoots/:id/placements',
    handler(async (request, response) => {
      const { frameIds, placement } = parse(placeRequestSchema, request.body);
      response.json(await placeFrames(context, idOf(request), placement, frameIds));
    }),
  );

  router.get(
    '/backgrounds/:id/:size',
    handler(async (request, response) => {
      const [background] = await database
        .select()
        .from(backgrounds)
        .where(eq(backgrounds.id, idOf(request)));
      if (!background) throw notFound('background');
      const { file } = background;
      if (request.params.size === 'thumbnail')
        sendPicture(
          request,
          response,
          'jpeg',
          file,
          await store.derived(file, 'thumbnails', 'the background', (path) => thumbnail(path, THUMBNAIL_HEIGHT)),
        );
      else
        sendPicture(
          request,
          response,
          'png',
          file,
          await workingCopy(await store.need(file, 'the background'), background, VIEW_PIXELS),
        );
    }),
  );

  return router;
}
