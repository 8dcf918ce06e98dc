import { and, asc, count, eq, inArray, isNotNull, notInArray } from 'drizzle-orm';
import { masksSchema, type Job, type Setup, type SetupChange } from '../../../contract/index.ts';
import { defaultRecipe, labelOf, type Recipe } from '../../../core/cut/index.ts';
import type { Transaction } from '../../database/connect.ts';
import { checks, frames, jobs, setups } from '../../database/schema.ts';
import { checkFolder } from '../../http/checkFolder.ts';
import { found, notFound, parse, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { mergedOrRefused } from '../../http/mergedOrRefused.ts';
import type { Queue } from '../../jobs/queue.ts';
import { startJob } from '../../jobs/startJob.ts';
import { framesOf } from '../extract/readOrders.ts';
import { findShoot } from '../shoots/shoots.ts';
import { plateSources, tooFew } from './plateJob.ts';
import { filledSetup, readSetups } from './readSetups.ts';

/** Setups made and changed, and their plates put together. */

export async function createSetup(context: Context, shootId: number, name: string): Promise<Setup> {
  await findShoot(context, shootId);
  const [{ insertId }] = await context.database.insert(setups).values({ shootId, name, recipe: defaultRecipe });
  return found(await context.news.tellOne(shootId, 'setups', insertId), 'setup');
}

/** @param seen what the change was made on. */
export async function changeSetup(context: Context, id: number, seen: SetupChange, to: SetupChange): Promise<Setup> {
  const { database, news } = context;
  if (to.watch) await checkFolder(to.watch, 'such as the one your tethering or card reader writes to');
  const shootId = await database.transaction(async (tx) => {
    const [row] = await tx.select().from(setups).where(eq(setups.id, id)).for('update');
    if (!row) throw notFound('setup');
    const now = filledSetup(row);
    const before = {
      name: now.name,
      recipe: now.recipe,
      masks: now.masks,
      develop: now.develop,
      watch: now.watch,
      follow: now.follow,
    };
    const { name, recipe, masks, develop, watch, follow } = mergedOrRefused(before, seen, to, nameOf);
    const sound = parse(masksSchema, masks, 'masks');
    await tx
      .update(setups)
      .set({ name, recipe, masks: sound, develop, watch: watch || null, follow })
      .where(eq(setups.id, id));
    if (JSON.stringify(develop) !== JSON.stringify(now.develop)) {
      const own = await tx.select({ id: frames.id }).from(frames).where(eq(frames.setupId, id));
      await developAgain(
        tx,
        context.queue,
        row.shootId,
        own.map((frame) => frame.id),
      );
    }
    return row.shootId;
  });
  context.runner.wake();
  const told = await news.tell(shootId, { setups: [id], orders: await framesOf(database, id) });
  return found(
    told.setups.find((setup) => setup.id === id),
    'setup',
  );
}

/** Has the raw files of frames developed by what their setup says now; those that wait already need no second job. */
export async function developAgain(
  tx: Transaction,
  queue: Queue,
  shootId: number,
  frameIds: readonly number[],
): Promise<void> {
  const waiting = tx
    .select({ id: jobs.frameId })
    .from(jobs)
    .where(and(eq(jobs.kind, 'develop'), eq(jobs.state, 'queued'), isNotNull(jobs.frameId)));
  const raw = await tx
    .select({ id: frames.id })
    .from(frames)
    .where(and(inArray(frames.id, [0, ...frameIds]), isNotNull(frames.raw), notInArray(frames.id, waiting)));
  await queue.add(
    tx,
    raw.map(({ id }) => ({ kind: 'develop' as const, shootId, frameId: id })),
  );
}

/** Takes an empty setup away. @throws Refusal while frames or rounds of test frames hang on it; a plan stays with the shoot. */
export async function removeSetup({ database, news }: Context, id: number): Promise<void> {
  const shootId = await database.transaction(async (tx) => {
    const [setup] = await tx.select().from(setups).where(eq(setups.id, id)).for('update');
    if (!setup) throw notFound('setup');
    const [{ there }] = await tx.select({ there: count() }).from(frames).where(eq(frames.setupId, id));
    if (there)
      throw new Refusal(409, {
        reason: `“${setup.name}” still has ${there} ${there === 1 ? 'frame' : 'frames'}`,
        remedy: 'Move them to another setup or take them out first.',
      });
    const [{ rounds }] = await tx.select({ rounds: count() }).from(checks).where(eq(checks.setupId, id));
    if (rounds)
      throw new Refusal(409, {
        reason: `“${setup.name}” was tested, and what was read of it would go as well`,
        remedy: 'Remove its rounds at Check first, if nobody needs them.',
      });
    const [{ own }] = await tx.select({ own: count() }).from(setups).where(eq(setups.shootId, setup.shootId));
    if (own === 1)
      throw new Refusal(409, { reason: 'a shoot has at least one setup', remedy: 'Give it another name.' });
    await tx.delete(setups).where(eq(setups.id, id));
    return setup.shootId;
  });
  await news.tell(shootId, { setups: [id] });
}

/** Has the plate of a setup put together from its frames. */
export async function gatherPlate(context: Context, setupId: number): Promise<Job> {
  const { database, queue } = context;
  const { shootId } = found((await readSetups(database, { setupIds: [setupId] }))[0], 'setup');
  const all = await database.select().from(frames).where(eq(frames.setupId, setupId)).orderBy(asc(frames.id));
  if (plateSources(all).length < 2) throw new Refusal(409, tooFew);
  const about = { kind: 'plate', payload: { setupId } } as const;
  return startJob(context, { ...about, shootId }, async (tx) => {
    // Two at once come here one after the other.
    await tx.select().from(setups).where(eq(setups.id, setupId)).for('update');
    if (await queue.isOpen(about))
      throw new Refusal(409, {
        reason: 'a plate of this setup is being put together already',
        remedy: 'Wait until it is there.',
      });
  });
}

/** What a field of a setup is called on the page. */
function nameOf([field, setting]: string[]): string {
  if (field === 'recipe' && setting) return `“${labelOf(setting as keyof Recipe)}”`;
  if (field === 'watch' || field === 'follow') return 'The watched folder';
  if (field === 'develop') return 'How raw files are developed';
  return field === 'name' ? 'The name of the setup' : 'The setup';
}
