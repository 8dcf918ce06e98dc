import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { archiveRequestSchema, type SpaceTaken } from '../../../contract/index.ts';
import { shoots } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { archiveAway } from './archives.ts';
import { filesOfShootAlone, neededAs } from './space.ts';

/** A shoot’s pictures moved to a folder elsewhere, as to another disk, or back. */
export const archiveJob = defined({
  lane: 'set',
  payload: z.object({ ...archiveRequestSchema.shape }),
  async prepare({ database, store, events }, { shootId }, { folder }) {
    if (shootId === null) return undefined;
    const away = await archiveAway({ database, store }, shootId);
    if (folder === null && away !== undefined)
      return { reason: `the archive “${away}” is not there now`, remedy: 'Connect its disk, then try again.' };
    const files = Object.entries(await filesOfShootAlone(database, shootId)).flatMap(([what, hashes]) =>
      hashes.map((hash) => ({ hash, what: neededAs[what as SpaceTaken['what']] })),
    );
    return ready<'archive'>({
      task: 'archive',
      input: { folder, files },
      files: () => [],
      keep: async (tx) => {
        // While files move it says where some of them may be already.
        await tx.update(shoots).set({ archive: folder }).where(eq(shoots.id, shootId));
        events.send({ type: 'shoots' });
        return {};
      },
    });
  },
});
