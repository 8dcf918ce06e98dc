import { Router } from 'express';
import {
  changeCheckSchema,
  pictureKindSchema,
  testPictureQuerySchema,
  testShotSchema,
} from '../../../contract/index.ts';
import { handler, idOf, parse, sendPicture } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { THUMBNAIL_HEIGHT } from '../../http/receivePicture.ts';
import { thumbnail } from '../../pictures/views.ts';
import {
  addPicture,
  createRound,
  findPicture,
  handToRound,
  markRound,
  openRound,
  readAgain,
  removePicture,
  removeRound,
  signRound,
  takeTestFrame,
} from './checks.ts';

/** Height of the picture that the page shows. */
const VIEW_HEIGHT = 1500;

/** Rounds of test frames: photographs in, readings out, signing off. */
export function checkRoutes(context: Context): Router {
  const { store } = context;
  const router = Router();
  router.post(
    '/setups/:id/checks',
    handler(async (request, response) => void response.status(201).json(await createRound(context, idOf(request)))),
  );
  router.post(
    '/frames/:id/test-picture',
    handler(async (request, response) => void response.json(await handToRound(context, idOf(request)))),
  );
  router.delete(
    '/checks/:id',
    handler(async (request, response) => {
      await removeRound(context, idOf(request));
      response.status(204).end();
    }),
  );
  router.post(
    '/checks/:id/pictures',
    handler(async (request, response) => {
      const { name, kind } = parse(testPictureQuerySchema, request.query);
      response.json(await addPicture(context, idOf(request), name, kind, request));
    }),
  );
  router.post(
    '/checks/:id/shots',
    handler(async (request, response) => {
      const shot = parse(testShotSchema, request.body);
      response.status(202).json(await takeTestFrame(context, idOf(request), shot));
    }),
  );
  router.delete(
    '/checks/:id/pictures/:kind',
    handler(async (request, response) => {
      const kind = parse(pictureKindSchema, request.params.kind, 'kind');
      response.json(await removePicture(context, idOf(request), kind));
    }),
  );
  router.patch(
    '/checks/:id',
    handler(async (request, response) => {
      const { marks } = parse(changeCheckSchema, request.body);
      response.json(await markRound(context, idOf(request), marks));
    }),
  );
  router.post(
    '/checks/:id/reading',
    handler(async (request, response) => void response.json(await readAgain(context, idOf(request)))),
  );
  router.put(
    '/checks/:id/signature',
    handler(async (request, response) => void response.json(await signRound(context, idOf(request)))),
  );
  router.delete(
    '/checks/:id/signature',
    handler(async (request, response) => void response.json(await openRound(context, idOf(request)))),
  );
  router.get(
    '/checks/:id/pictures/:kind/:size',
    handler(async (request, response) => {
      const kind = parse(pictureKindSchema, request.params.kind, 'kind');
      const { file } = await findPicture(context, idOf(request), kind);
      const content =
        request.params.size === 'thumbnail'
          ? await store.derived(file, 'thumbnails', 'this test frame', (path) => thumbnail(path, THUMBNAIL_HEIGHT))
          : await thumbnail(await store.need(file, 'this test frame'), VIEW_HEIGHT);
      sendPicture(request, response, 'jpeg', file, content);
    }),
  );
  return router;
}
