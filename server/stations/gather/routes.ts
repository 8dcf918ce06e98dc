import { Router } from 'express';
import { z } from 'zod';
import {
  changeFrameSchema,
  changeSetupSchema,
  changeSubjectSchema,
  clockSchema,
  frameFileSchema,
  newSetupSchema,
  newSubjectsSchema,
  sortingSchema,
} from '../../../contract/index.ts';
import { safeName } from '../../../core/handOver/index.ts';
import { handler, idOf, parse } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { changeFrame, importFrame, importUploaded, removeFrame } from './frames.ts';
import { readSubjects } from './readSubjects.ts';
import { rosterCsv, slatesPdf } from './rosterFiles.ts';
import { changeSetup, createSetup, gatherPlate, removeSetup } from './setups.ts';
import { setClock, sortFrames } from './sorting.ts';
import { addSubjects, changeSubject, eraseSubject, removeSubject } from './subjects.ts';
import { findShoot } from '../shoots/shoots.ts';

/** Which of the roster are meant: all, or some by their ids. */
const meantSchema = z.object({ ids: z.string().optional() });

/** Setups, their frames, and who is on them. */
export function gatherRoutes(context: Context): Router {
  const router = Router();
  router.post(
    '/shoots/:id/setups',
    handler(async (request, response) => {
      const { name } = parse(newSetupSchema, request.body);
      response.status(201).json(await createSetup(context, idOf(request), name));
    }),
  );
  router.patch(
    '/setups/:id',
    handler(async (request, response) => {
      const { seen = {}, ...to } = parse(changeSetupSchema, request.body);
      response.json(await changeSetup(context, idOf(request), seen, to));
    }),
  );
  router.post(
    '/setups/:id/plate',
    handler(async (request, response) => void response.status(202).json(await gatherPlate(context, idOf(request)))),
  );
  router.post(
    '/setups/:id/frames',
    handler(async (request, response) => {
      const { name, upload } = parse(frameFileSchema, request.query);
      const id = idOf(request);
      response.json(
        await (upload === undefined
          ? importFrame(context, id, name, request)
          : importUploaded(context, id, name, upload)),
      );
    }),
  );
  router.patch(
    '/frames/:id',
    handler(async (request, response) => {
      const { seen = {}, ...to } = parse(changeFrameSchema, request.body);
      response.json(await changeFrame(context, idOf(request), seen, to));
    }),
  );
  router.delete(
    '/frames/:id',
    handler(async (request, response) => {
      await removeFrame(context, idOf(request));
      response.status(204).end();
    }),
  );
  router.delete(
    '/setups/:id',
    handler(async (request, response) => {
      await removeSetup(context, idOf(request));
      response.status(204).end();
    }),
  );
  router.put(
    '/shoots/:id/sorting',
    handler(async (request, response) => {
      const { changes } = parse(sortingSchema, request.body);
      response.json(await sortFrames(context, idOf(request), changes));
    }),
  );
  router.put(
    '/shoots/:id/clocks',
    handler(async (request, response) => {
      const { body, seconds } = parse(clockSchema, request.body);
      response.json(await setClock(context, idOf(request), body, seconds));
    }),
  );
  router.post(
    '/shoots/:id/subjects',
    handler(async (request, response) => {
      const { subjects } = parse(newSubjectsSchema, request.body);
      response.status(201).json(await addSubjects(context, idOf(request), subjects));
    }),
  );
  router.patch(
    '/subjects/:id',
    handler(async (request, response) => {
      const { seen = {}, ...to } = parse(changeSubjectSchema, request.body);
      response.json(await changeSubject(context, idOf(request), seen, to));
    }),
  );
  router.delete(
    '/subjects/:id',
    handler(async (request, response) => {
      await removeSubject(context, idOf(request));
      response.status(204).end();
    }),
  );
  router.delete(
    '/subjects/:id/pictures',
    handler(async (request, response) => {
      response.json(await eraseSubject(context, idOf(request)));
    }),
  );
  router.get(
    '/shoots/:id/roster.csv',
    handler(async (request, response) => {
      const { name } = await findShoot(context, idOf(request));
      const subjects = await readSubjects(context.database, { shootId: idOf(request) });
      response
        .attachment(`${safeName(name)}-roster.csv`)
        .type('text/csv')
        .send(rosterCsv(subjects));
    }),
  );
  router.get(
    '/shoots/:id/slates.pdf',
    handler(async (request, response) => {
      const { name } = await findShoot(context, idOf(request));
      const ids = parse(meantSchema, request.query).ids?.split(',').map(Number);
      const subjects = await readSubjects(context.database, { shootId: idOf(request) });
      const meant = subjects.filter(({ id }) => !ids || ids.includes(id));
      response
        .attachment(`${safeName(name)}-slates.pdf`)
        .type('application/pdf')
        .send(await slatesPdf(name, meant));
    }),
  );
  return router;
}
