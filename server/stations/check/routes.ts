import { and, desc, eq } from 'drizzle-orm';
import { Router } from 'express';
import {
  changeCheckSchema,
  pictureKindSchema,
  testPictureQuerySchema,
  testShotSchema,
  type Check,
  type PictureKind,
  type TestPictureResult,
} from '../../../contract/index.ts';
import { isWithin, readingFacts, type ReadingFacts } from '../../../core/plan/index.ts';
import { demoPeople, type Shot } from '../../../core/studio/index.ts';
import { CheckPool } from './checkPool.ts';
import { readChecks } from './readChecks.ts';
import { readPlans } from '../../database/queries.ts';
import { checks, plans, setups, testPictures } from '../../database/schema.ts';
import { removeUnused } from '../../jobs/finishJob.ts';
import { thumbnail } from '../../pictures/views.ts';
import { renderPool } from '../../standIn/renderPool.ts';
import { found, handler, idOf, notFound, parse, Refusal, sendPicture } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { receivePicture, THUMBNAIL_HEIGHT } from '../../http/receivePicture.ts';

/** Height of a test frame that the stand-in camera takes, and of the picture that the page shows. */
const SHOT_HEIGHT = 2400;
const VIEW_HEIGHT = 1500;

/** What a round needs before nothing is left open; chart and background tell more, and are not asked for. */
const wantedPictures: PictureKind[] = ['plate', 'people', 'ball', 'grey card'];

/** Rounds of test frames: photographs in, readings out, signing off. */
export function checkRoutes({ database, store, news }: Context): Router {
  const router = Router();
  const pool = new CheckPool(store.folder);
  const camera = renderPool(1, 30_000);

  const find = async (id: number) => found((await readChecks(database, { checkIds: [id] }))[0], 'round');
  const tell = async (id: number): Promise<Check> =>
    found(await news.tellOne((await find(id)).shootId, 'checks', id), 'round');

  /** Reads the pictures as they are; if they change meanwhile, the later reading is the one that stays. */
  async function read(checkId: number): Promise<Check> {
    const pictures = await database.select().from(testPictures).where(eq(testPictures.checkId, checkId));
    const [row] = await database.select().from(checks).where(eq(checks.id, checkId));
    if (!row) throw notFound('round');
    if (pictures.length) {
      const [planned] = await database
        .select()
        .from(plans)
        .where(eq(plans.setupId, row.setupId))
        .orderBy(desc(plans.changedAt))
        .limit(1);
      const findings = await pool.read(
        Object.fromEntries(pictures.map(({ kind, file }) => [kind, file])),
        row.marks,
        planned?.plan,
      );
      const now = await database.select().from(testPictures).where(eq(testPictures.checkId, checkId));
      const same =
        now.length === pictures.length &&
        now.every(({ kind, file }) => pictures.some((p) => p.kind === kind && p.file === file));
      if (same) await database.update(checks).set({ findings }).where(eq(checks.id, checkId));
    } else await database.update(checks).set({ findings: null }).where(eq(checks.id, checkId));
    return tell(checkId);
  }

  /** Puts a photograph into its place; what stood there goes. What was signed off is open again. */
  async function put(
    checkId: number,
    picture: { kind: PictureKind; name: string; file: string; width: number; height: number },
    keep?: () => Promise<void>,
  ): Promise<Check> {
    const before = await store.exclusive(async () => {
      await keep?.();
      return replace(checkId, picture);
    });
    await tell(checkId);
    if (before && before.file !== picture.file) await removeUnused(database, store, before.file);
    return read(checkId);
  }

  function replace(
    checkId: number,
    picture: { kind: PictureKind; name: string; file: string; width: number; height: number },
  ) {
    return database.transaction(async (tx) => {
      const [old] = await tx
        .select()
        .from(testPictures)
        .where(and(eq(testPictures.checkId, checkId), eq(testPictures.kind, picture.kind)));
      await tx
        .insert(testPictures)
        .values({ checkId, ...picture })
        .onDuplicateKeyUpdate({ set: picture });
      await tx.update(checks).set({ findings: null, signedAt: null, openPoints: [] }).where(eq(checks.id, checkId));
      return old;
    });
  }

  router.post(
    '/setups/:id/checks',
    handler(async (request, response) => {
      const setupId = idOf(request);
      const [setup] = await database.select().from(setups).where(eq(setups.id, setupId));
      if (!setup) throw notFound('setup');
      const [{ insertId }] = await database.insert(checks).values({ setupId, marks: {}, openPoints: [] });
      response.status(201).json(await tell(insertId));
    }),
  );

  router.delete(
    '/checks/:id',
    handler(async (request, response) => {
      const { id, shootId } = await find(idOf(request));
      const pictures = await database.select().from(testPictures).where(eq(testPictures.checkId, id));
      await database.delete(checks).where(eq(checks.id, id));
      await news.tell(shootId, { checks: [id] });
      for (const { file } of pictures) await removeUnused(database, store, file);
      response.status(204).end();
    }),
  );

  router.post(
    '/checks/:id/pictures',
    handler(async (request, response) => {
      const { id } = await find(idOf(request));
      const { name, kind } = parse(testPictureQuerySchema, request.query);
      const received = await receivePicture(request, store, kind === 'background' ? 'background' : 'frame');
      let result: TestPictureResult;
      if ('reason' in received) result = { outcome: 'refused', name, ...received };
      else {
        const {
          hash,
          facts: { width, height },
        } = received;
        try {
          const told = kind ?? (await pool.recognise(received.path));
          if (told)
            result = {
              outcome: 'stored',
              kind: told,
              check: await put(id, { kind: told, name, file: hash, width, height }, received.keep),
            };
          else
            result = {
              outcome: 'refused',
              name,
              reason: 'no green or blue screen was found in it',
              remedy:
                'Photograph the lit screen so that it fills at least a twentieth of the frame, or say what the picture shows and drop it there.',
            };
        } finally {
          await received.drop();
        }
      }
      response.json(result);
    }),
  );

  router.post(
    '/checks/:id/shots',
    handler(async (request, response) => {
      const { id, shootId } = await find(idOf(request));
      const { planId, kind, people, seed } = parse(testShotSchema, request.body);
      const [planned] = await readPlans(database, { planIds: [planId] });
      if (planned?.shootId !== shootId)
        throw new Refusal(400, {
          reason: 'planId: this plan belongs to another shoot',
          remedy: 'Choose a plan of this shoot.',
        });
      const { plan } = planned;
      const height = Math.min(plan.camera.pixelsDown, SHOT_HEIGHT);
      const subjects = people.map((name, n) => ({ ...demoPeople[name], prop: undefined, moment: seed * 7 + n }));
      const shot: Shot = {
        kind,
        subjects,
        seed,
        width: Math.max(1, Math.round((plan.camera.pixelsAcross * height) / plan.camera.pixelsDown)),
        height,
      };
      const picture = await camera.run({
        kind: 'shot',
        plan,
        shot,
        takenAt: `${plan.event.date.replaceAll('-', ':')} 12:00:00`,
        store: store.folder,
      });
      response
        .status(201)
        .json(
          await put(id, {
            kind,
            name: `Stand-in camera, take ${seed}`,
            file: picture.file,
            width: picture.width,
            height: picture.height,
          }),
        );
    }),
  );

  router.delete(
    '/checks/:id/pictures/:kind',
    handler(async (request, response) => {
      const { id } = await find(idOf(request));
      const kind = parse(pictureKindSchema, request.params.kind, 'kind');
      const [old] = await database
        .select()
        .from(testPictures)
        .where(and(eq(testPictures.checkId, id), eq(testPictures.kind, kind)));
      if (!old) throw notFound('picture');
      await database.delete(testPictures).where(eq(testPictures.id, old.id));
      await database.update(checks).set({ findings: null, signedAt: null, openPoints: [] }).where(eq(checks.id, id));
      await removeUnused(database, store, old.file);
      response.json(await read(id));
    }),
  );

  router.patch(
    '/checks/:id',
    handler(async (request, response) => {
      const { id } = await find(idOf(request));
      const { marks } = parse(changeCheckSchema, request.body);
      await database.update(checks).set({ marks, findings: null }).where(eq(checks.id, id));
      response.json(await read(id));
    }),
  );

  router.post(
    '/checks/:id/reading',
    handler(async (request, response) => void response.json(await read((await find(idOf(request))).id))),
  );

  router.put(
    '/checks/:id/signature',
    handler(async (request, response) => {
      const { id, findings } = await find(idOf(request));
      if (!findings?.found)
        throw new Refusal(409, {
          reason: 'this round has no readings yet',
          remedy: 'Photograph the empty screen or a test frame first.',
        });
      const taken = await database
        .select({ kind: testPictures.kind })
        .from(testPictures)
        .where(eq(testPictures.checkId, id));
      const missing = wantedPictures
        .filter((kind) => !taken.some((picture) => picture.kind === kind))
        .map(
          (kind) =>
            `Not photographed: ${kind === 'people' ? 'somebody on the set' : kind === 'plate' ? 'the empty screen' : `the ${kind}`}`,
        );
      const openPoints = findings.readings
        .filter(({ id: reading, value }) => !isWithin(reading, value))
        .map(({ id: reading, value }) => openPoint(readingFacts[reading], value))
        .concat(missing);
      await database.update(checks).set({ signedAt: new Date(), openPoints }).where(eq(checks.id, id));
      response.json(await tell(id));
    }),
  );

  router.delete(
    '/checks/:id/signature',
    handler(async (request, response) => {
      const { id } = await find(idOf(request));
      await database.update(checks).set({ signedAt: null, openPoints: [] }).where(eq(checks.id, id));
      response.json(await tell(id));
    }),
  );

  router.get(
    '/checks/:id/pictures/:kind/:size',
    handler(async (request, response) => {
      const kind = parse(pictureKindSchema, request.params.kind, 'kind');
      const [picture] = await database
        .select()
        .from(testPictures)
        .where(and(eq(testPictures.checkId, idOf(request)), eq(testPictures.kind, kind)));
      if (!picture) throw notFound('picture');
      const small = request.params.size === 'thumbnail';
      const { file } = picture;
      sendPicture(
        request,
        response,
        'jpeg',
        file,
        await (small
          ? store.derived(file, 'thumbnails', 'this test frame', (path) => thumbnail(path, THUMBNAIL_HEIGHT))
          : thumbnail(store.need(file, 'this test frame'), VIEW_HEIGHT)),
      );
    }),
  );

  return router;
}

function openPoint({ title, unit, digits }: ReadingFacts, value: number): string {
  return `${title}: ${value.toFixed(digits).replace('-', '−')} ${unit}`.trim();
}
