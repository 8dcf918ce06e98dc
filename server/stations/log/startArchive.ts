import { resolve } from 'node:path';
import { and, eq, inArray } from 'drizzle-orm';
import type { Job } from '../../../contract/index.ts';
import { jobs, shoots } from '../../database/schema.ts';
import { Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startJob } from '../../jobs/startJob.ts';

/**
 * Has a shoot’s pictures moved to a folder elsewhere, or back with null.
 * @throws Refusal while anything is made from them, or if they lie in another folder already; PictureError if the folder
 * is not there or cannot be written.
 */
export async function startArchive(context: Context, shootId: number, to: string | null): Promise<Job> {
  const folder = to === null ? null : resolve(to);
  // A shoot never says that it lies in a folder that was never there.
  if (folder !== null) await context.store.enrol(folder);
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
