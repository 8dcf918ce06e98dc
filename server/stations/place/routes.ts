import { Router } from 'express';
import { and, eq } from 'drizzle-orm';
import {
  backgroundChangeSchema,
  cardPictureSchema,
  fileNameSchema,
  finishedSchema,
  fringeAskedSchema,
  paintRequestSchema,
  placeRequestSchema,
  styleChangeSchema,
} from '../../../contract/index.ts';
import { gradeCube, writeCube } from '../../../core/place/index.ts';
import { backgrounds, luts, styles } from '../../database/schema.ts';
import { found, handler, idOf, parse, Refusal, sendPicture } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { THUMBNAIL_HEIGHT } from '../../http/receivePicture.ts';
import { decodeLayer, stacked, thumbnail, workingCopy } from '../../pictures/views.ts';
import { addBackground, changeBackground, paintBackground } from './backgrounds.ts';
import { cardPicture, fieldsOf, filedExtras } from './extras.ts';
import { filedOthers } from './filedOthers.ts';
import { fringesOf } from './fringes.ts';
import { knownLight } from './knownLight.ts';
import { addLut, readLuts } from './luts.ts';
import { storedCube } from './storedCube.ts';
import { placeFrames } from './place.ts';
import { findFrame } from '../gather/frames.ts';
import { notCut } from '../gather/regions.ts';
import { readBackgrounds } from './readBackgrounds.ts';
import { filledLook } from './readStyles.ts';
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
  router.post(
    '/backgrounds/painted',
    handler(async (request, response) => {
      response.json(await paintBackground(context, parse(paintRequestSchema, request.body)));
    }),
  );
  router.patch(
    '/backgrounds/:id',
    handler(async (request, response) => {
      const { seen = {}, ...to } = parse(backgroundChangeSchema, request.body);
      response.json(await changeBackground(context, idOf(request), seen, to));
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
      const { seen = {}, ...to } = parse(styleChangeSchema, request.body);
      response.json(await changeStyle(context, idOf(request), idOf(request, 'background'), seen, to));
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
      const { on, look, extras } = parse(finishedSchema, request.query);
      const background = await findBackground(on.backgroundId);
      const made = await context.pools.run('asked', 'finished', {
        cut: { file: cut.file, depth: cut.depth === 16 ? 16 : 8, width: frame.width, height: frame.height },
        background: {
          file: background.file,
          width: background.width,
          height: background.height,
        },
        others: await filedOthers(database, on.others ?? [], background.scene),
        light: await knownLight(database, frame.setupId, background.scene),
        placement: { x: on.x, y: on.y, height: on.height },
        look,
        extras: await filedExtras(database, extras, frame.id, background.name),
        most: SHEET_PIXELS,
      });
      if (!made.ok) throw new Refusal(409, made);
      sendPicture(request, response, 'jpeg', cut.file, Buffer.from(made.output.picture));
    }),
  );
  router.get(
    '/frames/:id/fringe',
    handler(async (request, response) => {
      const { on } = parse(fringeAskedSchema, request.query);
      response.json({ seen: await fringesOf(context, idOf(request), on) });
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
    '/frames/:id/card',
    handler(async (request, response) => {
      const { frame } = await findFrame(context, idOf(request));
      const { card, background, width, height } = parse(cardPictureSchema, request.query);
      const picture = await cardPicture(card, await fieldsOf(database, frame.id, background), { width, height });
      sendPicture(request, response, 'png', frame.file, await stacked(picture));
    }),
  );

  router.get(
    '/luts',
    handler(async (_request, response) => void response.json(await readLuts(database))),
  );
  router.post(
    '/luts',
    handler(async (request, response) => {
      const { name } = parse(fileNameSchema, request.query);
      response.json(await addLut(context, name, request));
    }),
  );
  router.get(
    '/luts/:id',
    handler(async (request, response) => {
      const { file } = found(
        (
          await database
            .select()
            .from(luts)
            .where(eq(luts.id, idOf(request)))
        )[0],
        'look-up table',
      );
      response.type('text/plain').sendFile(await store.need(file, 'the look-up table'), { dotfiles: 'allow' });
    }),
  );
  router.get(
    '/shoots/:id/styles/:background/grade.cube',
    handler(async (request, response) => {
      const background = await findBackground(idOf(request, 'background'));
      const [style] = await database
        .select()
        .from(styles)
        .where(and(eq(styles.shootId, idOf(request)), eq(styles.backgroundId, background.id)));
      const { look, extras } = found(style, 'style');
      const { lut, curves } = (await filedExtras(database, extras, 0, '')) ?? {};
      const also = { curves: curves ?? undefined, lut: lut ? await storedCube(lut, store) : undefined };
      const cube = gradeCube(filledLook(look), also, background.name);
      response.attachment(`${background.name}.cube`).type('text/plain').send(writeCube(cube));
    }),
  );

  router.get(
    '/backgrounds/:id/layer',
    handler(async (request, response) => {
      const { file, width, height } = await findBackground(idOf(request));
      const scale = Math.min(1, Math.sqrt(VIEW_PIXELS / (width * height)));
      const size = { width: Math.round(width * scale), height: Math.round(height * scale) };
      const picture = await decodeLayer(await store.need(file, 'a layer'), size);
      sendPicture(request, response, 'png', file, await stacked(picture));
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
