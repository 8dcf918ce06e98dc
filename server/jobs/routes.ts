import { Router } from 'express';
import type { Job } from '../../contract/index.ts';
import { found, handler, idOf } from '../http/answers.ts';
import type { Context } from '../http/context.ts';
import { readJobs } from './readJobs.ts';
import { cancelBatch } from './startBatch.ts';
import { endJob } from './startJob.ts';

/** Jobs that stand alone: looked at, cancelled, or dismissed when they failed; and what is open of a batch, cancelled. */
export function jobRoutes(context: Context): Router {
  const router = Router();
  router.get(
    '/jobs/:id',
    handler(async (request, response) => {
      const { database, progress, news } = context;
      const [job] = await readJobs(database, progress, { jobIds: [idOf(request)] });
      response.json({ ...found(job, 'job'), revision: news.latest } satisfies Job);
    }),
  );
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
