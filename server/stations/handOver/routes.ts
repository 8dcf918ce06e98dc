import { Router } from 'express';
import { pipeline } from 'node:stream/promises';
import { deliverySettingsSchema } from '../../../contract/index.ts';
import { safeName } from '../../../core/handOver/index.ts';
import { handler, idOf, parse } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { filesOf, startDelivery } from './handOver.ts';
import { zipOf } from './zip.ts';

/** What is handed over, and its ZIP. */
export function handOverRoutes(context: Context): Router {
  const { log } = context;
  const router = Router();
  router.post(
    '/shoots/:id/deliveries',
    handler(async (request, response) => {
      const settings = parse(deliverySettingsSchema, request.body);
      response.status(202).json(await startDelivery(context, idOf(request), settings));
    }),
  );
  router.get(
    '/deliveries/:id/zip',
    handler(async (request, response) => {
      const id = idOf(request);
      const { shoot, entries } = await filesOf(context, id);
      response.attachment(`${safeName(shoot)}.zip`).type('application/zip');
      // A broken-off download is the browser's business, not a fault.
      await pipeline(zipOf(entries), response).catch((err: NodeJS.ErrnoException) =>
        log[err.code === 'ERR_STREAM_PREMATURE_CLOSE' ? 'info' : 'warn']({ err, delivery: id }, 'A download broke off'),
      );
    }),
  );
  return router;
}
