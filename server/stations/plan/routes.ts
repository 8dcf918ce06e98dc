import { Router } from 'express';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import {
  changePlanSchema,
  libraryEntrySchema,
  newPlanSchema,
  shotRequestSchema,
  type LibraryItem,
  type PlanRow,
} from '../../../contract/index.ts';
import { safeName } from '../../../core/handOver/index.ts';
import type { Units } from '../../../core/plan/index.ts';
import { libraryItems, plans, setups, shoots } from '../../database/schema.ts';
import { found, handler, idOf, notFound, parse, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startJob } from '../../jobs/startJob.ts';
import { readPlans } from './readPlans.ts';
import { sheetPdf } from './sheetPdf.ts';
import { slotsCalendar, slotsCsv } from './slots.ts';

const unitsSchema = z.object({ units: z.enum(['metric', 'imperial']).default('metric') });

/** Planned sets, what is made from them, and the photographer's own library. */
export function planRoutes(context: Context): Router {
  const { database, news } = context;
  const router = Router();

  const readPlan = async (id: number) => found((await readPlans(database, { planIds: [id] }))[0], 'plan');
  const tell = async (shootId: number, id: number): Promise<PlanRow> =>
    found(await news.tellOne(shootId, 'plans', id), 'plan');
  const checkSetup = async (shootId: number, setupId: number | null | undefined): Promise<void> => {
    if (!setupId) return;
    const [setup] = await database.select().from(setups).where(eq(setups.id, setupId));
    if (setup?.shootId !== shootId)
      throw new Refusal(400, {
        reason: 'setupId: this setup belongs to another shoot',
        remedy: 'Choose a setup of this shoot.',
      });
  };

  router.post(
    '/shoots/:id/plans',
    handler(async (request, response) => {
      const shootId = idOf(request);
      const { plan, setupId } = parse(newPlanSchema, request.body);
      const [shoot] = await database.select({ id: shoots.id }).from(shoots).where(eq(shoots.id, shootId));
      if (!shoot) throw notFound('shoot');
      await checkSetup(shootId, setupId);
      const [{ insertId }] = await database.insert(plans).values({ shootId, setupId, plan });
      response.status(201).json(await tell(shootId, insertId));
    }),
  );

  router.patch(
    '/plans/:id',
    handler(async (request, response) => {
      const id = idOf(request);
      const change = parse(changePlanSchema, request.body);
      const before = await readPlan(id);
      await checkSetup(before.shootId, change.setupId);
      if (Object.keys(change).length) await database.update(plans).set(change).where(eq(plans.id, id));
      response.json(await tell(before.shootId, id));
    }),
  );

  router.delete(
    '/plans/:id',
    handler(async (request, response) => {
      const { id, shootId } = await readPlan(idOf(request));
      await database.delete(plans).where(eq(plans.id, id));
      await news.tell(shootId, { plans: [id] });
      response.status(204).end();
    }),
  );

  router.get(
    '/plans/:id/:file',
    handler(async (request, response) => {
      const { id, plan } = await readPlan(idOf(request));
      const send = (type: string, ending: string, content: string | Buffer): void =>
        void response
          .attachment(`${safeName(plan.name)}.${ending}`)
          .type(type)
          .send(content);
      switch (request.params.file) {
        case 'plan.json':
          return send('application/json', 'json', JSON.stringify(plan, null, 2));
        case 'slots.csv':
          return send('text/csv', 'csv', slotsCsv(plan));
        case 'slots.ics':
          return send('text/calendar', 'ics', slotsCalendar(plan, id));
        case 'sheet.pdf':
          return send('application/pdf', 'pdf', await sheetPdf(plan, parse(unitsSchema, request.query).units as Units));
        default:
          throw notFound('file');
      }
    }),
  );

  router.post(
    '/plans/:id/frames',
    handler(async (request, response) => {
      const { id, shootId } = await readPlan(idOf(request));
      const shot = parse(shotRequestSchema, request.body);
      await checkSetup(shootId, shot.setupId);
      response.status(202).json(await startJob(context, { kind: 'shot', payload: { ...shot, planId: id }, shootId }));
    }),
  );

  router.get(
    '/library',
    handler(async (_request, response) => {
      const items: LibraryItem[] = (await database.select().from(libraryItems).orderBy(libraryItems.id)).map(
        ({ id, item }) => ({ id, item }),
      );
      response.json(items);
    }),
  );

  router.post(
    '/library',
    handler(async (request, response) => {
      const item = parse(libraryEntrySchema, request.body);
      const [{ insertId }] = await database.insert(libraryItems).values({ item });
      response.status(201).json({ id: insertId, item });
    }),
  );

  router.put(
    '/library/:id',
    handler(async (request, response) => {
      const id = idOf(request);
      const item = parse(libraryEntrySchema, request.body);
      const [{ affectedRows }] = await database.update(libraryItems).set({ item }).where(eq(libraryItems.id, id));
      if (!affectedRows) throw notFound('library entry');
      response.json({ id, item });
    }),
  );

  router.delete(
    '/library/:id',
    handler(async (request, response) => {
      await database.delete(libraryItems).where(eq(libraryItems.id, idOf(request)));
      response.status(204).end();
    }),
  );

  return router;
}
