import { Router } from 'express';
import { eq } from 'drizzle-orm';
import { fileNameSchema, type BackgroundResult } from '../../contract/index.ts';
import { readBackgrounds } from '../database/queries.ts';
import { backgrounds } from '../database/schema.ts';
import { thumbnail, workingCopy } from '../pictures/views.ts';
import { handler, idOf, notFound, parse } from './answers.ts';
import type { Context } from './context.ts';
import { receivePicture } from './receivePicture.ts';

const VIEW_PIXELS = 1_200_000;

/** The backgrounds that people can be placed on. */
export function backgroundRoutes({ database, store, events }: Context): Router {
  const router = Router();

  router.get('/backgrounds', handler(async (_request, response) => void response.json(await readBackgrounds(database))));

  router.post(
    '/backgrounds',
    handler(async (request, response) => {
      const { name } = parse(fileNameSchema, request.query);
      const received = await receivePicture(request, store, 'background');
      let result: BackgroundResult;
      if ('reason' in received) result = { outcome: 'refused', name, ...received };
      else {
        const [there] = await database.select().from(backgrounds).where(eq(backgrounds.file, received.hash));
        if (there) {
          await received.drop();
          result = { outcome: 'duplicate', name, of: there.name };
        } else {
          await received.keep();
          const { width, height } = received.facts;
          const title = name.replace(/\.[^.]*$/, '') || name;
          const [{ insertId }] = await database.insert(backgrounds).values({ name: title, file: received.hash, width, height });
          result = { outcome: 'stored', name, background: { id: insertId, name: title, width, height } };
          events.send({ type: 'backgrounds' });
        }
      }
      response.json(result);
    }),
  );

  router.get(
    '/backgrounds/:id/:size',
    handler(async (request, response) => {
      const [background] = await database.select().from(backgrounds).where(eq(backgrounds.id, idOf(request)));
      if (!background) throw notFound('background');
      const small = request.params.size === 'thumbnail';
      const path = store.path(background.file);
      response
        .type(small ? 'jpeg' : 'png')
        .set('cache-control', 'private, max-age=31536000, immutable')
        .send(small ? await store.derived(background.file, 'thumbnails', (file) => thumbnail(file, 220)) : await workingCopy(path, background, VIEW_PIXELS));
    }),
  );

  return router;
}
