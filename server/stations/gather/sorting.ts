import { and, eq, inArray } from 'drizzle-orm';
import type { Frame, SortingChange } from '../../../contract/index.ts';
import { frames, setups } from '../../database/schema.ts';
import { Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { findShoot } from '../shoots/shoots.ts';
import { ensureSubjects } from './onRoster.ts';
import { developAgain } from './setups.ts';

/** Many frames sorted at once: who is on them, which setup they belong to, whether they are picked. */

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
  const { touched, added, emptied } = await database.transaction(async (tx) => {
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
    const emptied = new Set<number>();
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
      // A plate that leaves its setup is its plate no more.
      const left = own.filter(({ id, plateFrameId }) => id !== to.setupId && known.includes(plateFrameId ?? 0));
      for (const { id } of left) emptied.add(id);
    }
    await developAgain(tx, queue, shootId, [...otherwise]);
    for (const id of emptied) await tx.update(setups).set({ plateFrameId: null }).where(eq(setups.id, id));
    return { touched: [...touched], added, emptied: [...emptied] };
  });
  runner.wake();
  // Who is on a frame, and its setup, decide what others of its subject are cut with.
  const sorts = changes.some(({ subject, setupId }) => subject !== undefined || setupId !== undefined);
  const orders = sorts
    ? (
        await database
          .select({ id: frames.id })
          .from(frames)
          .innerJoin(setups, eq(setups.id, frames.setupId))
          .where(eq(setups.shootId, shootId))
      ).map(({ id }) => id)
    : [];
  const told = await news.tell(shootId, { frames: touched, subjects: added, setups: emptied, orders });
  return told.frames.filter(({ id }) => touched.includes(id));
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
  const told = await news.tell(shootId, { frames: own });
  return told.frames.filter(({ id }) => own.includes(id));
}
