import { Router } from 'express';
import { handler, idOf } from '../http/answers.ts';
import type { Context } from '../http/context.ts';
import { endJob } from './startJob.ts';

/** Jobs that stand alone: cancelled, or dismissed when they failed. */
export function jobRoutes(context: Context): Router {
  const router = Router();
  router.delete(
    '/jobs/:id',
    handler(async (request, response) => void response.json(await endJob(context, idOf(request)))),
  );
  return router;
}
