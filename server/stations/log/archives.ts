import { and, eq, inArray, isNotNull } from 'drizzle-orm';
import type { Job } from '../../../contract/index.ts';
import { jobs, shoots } from '../../database/schema.ts';
import { Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startJob } from '../../jobs/startJob.ts';

/**
 * Has a shoot’s pictures moved to a folder elsewhere, or back with null.
 * @throws Refusal while anything is made from them, or if they lie in another folder already.
 */
export async function startArchive(context: Context, shootId: number, folder: string | null): Promise<Job> {
  return startJob(context, { kind: 'archive', shootId, payload: { folder } }, async (tx) => {
    const [row] = await tx.select().from(shoots).where(eq(shoots.id, shootId)).for('update');
    const open = await tx
      .select({ id: jobs.id })
      .from(jobs)
      .where(and(eq(jobs.shootId, shootId), inArray(jobs.state, ['queued', 'running'])));
    if (open.length)
      throw new Refusal(409, {
        reason: `something is still being made from the pictures of “${row.name}”`,
        remedy: 'Wait until it is done, or cancel it, then move them.',
      });
    if (folder === null) return;
    if (row.archive !== null && row.archive !== folder)
      throw new Refusal(409, {
        reason: `its pictures lie in “${row.archive}” already`,
        remedy: 'Bring them back first, then move them to another folder.',
      });
    await tx.update(shoots).set({ archive: folder }).where(eq(shoots.id, shootId));
  });
}

/** An archive that holds pictures, of one shoot or of any, and is not there now. */
export async function archiveAway(
  { database, store }: Pick<Context, 'database' | 'store'>,
  shootId?: number,
): Promise<string | undefined> {
  const of = shootId === undefined ? undefined : eq(shoots.id, shootId);
  const rows = await database
    .selectDistinct({ archive: shoots.archive })
    .from(shoots)
    .where(and(isNotNull(shoots.archive), of));
  const there = (await store.archives()).flatMap((place) => (place.there ? place.folder : []));
  return rows.map(({ archive }) => archive ?? '').find((folder) => !there.includes(folder));
}
