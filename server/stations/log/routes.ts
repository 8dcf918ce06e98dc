import { desc, eq, sql } from 'drizzle-orm';
import { Router } from 'express';
import {
  activitySchema,
  archiveRequestSchema,
  correctionSchema,
  costsSchema,
  factorsSchema,
  fileNameSchema,
  newNoteSchema,
  noteChangeSchema,
  type ShootLog,
} from '../../../contract/index.ts';
import type { Factors } from '../../../core/log/index.ts';
import { safeName } from '../../../core/handOver/index.ts';
import { libraryItems, shoots, workTimes } from '../../database/schema.ts';
import { found, handler, idOf, notFound, parse } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { thumbnail } from '../../pictures/views.ts';
import { findShoot } from '../shoots/shoots.ts';
import { startArchive } from './startArchive.ts';
import { eventsCsv, setupsCsv, shootsCsv } from './exports.ts';
import { addNote, changeNote, findNote, illustrate, illustrateByBall, removeNote } from './notes.ts';
import { readLogs } from './readLog.ts';
import { spaceOf } from './space.ts';

const NOTE_HEIGHT = 320;
const lists = { events: eventsCsv, setups: setupsCsv, shoots: shootsCsv };

/** The log of a shoot and of all of them, and what goes out of it. */
export function logRoutes(context: Context): Router {
  const { database, store } = context;
  const router = Router();
  const logOf = async (id: number): Promise<ShootLog> => found((await readLogs(database, id))[0], 'shoot');

  router.get(
    '/log',
    handler(async (_request, response) => void response.json(await readLogs(database))),
  );
  router.get(
    '/shoots/:id/log',
    handler(async (request, response) => void response.json(await logOf(idOf(request)))),
  );
  for (const [name, list] of Object.entries(lists)) {
    router.get(
      `/log/${name}.csv`,
      handler(async (_request, response) => {
        response
          .attachment(`log ${name}.csv`)
          .type('text/csv')
          .send(list(await readLogs(database)));
      }),
    );
    router.get(
      `/shoots/:id/log/${name}.csv`,
      handler(async (request, response) => {
        const log = await logOf(idOf(request));
        response
          .attachment(`${safeName(log.shoot.name)} log ${name}.csv`)
          .type('text/csv')
          .send(list([log]));
      }),
    );
  }
  router.get(
    '/shoots/:id/log.json',
    handler(async (request, response) => {
      const log = await logOf(idOf(request));
      response.attachment(`${safeName(log.shoot.name)} log.json`).type('application/json');
      response.send(`${JSON.stringify(log, null, 1)}\n`);
    }),
  );

  router.get(
    '/shoots/:id/space',
    handler(async (request, response) => {
      const { id } = await findShoot(context, idOf(request));
      response.json(await spaceOf(context, id));
    }),
  );
  router.post(
    '/shoots/:id/archive',
    handler(async (request, response) => {
      const { id } = await findShoot(context, idOf(request));
      const { folder } = parse(archiveRequestSchema, request.body);
      response.status(202).json(await startArchive(context, id, folder));
    }),
  );
  router.post(
    '/shoots/:id/activity',
    handler(async (request, response) => {
      const { id: shootId } = await findShoot(context, idOf(request));
      const { place, day, seconds } = parse(activitySchema, request.body);
      await database
        .insert(workTimes)
        .values({ shootId, place, day, seconds })
        .onDuplicateKeyUpdate({ set: { seconds: sql`least(86400, seconds + values(seconds))` } });
      response.status(204).end();
    }),
  );
  router.put(
    '/shoots/:id/times',
    handler(async (request, response) => {
      const { id: shootId } = await findShoot(context, idOf(request));
      const { place, day, seconds } = parse(correctionSchema, request.body);
      await database
        .insert(workTimes)
        .values({ shootId, place, day, seconds: 0, corrected: seconds })
        .onDuplicateKeyUpdate({ set: { corrected: seconds } });
      response.json(await logOf(shootId));
    }),
  );
  router.put(
    '/shoots/:id/costs',
    handler(async (request, response) => {
      const { id } = await findShoot(context, idOf(request));
      await database
        .update(shoots)
        .set({ costs: parse(costsSchema, request.body) })
        .where(eq(shoots.id, id));
      response.json(await logOf(id));
    }),
  );

  router.post(
    '/shoots/:id/notes',
    handler(async (request, response) => {
      response.status(201).json(await addNote(context, idOf(request), parse(newNoteSchema, request.body)));
    }),
  );
  router.patch(
    '/notes/:id',
    handler(async (request, response) => {
      await changeNote(context, idOf(request), parse(noteChangeSchema, request.body));
      response.status(204).end();
    }),
  );
  router.delete(
    '/notes/:id',
    handler(async (request, response) => {
      await removeNote(context, idOf(request));
      response.status(204).end();
    }),
  );
  router.post(
    '/notes/:id/picture',
    handler(async (request, response) => {
      const { name } = parse(fileNameSchema, request.query);
      await illustrate(context, idOf(request), name, request);
      response.status(201).json({ ok: true });
    }),
  );
  router.post(
    '/notes/:id/ball',
    handler(async (request, response) => {
      await illustrateByBall(context, idOf(request));
      response.status(204).end();
    }),
  );
  router.get(
    '/notes/:id/picture',
    handler(async (request, response) => {
      const { file } = await findNote(context, idOf(request));
      if (!file) throw notFound('picture');
      const small = await store.derived(file, 'thumbnails', 'this picture', (path) => thumbnail(path, NOTE_HEIGHT));
      response.type('jpeg').set('cache-control', 'private, max-age=31536000, immutable').send(small);
    }),
  );

  router.get(
    '/log/factors',
    handler(async (_request, response) => void response.json(await takenFactors(context))),
  );
  router.post(
    '/log/factors',
    handler(async (request, response) => {
      const factors = parse(factorsSchema, request.body);
      const entry = { name: `Own log, ${new Date().toISOString().slice(0, 10)}`, factors };
      await database.insert(libraryItems).values({ item: { kind: 'factors', entry } });
      response.status(201).json(factors);
    }),
  );
  router.delete(
    '/log/factors',
    handler(async (_request, response) => {
      const latest = await latestFactors(context);
      if (latest) await database.delete(libraryItems).where(eq(libraryItems.id, latest.id));
      response.json(await takenFactors(context));
    }),
  );
  return router;
}

/** The factors that were taken last; null while none are. */
async function takenFactors(context: Context): Promise<Factors | null> {
  const latest = await latestFactors(context);
  return latest?.item.kind === 'factors' ? latest.item.entry.factors : null;
}

async function latestFactors({ database }: Pick<Context, 'database'>) {
  const rows = await database.select().from(libraryItems).orderBy(desc(libraryItems.id));
  return rows.find(({ item }) => item.kind === 'factors');
}
