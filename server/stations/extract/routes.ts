import { Router } from 'express';
import { cutRequestSchema } from '../../../contract/index.ts';
import { handler, idOf, parse } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { cancelBatch } from '../../jobs/startBatch.ts';
import { startCut } from './startCut.ts';

/** Batches of cuts. */
export function extractRoutes(context: Context): Router {
  const router = Router();
  router.post(
    '/setups/:id/cut',
    handler(async (request, response) => {
      const { frameIds } = parse(cutRequestSchema, request.body);
      response.status(202).json(await startCut(context, idOf(request), frameIds));
    }),
  );
  router.delete(
    '/batches/:id',
    handler(async (request, response) => void response.json(await cancelBatch(context, idOf(request)))),
  );
  return router;
}
