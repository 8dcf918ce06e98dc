import { desc, eq } from 'drizzle-orm';
import { Router } from 'express';
import {
  newRehearsalSchema,
  pictureKindSchema,
  rehearsalAnswerSchema,
  type Rehearsal,
  type RehearsalResult,
} from '../../../contract/index.ts';
import { rehearsedFacts } from '../../../core/screen/index.ts';
import { judgeRehearsal } from '../../../core/studio/index.ts';
import { rehearsals } from '../../database/schema.ts';
import { thumbnail } from '../../pictures/views.ts';
import { handler, idOf, notFound, parse, Refusal, sendPicture } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { readJobs } from '../../jobs/readJobs.ts';
import { startJob } from '../../jobs/startJob.ts';

const VIEW_HEIGHT = 1350;
const MOST_SEED = 1e9;

/** Sets with hidden faults. What is wrong leaves the server only after the answer. */
export function rehearsalRoutes(context: Context): Router {
  const { database, store, progress } = context;
  const router = Router();

  async function find(id: number): Promise<typeof rehearsals.$inferSelect> {
    const [row] = await database.select().from(rehearsals).where(eq(rehearsals.id, id));
    if (!row) throw notFound('rehearsal');
    return row;
  }

  router.get(
    '/rehearsals',
    handler(async (_request, response) => {
      const rows = await database.select().from(rehearsals).orderBy(desc(rehearsals.id)).limit(200);
      const making = (await readJobs(database, progress, { kind: 'rehearsal' })).filter(
        ({ state }) => state !== 'failed',
      );
      response.json({ results: rows.map(resultOf), making: making.map(({ id }) => id) });
    }),
  );

  router.post(
    '/rehearsals',
    handler(async (request, response) => {
      const { level, seed = Math.floor(Math.random() * MOST_SEED) } = parse(newRehearsalSchema, request.body);
      response.status(202).json(await startJob(context, { kind: 'rehearsal', payload: { level, seed } }));
    }),
  );

  router.get(
    '/rehearsals/:id',
    handler(async (request, response) => void response.json(shown(await find(idOf(request))))),
  );

  router.post(
    '/rehearsals/:id/answer',
    handler(async (request, response) => {
      const row = await find(idOf(request));
      if (row.answer)
        throw new Refusal(409, { reason: 'this set has been answered already', remedy: 'Ask for a new one.' });
      await database
        .update(rehearsals)
        .set({ answer: parse(rehearsalAnswerSchema, request.body) })
        .where(eq(rehearsals.id, row.id));
      response.json(shown(await find(row.id)));
    }),
  );

  router.get(
    '/rehearsals/:id/pictures/:kind',
    handler(async (request, response) => {
      const kind = parse(pictureKindSchema, request.params.kind, 'kind');
      const picture = (await find(idOf(request))).pictures.find((one) => one.kind === kind);
      if (!picture) throw notFound('picture');
      sendPicture(
        request,
        response,
        'jpeg',
        picture.file,
        await thumbnail(await store.need(picture.file, 'this test frame'), VIEW_HEIGHT),
      );
    }),
  );

  return router;
}

function shown({
  id,
  level,
  createdAt,
  pictures,
  findings,
  answer,
  causes,
}: typeof rehearsals.$inferSelect): Rehearsal {
  const judged = answer && judgeRehearsal(causes, answer.causes, answer.remedy);
  return {
    id,
    level,
    createdAt: createdAt.toISOString(),
    pictures: pictures.map(({ kind, name, width, height, version }) => ({ kind, name, width, height, version })),
    findings: judged ? findings : { ...findings, causes: [] },
    answer,
    truth: judged && {
      causes,
      remedies: judged.remedies,
      shownBy: causes.map((cause) => rehearsedFacts[cause].reading),
      causesRight: judged.causesRight,
      remedyRight: judged.remedyRight,
    },
  };
}

function resultOf({ id, level, createdAt, answer, causes }: typeof rehearsals.$inferSelect): RehearsalResult {
  const judged = answer && judgeRehearsal(causes, answer.causes, answer.remedy);
  return {
    id,
    level,
    createdAt: createdAt.toISOString(),
    answered: answer !== null,
    causesRight: judged?.causesRight ?? false,
    remedyRight: judged?.remedyRight ?? false,
    causes: answer ? causes.map((cause) => rehearsedFacts[cause].title) : [],
  };
}
