import { Router } from 'express';
import { eq } from 'drizzle-orm';
import { fileNameSchema, type BackgroundResult } from '../../../contract/index.ts';
import { readBackgrounds } from '../../database/queries.ts';
import { backgrounds } from '../../database/schema.ts';
import { thumbnail, workingCopy } from '../../pictures/views.ts';
import { handler, idOf, notFound, parse, sendPicture } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { receivePicture, THUMBNAIL_HEIGHT } from '../../http/receivePicture.ts';

const VIEW_PIXELS = 1_200_000;

/** The backgrounds that people can be placed on. */
export function backgroundRoutes({ database, store, events }: Context): Router {
  const router = Router();

  router.get(
    '/backgrounds',
    handler(async (_request, response) => void response.json(await readBackgrounds(database))),
  );

  router.post(
    '/backgrounds',
    handler(async (request, response) => {
      const { name } = parse(fileNameSchema, request.query);
      const received = await receivePicture(request, store, 'background');
      let result: BackgroundResult;
      if ('reason' in received) result = { outcome: 'refused', name, ...received };
      else {
        result = await store
          .exclusive(async (): Promise<BackgroundResult> => {
            const [there] = await database.select().from(backgrounds).where(eq(backgrounds.file, received.hash));
            if (there && store.has(received.hash)) return { outcome: 'duplicate', name, of: there.name };
            await received.keep();
            if (there) return { outcome: 'duplicate', name, of: there.name };
            const { width, height } = received.facts;
            const title = name.replace(/\.[^.]*$/, '') || name;
            const [{ insertId }] = await database
              .insert(backgrounds)
              .values({ name: title, file: received.hash, width, height });
            return {
              outcome: 'stored',
              name,
              background: { id: insertId, name: title, width, height, picture: received.hash.slice(0, 16) },
            };
          })
          .finally(() => received.drop());
        if (result.outcome === 'stored') events.send({ type: 'backgrounds' });
      }
      response.json(result);
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
          await workingCopy(store.need(file, 'the background'), background, VIEW_PIXELS),
        );
    }),
  );

  return router;
}
