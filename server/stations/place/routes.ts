import { Router } from 'express';
import { eq } from 'drizzle-orm';
import { fileNameSchema, finishedSchema, placeRequestSchema, styleChangeSchema } from '../../../contract/index.ts';
import { backgrounds } from '../../database/schema.ts';
import { found, handler, idOf, parse, Refusal, sendPicture } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { THUMBNAIL_HEIGHT } from '../../http/receivePicture.ts';
import { thumbnail, workingCopy } from '../../pictures/views.ts';
import { addBackground } from './addBackground.ts';
import { placeFrames } from './place.ts';
import { findFrame } from '../gather/frames.ts';
import { notCut } from '../gather/regions.ts';
import { readBackgrounds } from './readBackgrounds.ts';
import { changeStyle } from './styles.ts';
import type { Measurable } from './tones.ts';

const VIEW_PIXELS = 1_200_000;
/** Of a finished picture on the sheet of all. */
const SHEET_PIXELS = 130_000;

/** Backgrounds, and frames placed on them. */
export function placeRoutes(context: Context): Router {
  const { database, store } = context;
  const router = Router();
  const findBackground = async (id: number) =>
    found((await database.select().from(backgrounds).where(eq(backgrounds.id, id)))[0], 'background');
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
      const { frameIds, placement, places } = parse(placeRequestSchema, request.body);
      response.json(await placeFrames(context, idOf(request), placement, frameIds, places));
    }),
  );

  router.put(
    '/shoots/:id/styles/:background',
    handler(async (request, response) => {
      const { look, seen = {} } = parse(styleChangeSchema, request.body);
      response.json(await changeStyle(context, idOf(request), idOf(request, 'background'), seen, look));
    }),
  );

  const measured = async (picture: Measurable): Promise<object> => {
    const made = await context.pools.run('asked', 'tones', picture);
    if (!made.ok) throw new Refusal(409, made);
    return made.output;
  };
  router.get(
    '/backgrounds/:id/tones',
    handler(async (request, response) => {
      const background = await findBackground(idOf(request));
      response.json(await measured({ background: background.file }));
    }),
  );
  router.get(
    '/frames/:id/finished',
    handler(async (request, response) => {
      const { frame, cut } = await findFrame(context, idOf(request));
      if (!cut) throw notCut();
      const { on, look } = parse(finishedSchema, request.query);
      const background = await findBackground(on.backgroundId);
      const made = await context.pools.run('asked', 'finished', {
        cut: { file: cut.file, depth: cut.depth === 16 ? 16 : 8, width: frame.width, height: frame.height },
        background: { file: background.file, width: background.width, height: background.height },
        placement: { x: on.x, y: on.y, height: on.height },
        look,
        most: SHEET_PIXELS,
      });
      if (!made.ok) throw new Refusal(409, made);
      sendPicture(request, response, 'jpeg', cut.file, Buffer.from(made.output.picture));
    }),
  );
  router.get(
    '/frames/:id/tones',
    handler(async (request, response) => {
      const { cut } = await findFrame(context, idOf(request));
      if (!cut) throw notCut();
      response.json(await measured({ cut: cut.file, depth: cut.depth === 16 ? 16 : 8 }));
    }),
  );

  router.get(
    '/backgrounds/:id/:size',
    handler(async (request, response) => {
      const background = await findBackground(idOf(request));
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
