import { Router } from 'express';
import {
  cropChangeSchema,
  deliverySettingsSchema,
  fileNameSchema,
  folderRequestSchema,
  newPrintOrderSchema,
} from '../../../contract/index.ts';
import { safeName } from '../../../core/handOver/index.ts';
import { handler, idOf, parse, Refusal } from '../../http/answers.ts';
import { checkFolder } from '../../http/checkFolder.ts';
import type { Context } from '../../http/context.ts';
import { startJob } from '../../jobs/startJob.ts';
import { cropFrame, removeDelivery, repeatDelivery, startDelivery } from './handOver.ts';
import { handedOver, manifestCsv, manifestJson } from './manifest.ts';
import { entriesOf } from './package.ts';
import { contactPdf, slipsPdf } from './papers.ts';
import { acceptOrder, orderPrints, readOrders } from './printOrders.ts';
import { receiveProfile } from './receiveProfile.ts';
import { sendZip } from '../../zip/sendZip.ts';
import { zipOf } from '../../zip/zipOf.ts';

/** What is handed over, and what comes out of it. */
export function handOverRoutes(context: Context): Router {
  const { log, store } = context;
  const router = Router();
  router.post(
    '/shoots/:id/deliveries',
    handler(async (request, response) => {
      const settings = parse(deliverySettingsSchema, request.body);
      response.status(202).json(await startDelivery(context, idOf(request), settings));
    }),
  );
  router.post(
    '/deliveries/:id/again',
    handler(async (request, response) => {
      response.status(202).json(await repeatDelivery(context, idOf(request)));
    }),
  );
  router.delete(
    '/deliveries/:id',
    handler(async (request, response) => {
      await removeDelivery(context, idOf(request));
      response.status(204).end();
    }),
  );
  router.post(
    '/deliveries/:id/folder',
    handler(async (request, response) => {
      const { folder } = parse(folderRequestSchema, request.body);
      await checkFolder(folder, 'such as one of a disk that the client takes along');
      const deliveryId = idOf(request);
      const { shootId } = await handedOver(context, deliveryId);
      response.status(202).json(await startJob(context, { kind: 'copyOut', shootId, payload: { deliveryId, folder } }));
    }),
  );
  router.get(
    '/deliveries/:id/zip',
    handler(async (request, response) => {
      const id = idOf(request);
      const made = await handedOver(context, id);
      const zip = await zipOf(await entriesOf(made, store), made.made, store);
      await sendZip(request, response, `${safeName(made.shoot.name)}.zip`, zip, log);
    }),
  );
  const paper = (name: string, type: string, make: (made: Awaited<ReturnType<typeof handedOver>>) => unknown): void => {
    router.get(
      `/deliveries/:id/${name}`,
      handler(async (request, response) => {
        const made = await handedOver(context, idOf(request));
        const file = `${safeName(made.shoot.name)} ${name}`;
        response
          .attachment(file)
          .type(type)
          .send(await make(made));
      }),
    );
  };
  paper('manifest.csv', 'text/csv', ({ files }) => manifestCsv(files));
  paper('manifest.json', 'application/json', manifestJson);
  paper('contact-sheet.pdf', 'application/pdf', (made) => contactPdf(needsPapers(made), store));
  paper('order-slips.pdf', 'application/pdf', (made) => slipsPdf(needsPapers(made), store));
  router.get(
    '/deliveries/:id/orders',
    handler(async (request, response) => void response.json(await readOrders(context, idOf(request)))),
  );
  router.post(
    '/deliveries/:id/orders',
    handler(async (request, response) => {
      const { copies } = parse(newPrintOrderSchema, request.body);
      response.status(202).json(await orderPrints(context, idOf(request), copies));
    }),
  );
  router.post(
    '/orders/:id/accept',
    handler(async (request, response) => void response.status(202).json(await acceptOrder(context, idOf(request)))),
  );
  router.put(
    '/frames/:id/crop',
    handler(async (request, response) => {
      response.json(await cropFrame(context, idOf(request), parse(cropChangeSchema, request.body)));
    }),
  );
  router.post(
    '/library/profiles',
    handler(async (request, response) => {
      const { name } = parse(fileNameSchema, request.query);
      response.status(201).json(await receiveProfile(context, name, request));
    }),
  );
  return router;
}

function needsPapers(made: Awaited<ReturnType<typeof handedOver>>) {
  if (made.small.length) return made;
  throw new Refusal(409, {
    reason: 'this hand-over was made without papers',
    remedy: 'Hand over once more with contact sheet, slips or proof pages.',
  });
}
