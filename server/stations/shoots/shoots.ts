import { and, eq, isNotNull, isNull, lt } from 'drizzle-orm';
import { BACK_MINUTES, type NewShoot, type Shoot, type ShootChange } from '../../../contract/index.ts';
import { defaultRecipe } from '../../../core/cut/index.ts';
import { plans, setups, shoots, styles } from '../../database/schema.ts';
import { found, notFound } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { noteLastTime } from './lastTime.ts';
import { readShoots } from './readShoots.ts';
import { bringSampleBack, noSample } from './sample.ts';

/** Shoots made, changed, duplicated, removed and brought back. */

export async function createShoot({ database, events }: Context, shoot: NewShoot): Promise<Shoot> {
  const shootId = await database.transaction(async (tx) => {
    const [{ insertId }] = await tx.insert(shoots).values(shoot);
    await tx.insert(setups).values({ shootId: insertId, name: 'Setup 1', recipe: defaultRecipe });
    return insertId;
  });
  events.send({ type: 'shoots' });
  return findShoot({ database }, shootId);
}

/** @throws Refusal if there is none, or it has been removed. */
export async function findShoot({ database }: Pick<Context, 'database'>, id: number): Promise<Shoot> {
  const shoot = found((await readShoots(database, id))[0], 'shoot');
  if (shoot.removedAt !== null) throw notFound('shoot');
  return shoot;
}

export async function changeShoot({ database, events }: Context, id: number, change: ShootChange): Promise<Shoot> {
  await findShoot({ database }, id);
  if (Object.keys(change).length) await database.update(shoots).set(change).where(eq(shoots.id, id));
  events.send({ type: 'shoots' });
  return findShoot({ database }, id);
}

/**
 * A shoot with the same plans, setups, their settings and masks, and styles; frames and rounds stay with the first one,
 * but what was read as its setups were signed off is noted.
 * @param setupId the only setup that is wanted, as the start of another shoot.
 */
export async function duplicateShoot({ database, events }: Context, id: number, setupId?: number): Promise<Shoot> {
  const { name, date, place } = await findShoot({ database }, id);
  const wanted = and(eq(setups.shootId, id), setupId === undefined ? undefined : eq(setups.id, setupId));
  const copyId = await database.transaction(async (tx) => {
    const [{ insertId: shootId }] = await tx
      .insert(shoots)
      .values({ name: `${name}, again`.slice(0, 120), date, place });
    const copies = new Map<number, number>();
    for (const setup of await tx.select().from(setups).where(wanted).orderBy(setups.id)) {
      const { name, recipe, masks, develop } = setup;
      const [{ insertId }] = await tx.insert(setups).values({ shootId, name, recipe, masks, develop });
      copies.set(setup.id, insertId);
    }
    if (setupId !== undefined && !copies.size) throw notFound('setup');
    for (const { setupId: of, plan } of await tx.select().from(plans).where(eq(plans.shootId, id)).orderBy(plans.id))
      if (setupId === undefined || of === setupId)
        await tx.insert(plans).values({ shootId, setupId: copies.get(of ?? 0) ?? null, plan });
    for (const { backgroundId, look, extras } of await tx.select().from(styles).where(eq(styles.shootId, id)))
      await tx.insert(styles).values({ shootId, backgroundId, look, extras });
    await noteLastTime(tx, shootId, copies, { name, date });
    return shootId;
  });
  events.send({ type: 'shoots' });
  return findShoot({ database }, copyId);
}

/** Takes a shoot away; for some minutes it can be brought back. What is under way for it is cancelled. */
export async function removeShoot({ database, queue, runner, events }: Context, id: number): Promise<void> {
  const { sample } = await findShoot({ database }, id);
  await database.transaction(async (tx) => {
    await tx.update(shoots).set({ removedAt: new Date() }).where(eq(shoots.id, id));
    if (sample) await noSample(tx);
  });
  runner.abort(await queue.cancel({ shootId: id }));
  events.send({ type: 'shoots' });
}

export async function restoreShoot(context: Context, id: number): Promise<Shoot> {
  const { database, events, runner } = context;
  await database
    .update(shoots)
    .set({ removedAt: null })
    .where(and(eq(shoots.id, id), isNotNull(shoots.removedAt)));
  events.send({ type: 'shoots' });
  const shoot = await findShoot({ database }, id);
  // What was cancelled of it is asked for again.
  if (shoot.sample) await bringSampleBack(context, context.sample).then(() => runner.wake());
  return shoot;
}

/** Deletes for good what was removed long enough ago; its files go with the next sweep. */
export async function purgeShoots({ database, events }: Pick<Context, 'database' | 'events'>): Promise<void> {
  const before = new Date(Date.now() - BACK_MINUTES * 60_000);
  const [{ affectedRows }] = await database
    .delete(shoots)
    .where(and(isNotNull(shoots.removedAt), lt(shoots.removedAt, before)));
  if (affectedRows) events.send({ type: 'shoots' });
}

/** Whether the sample shoot is among them. */
export async function isSampleHere({ database }: Pick<Context, 'database'>): Promise<boolean> {
  const rows = await database
    .select({ id: shoots.id })
    .from(shoots)
    .where(and(eq(shoots.demo, true), isNull(shoots.removedAt)));
  return rows.length > 0;
}
