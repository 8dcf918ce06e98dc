import { Router } from 'express';
import {
  changeShootSchema,
  copyShootSchema,
  fileNameSchema,
  newShootSchema,
  type ShootDetail,
  type ShootList,
} from '../../../contract/index.ts';
import { safeName } from '../../../core/handOver/index.ts';
import { handler, idOf, parse } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { readCutSeconds } from '../extract/readCutSeconds.ts';
import { sendZip } from '../../zip/sendZip.ts';
import { zipOf } from '../../zip/zipOf.ts';
import { BUNDLE_TIME, bundleOf } from './exportShoot.ts';
import { receiveBundle } from './receiveBundle.ts';
import { readShoots } from './readShoots.ts';
import { bringSampleBack } from './sample.ts';
import {
  changeShoot,
  createShoot,
  duplicateShoot,
  findShoot,
  isSampleHere,
  removeShoot,
  restoreShoot,
} from './shoots.ts';

export function shootRoutes(context: Context): Router {
  const router = Router();
  const list = async (): Promise<ShootList> => ({
    shoots: await readShoots(context.database),
    sampleHere: await isSampleHere(context),
    cutSeconds: await readCutSeconds(context.database, context.pools.width.batch),
  });

  router.get(
    '/shoots',
    handler(async (_request, response) => void response.json(await list())),
  );
  router.post(
    '/shoots',
    handler(
      async (request, response) =>
        void response.status(201).json(await createShoot(context, parse(newShootSchema, request.body))),
    ),
  );
  router.get(
    '/shoots/:id/bundle',
    handler(async (request, response) => {
      const { id } = await findShoot(context, idOf(request));
      const { name, entries } = await bundleOf(context, id, request.query.deliveries === '1');
      const zip = await zipOf(entries, BUNDLE_TIME, context.store);
      await sendZip(request, response, `${safeName(name)}.shoot.zip`, zip, context.log);
    }),
  );
  router.post(
    '/shoots/import',
    handler(async (request, response) => {
      const { name } = parse(fileNameSchema, request.query);
      response.status(202).json(await receiveBundle(context, name, request));
    }),
  );
  router.get(
    '/shoots/:id',
    handler(async (request, response) => {
      const shoot = await findShoot(context, idOf(request));
      response.json({ shoot, ...(await context.news.detail(shoot.id)) } satisfies ShootDetail);
    }),
  );
  router.patch(
    '/shoots/:id',
    handler(
      async (request, response) =>
        void response.json(await changeShoot(context, idOf(request), parse(changeShootSchema, request.body))),
    ),
  );
  router.delete(
    '/shoots/:id',
    handler(async (request, response) => {
      await removeShoot(context, idOf(request));
      response.status(204).end();
    }),
  );
  router.post(
    '/shoots/:id/copy',
    handler(async (request, response) => {
      const { setupId } = parse(copyShootSchema, request.body ?? {});
      response.status(201).json(await duplicateShoot(context, idOf(request), setupId));
    }),
  );
  router.post(
    '/shoots/:id/return',
    handler(async (request, response) => void response.json(await restoreShoot(context, idOf(request)))),
  );
  router.post(
    '/sample',
    handler(async (_request, response) => {
      await bringSampleBack(context, context.sample);
      context.runner.wake();
      response.status(202).json(await list());
    }),
  );
  return router;
}
