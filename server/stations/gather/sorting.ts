import { and, eq, inArray } from 'drizzle-orm';
import type { Frame, SortingChange } from '../../../contract/index.ts';
import type { Database } from '../../database/connect.ts';
import { frames, setups } from '../../database/schema.ts';
import { Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { findShoot } from '../shoots/shoots.ts';
import { ensureSubjects } from './onRoster.ts';
import { developAgain } from './setups.ts';

/** Many frames sorted at once: who is on them, which setup they belong to, whether they are picked, whether they are plates. */

/**
 * Each change is for some frames of the shoot; those that are gone meanwhile are passed over.
 * @throws Refusal where a setup is not one of the shoot's.
 */
export async function sortFrames(
  context: Context,
  shootId: number,
  changes: readonly SortingChange[],
): Promise<Frame[]> {
  const { database, news, queue, runner } = context;
  await findShoot(context, shootId);
  const { touched, added } = await database.transaction(async (tx) => {
    const own = await tx.select().from(setups).where(eq(setups.shootId, shootId)).for('update');
    const there = await tx
      .select({ id: frames.id, setupId: frames.setupId })
      .from(frames)
      .where(inArray(frames.setupId, [...own.map(({ id }) => id), 0]));
    const setupOf = new Map(there.map(({ id, setupId }) => [id, setupId]));
    const names = changes.flatMap(({ subject }) => (subject === undefined ? [] : [subject]));
    const added = await ensureSubjects(tx, shootId, names);
    const touched = new Set<number>();
    const develops = new Map(own.map(({ id, develop }) => [id, JSON.stringify(develop)]));
    const otherwise = new Set<number>();
    for (const { frameIds, ...to } of changes) {
      if (to.setupId !== undefined && !own.some(({ id }) => id === to.setupId))
        throw new Refusal(409, {
          reason: 'the setup that frames were to go to is not there any more',
          remedy: 'Choose another one.',
        });
      const known = frameIds.filter((id) => setupOf.has(id));
      if (!known.length || !Object.keys(to).length) continue;
      await tx.update(frames).set(to).where(inArray(frames.id, known));
      for (const id of known) touched.add(id);
      if (to.setupId === undefined) continue;
      const wanted = develops.get(to.setupId);
      for (const id of known) if (develops.get(setupOf.get(id) ?? 0) !== wanted) otherwise.add(id);
    }
    await developAgain(tx, queue, shootId, [...otherwise]);
    return { touched: [...touched], added };
  });
  runner.wake();
  // Who is on a frame, its setup, and whether it is a plate decide what others are cut with.
  const sorts = changes.some(({ frameIds: _, pick: __, ...to }) => Object.keys(to).length > 0);
  const orders = sorts ? await allFrames(database, shootId) : [];
  const told = await news.tell(shootId, { frames: touched, subjects: added, orders });
  return told.frames.filter(({ id }) => touched.includes(id));
}

async function allFrames(database: Database, shootId: number): Promise<number[]> {
  const rows = await database
    .select({ id: frames.id })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(eq(setups.shootId, shootId));
  return rows.map(({ id }) => id);
}

/** Sets the clock of a camera right, for all of its frames in the shoot. */
export async function setClock(context: Context, shootId: number, body: string, seconds: number): Promise<Frame[]> {
  const { database, news } = context;
  await findShoot(context, shootId);
  const rows = await database
    .select({ id: frames.id, camera: frames.camera })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(and(eq(setups.shootId, shootId)));
  const own = rows.filter(({ camera }) => camera.body === body).map(({ id }) => id);
  if (own.length) await database.update(frames).set({ clock: seconds }).where(inArray(frames.id, own));
  // The plate nearest in time may be another one now.
  const told = await news.tell(shootId, { frames: own, orders: rows.map(({ id }) => id) });
  return told.frames.filter(({ id }) => own.includes(id));
}
