import { Router } from 'express';
import sharp from 'sharp';
import { cutRequestSchema, fileHash, pathSchema, ribbonViewSchema, trialSchema } from '../../../contract/index.ts';
import { fingerprintOf } from '../../../core/cut/index.ts';
import { safeName } from '../../../core/handOver/index.ts';
import { found, handler, idOf, parse, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startJob } from '../../jobs/startJob.ts';
import { findFrame } from '../gather/frames.ts';
import { notCut, placedOf } from '../gather/regions.ts';
import { workingCopy } from '../../pictures/views.ts';
import { WORKING_PIXELS } from '../gather/pictures.ts';
import { readSetups } from '../gather/readSetups.ts';
import { guidanceFileOf } from './guidanceFile.ts';
import { keepMatte } from './keepMatte.ts';
import { keepPath } from './paths.ts';
import { ordersOf } from './readOrders.ts';
import { startCut } from './startCut.ts';

/** Frames put into the queue to be cut. */
export function extractRoutes(context: Context): Router {
  const router = Router();
  router.post(
    '/setups/:id/cut',
    handler(async (request, response) => {
      const { frameIds } = parse(cutRequestSchema, request.body);
      response.status(202).json(await startCut(context, idOf(request), frameIds));
    }),
  );
  router.post(
    '/setups/:id/trial',
    handler(async (request, response) => {
      const setupId = idOf(request);
      const { recipe } = parse(trialSchema, request.body);
      const { shootId } = found((await readSetups(context.database, { setupIds: [setupId] }))[0], 'setup');
      const payload = { setupId, recipe };
      response.status(202).json(await startJob(context, { kind: 'trial', payload, shootId }));
    }),
  );
  router.post(
    '/paths',
    handler(async (request, response) => {
      response.status(201).json({ path: await keepPath(context.store, parse(pathSchema, request.body)) });
    }),
  );
  router.get(
    '/paths/:path',
    handler(async (request, response) => {
      const [path] = parse(fileHash.array(), [request.params.path], 'path');
      response
        .set('cache-control', 'private, max-age=31536000, immutable')
        .type('json')
        .sendFile(await context.store.need(path, 'a stroke'));
    }),
  );
  router.post(
    '/frames/:id/matte',
    handler(async (request, response) => {
      response.status(201).json({ file: await keepMatte(context, idOf(request), request) });
    }),
  );
  router.get(
    '/mattes/:file',
    handler(async (request, response) => {
      const [file] = parse(fileHash.array(), [request.params.file], 'file');
      const path = await context.store.need(file, 'the matte');
      const { width = 1, height = 1 } = await sharp(path).metadata();
      response
        .set('cache-control', 'private, max-age=31536000, immutable')
        .type('png')
        .send(await workingCopy(path, { width, height }, WORKING_PIXELS));
    }),
  );
  router.get(
    '/frames/:id/guidance.json',
    handler(async (request, response) => {
      const { frame } = await findFrame(context, idOf(request));
      response
        .attachment(`${safeName(frame.name.replace(/\.[^.]*$/, ''))}.guidance.json`)
        .json(await guidanceFileOf(context, frame.id));
    }),
  );
  router.get(
    '/frames/:id/ribbon',
    handler(async (request, response) => {
      const { frame, cut } = await findFrame(context, idOf(request));
      if (!cut) throw notCut();
      const { view, across, wanted } = parse(ribbonViewSchema, request.query);
      const order = wanted ? (await ordersOf(context.database, { frameIds: [frame.id] })).get(frame.id) : undefined;
      const changed = order && fingerprintOf(order) !== cut.fingerprint;
      const placed = view === 'background' ? await placedOf(context.database, frame.id) : undefined;
      const of =
        view === 'photograph'
          ? { photograph: frame.file }
          : view === 'background'
            ? (placed ?? { view: 'grey' as const })
            : { view };
      const made = await context.pools.run(changed ? 'look' : 'asked', 'ribbon', {
        ...{ cut: cut.file, of, across },
        ...(changed ? { ordered: { photograph: frame.file, order } } : {}),
      });
      if (!made.ok) throw new Refusal(409, made);
      response.json(made.output);
    }),
  );
  return router;
}
