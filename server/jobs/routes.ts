import { Router } from 'express';
import { handler, idOf } from '../http/answers.ts';
import type { Context } from '../http/context.ts';
import { cancelBatch } from './startBatch.ts';
import { endJob } from './startJob.ts';

/** Jobs that stand alone: cancelled, or dismissed when they failed; and what is open of a batch, cancelled. */
export function jobRoutes(context: Context): Router {
  const router = Router();
  router.delete(
    '/jobs/:id',
    handler(async (request, response) => void response.json(await endJob(context, idOf(request)))),
  );
  router.delete(
    '/batches/:id',
    handler(async (request, response) => void response.json(await cancelBatch(context, idOf(request)))),
  );
  return router;
}
