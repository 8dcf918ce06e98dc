import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { cuts, frames, setups } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { queueFacts } from './factsJob.ts';

/** A cut of the photograph as it was developed before; no order has this name. */
export const OF_ANOTHER = 'another picture';

/** A frame developed anew from its raw file, by what its setup says now. */
export const developJob = defined({
  lane: 'set',
  payload: z.object({}),
  tells: ({ frameId }) => (frameId === null ? {} : { frames: [frameId] }),
  async prepare({ database, queue }, { frameId, shootId }) {
    if (frameId === null || shootId === null) return undefined;
    const [row] = await database
      .select({ frame: frames, settings: setups.develop })
      .from(frames)
      .innerJoin(setups, eq(setups.id, frames.setupId))
      .where(eq(frames.id, frameId));
    if (!row?.frame.raw) return undefined;
    const { frame, settings } = row;
    return ready<'develop'>({
      task: 'develop',
      input: { raw: { hash: frame.raw ?? '' }, settings },
      files: ({ file }) => [file],
      keep: async (tx, { file, width, height }) => {
        if (file === frame.file) return {};
        await tx.update(frames).set({ file, width, height, facts: null }).where(eq(frames.id, frameId));
        await tx.update(cuts).set({ fingerprint: OF_ANOTHER }).where(eq(cuts.frameId, frameId));
        await queueFacts(tx, queue, [{ id: frameId, shootId }]);
        return { superfluous: [frame.file] };
      },
    });
  },
});
