import { Router } from 'express';
import { changeFrameSchema, changeSetupSchema, fileNameSchema, newSetupSchema } from '../../../contract/index.ts';
import { handler, idOf, parse } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { changeFrame, importFrame, removeFrame } from './frames.ts';
import { changeSetup, createSetup, gatherPlate } from './setups.ts';

/** Setups and their frames. */
export function gatherRoutes(context: Context): Router {
  const router = Router();
  router.post(
    '/shoots/:id/setups',
    handler(async (request, response) => {
      const { name } = parse(newSetupSchema, request.body);
      response.status(201).json(await createSetup(context, idOf(request), name));
    }),
  );
  router.patch(
    '/setups/:id',
    handler(async (request, response) => {
      const { seen = {}, ...to } = parse(changeSetupSchema, request.body);
      response.json(await changeSetup(context, idOf(request), seen, to));
    }),
  );
  router.post(
    '/setups/:id/plate',
    handler(async (request, response) => void response.status(202).json(await gatherPlate(context, idOf(request)))),
  );
  router.post(
    '/setups/:id/frames',
    handler(async (request, response) => {
      const { name } = parse(fileNameSchema, request.query);
      response.json(await importFrame(context, idOf(request), name, request));
    }),
  );
  router.patch(
    '/frames/:id',
    handler(async (request, response) => {
      const { seen = {}, ...to } = parse(changeFrameSchema, request.body);
      response.json(await changeFrame(context, idOf(request), seen, to));
    }),
  );
  router.delete(
    '/frames/:id',
    handler(async (request, response) => {
      await removeFrame(context, idOf(request));
      response.status(204).end();
    }),
  );
  return router;
}
