import { Router } from 'express';
import { asc, eq } from 'drizzle-orm';
import {
  changeSetupSchema,
  masksSchema,
  newSetupSchema,
  newShootSchema,
  type Setup,
  type Shoot,
  type ShootDetail,
} from '../../../contract/index.ts';
import { defaultRecipe, recipeChoices, recipeSettings, type SettingName } from '../../../core/cut/index.ts';
import { CheckPool } from '../check/checkPool.ts';
import { filledSetup, readSetups, readShoots } from '../../database/queries.ts';
import { frames, setups, shoots } from '../../database/schema.ts';
import { MOST_GATHERED } from '../gather/gatherScreen.ts';
import { found, handler, idOf, notFound, parse, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { mergedOrRefused } from '../../http/mergedOrRefused.ts';

/** Shoots and their setups. */
export function shootRoutes({ database, store, events, news, demo }: Context): Router {
  const router = Router();
  const gathering = new CheckPool(store.folder);
  /** Setups whose plate is being put together. */
  const underWay = new Set<number>();
  const pending = (shoot: { demo: boolean }): number => (shoot.demo ? demo.total - demo.done : 0);
  const readShoot = async (id: number): Promise<Shoot> => {
    const [shoot] = await readShoots(database, pending, id);
    if (!shoot) throw notFound('shoot');
    return shoot;
  };

  const tellSetup = async (shootId: number, id: number): Promise<Setup> =>
    found(await news.tellOne(shootId, 'setups', id), 'setup');

  router.get(
    '/shoots',
    handler(async (_request, response) => void response.json(await readShoots(database, pending))),
  );

  router.post(
    '/shoots',
    handler(async (request, response) => {
      const { name, date, place } = parse(newShootSchema, request.body);
      const shootId = await database.transaction(async (tx) => {
        const [result] = await tx.insert(shoots).values({ name, date, place });
        await tx.insert(setups).values({ shootId: result.insertId, name: 'Setup 1', recipe: defaultRecipe });
        return result.insertId;
      });
      events.send({ type: 'shoots' });
      response.status(201).json(await readShoot(shootId));
    }),
  );

  router.get(
    '/shoots/:id',
    handler(async (request, response) => {
      const shootId = idOf(request);
      const shoot = await readShoot(shootId);
      response.json({ shoot, ...(await news.detail(shootId)) } satisfies ShootDetail);
    }),
  );

  router.post(
    '/shoots/:id/setups',
    handler(async (request, response) => {
      const shootId = idOf(request);
      const { name } = parse(newSetupSchema, request.body);
      await readShoot(shootId);
      const [result] = await database.insert(setups).values({ shootId, name, recipe: defaultRecipe });
      response.status(201).json(await tellSetup(shootId, result.insertId));
    }),
  );

  router.patch(
    '/setups/:id',
    handler(async (request, response) => {
      const id = idOf(request);
      const { seen = {}, ...to } = parse(changeSetupSchema, request.body);
      if (to.plateFrameId) {
        const [plate] = await database.select().from(frames).where(eq(frames.id, to.plateFrameId));
        if (plate?.setupId !== id)
          throw new Refusal(400, {
            reason: 'plateFrameId: this frame is not one of the setup',
            remedy: 'Choose a frame of the same setup that shows the empty screen.',
          });
      }
      const shootId = await database.transaction(async (tx) => {
        const [row] = await tx.select().from(setups).where(eq(setups.id, id)).for('update');
        if (!row) throw notFound('setup');
        const now = filledSetup(row);
        const { name, recipe, masks, plateFrameId } = mergedOrRefused(
          { name: now.name, recipe: now.recipe, masks: now.masks, plateFrameId: now.plateFrameId },
          seen,
          to,
          nameOf,
        );
        await tx
          .update(setups)
          .set({ name, recipe, masks: parse(masksSchema, masks, 'masks'), plateFrameId })
          .where(eq(setups.id, id));
        return row.shootId;
      });
      response.json(await tellSetup(shootId, id));
    }),
  );

  router.post(
    '/setups/:id/plate',
    handler(async (request, response) => {
      const id = idOf(request);
      const { shootId, plateFrameId } = found((await readSetups(database, { setupIds: [id] }))[0], 'setup');
      const all = await database.select().from(frames).where(eq(frames.setupId, id)).orderBy(asc(frames.id));
      const shown = ofOneSize(all.filter((frame) => frame.id !== plateFrameId));
      if (shown.length < 2)
        throw new Refusal(409, {
          reason: 'the setup has fewer than two frames of one size',
          remedy: 'Bring in more frames of it at Gather, or photograph the empty screen.',
        });
      if (underWay.has(id))
        throw new Refusal(409, {
          reason: 'a plate of this setup is being put together already',
          remedy: 'Wait until it is there.',
        });
      underWay.add(id);
      const files = evenly(shown, MOST_GATHERED).map(({ file }) => file);
      const started = Date.now();
      const tell = (done: number): void => {
        const progress = {
          done,
          total: files.length,
          secondsLeft: done ? ((Date.now() - started) / 1000 / done) * (files.length - done) : null,
        };
        events.send({ type: 'gathering', shootId, setupId: id, progress });
      };
      tell(0);
      const gathered = await gathering.gather(files, tell).finally(() => {
        underWay.delete(id);
        events.send({ type: 'gathering', shootId, setupId: id, progress: null });
      });
      if ('reason' in gathered) throw new Refusal(409, gathered);
      const { file, bytes, width, height, used } = gathered;
      const frameId = await store.exclusive(async () => {
        if (!store.has(file))
          throw new Refusal(409, {
            reason: 'the plate was removed while it was put together',
            remedy: 'Put it together once more.',
          });
        const there = all.find((frame) => frame.file === file);
        return (
          there?.id ??
          (
            await database
              .insert(frames)
              .values({
                setupId: id,
                name: `screen of ${used} frames.jpg`,
                file,
                bytes,
                width,
                height,
                depth: 8,
                takenAt: null,
              })
          )[0].insertId
        );
      });
      await database.update(setups).set({ plateFrameId: frameId }).where(eq(setups.id, id));
      // Read anew: masks may have been drawn meanwhile.
      const told = await news.tell(shootId, { setups: [id], frames: [frameId] });
      response
        .status(201)
        .json({
          setup: told.setups.find((setup) => setup.id === id),
          frame: told.frames.find((frame) => frame.id === frameId),
          seen: gathered.seen,
        });
    }),
  );

  return router;
}

/** What a field of a setup is called on the page. */
function nameOf([field, setting]: string[]): string {
  if (field === 'recipe' && setting)
    return `“${recipeSettings[setting as SettingName]?.label ?? recipeChoices[setting as keyof typeof recipeChoices].label}”`;
  return field === 'plateFrameId' ? 'The plate' : field === 'name' ? 'The name of the setup' : 'The setup';
}

/** Those of the commonest size: frames held the other way up show another part of the set. */
function ofOneSize<T extends { width: number; height: number }>(list: T[]): T[] {
  const like = (one: T): T[] => list.filter(({ width, height }) => width === one.width && height === one.height);
  return list.reduce<T[]>((most, one) => (like(one).length > most.length ? like(one) : most), []);
}

/** So many of a list at most, spread over all of it. */
function evenly<T>(list: T[], most: number): T[] {
  const every = Math.max(1, list.length / most);
  return Array.from({ length: Math.min(most, list.length) }, (_, n) => list[Math.floor(n * every)]);
}
