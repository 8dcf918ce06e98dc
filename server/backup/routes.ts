import { Router } from 'express';
import { handler } from '../http/answers.ts';
import type { Context } from '../http/context.ts';
import { sendZip } from '../zip/sendZip.ts';
import { zipOf } from '../zip/zipOf.ts';
import { backupOf, restore } from './backup.ts';

/** Everything out, and in again; for the command line. */
export function backupRoutes(context: Context): Router {
  const router = Router();
  router.get(
    '/backup',
    handler(async (request, response) => {
      const zip = await zipOf(await backupOf(context), new Date(), context.store);
      await sendZip(request, response, 'silent-lawn.backup.zip', zip, context.log);
    }),
  );
  router.post(
    '/restore',
    handler(async (request, response) => {
      response.json(await restore(context, request, request.query.replace === '1'));
    }),
  );
  return router;
}
