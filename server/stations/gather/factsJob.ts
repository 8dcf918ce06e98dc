import { and, eq, inArray, isNull, notExists } from 'drizzle-orm';
import { z } from 'zod';
import { frameFactsSchema } from '../../../contract/index.ts';
import type { Transaction } from '../../database/connect.ts';
import { frames, jobs, setups } from '../../database/schema.ts';
import { flawOf } from '../../database/sound.ts';
import { defined, ready } from '../../jobs/definition.ts';
import type { NewJob, Queue } from '../../jobs/queue.ts';

/** Before cuts: it takes less than a second, and at the set somebody waits to hear whether the frame is good. */
const PRIORITY = -5;

/** The job that reads a frame as it is gathered. */
export function factsOfFrame(frameId: number, shootId: number): NewJob {
  return { kind: 'facts', shootId, frameId, priority: PRIORITY };
}

/** What a frame shows: slate, screen, person, faces. */
export const factsJob = defined({
  lane: 'batch',
  waits: true,
  payload: z.object({}),
  tells: ({ frameId }) => (frameId === null ? {} : { frames: [frameId] }),
  async prepare({ database }, { frameId }) {
    if (frameId === null) return undefined;
    const [frame] = await database.select({ file: frames.file }).from(frames).where(eq(frames.id, frameId));
    if (!frame) return undefined;
    return ready<'facts'>({
      task: 'facts',
      input: { photograph: frame.file },
      files: () => [],
      flaw: ({ facts }) => {
        const flaw = flawOf(frameFactsSchema, facts);
        return flaw === undefined
          ? undefined
          : {
              reason: `a figure of what it shows is no number (${flaw})`,
              remedy: 'Sort it by hand; it can be extracted as it is.',
            };
      },
      keep: async (tx, { facts }) => {
        await tx.update(frames).set({ facts }).where(eq(frames.id, frameId));
        return {};
      },
    });
  },
});

/**
 * Frames that came before they were read as they came, or whose reading was lost, are read now.
 * @param shootId of one shoot only.
 */
export async function readMissing(tx: Transaction, queue: Queue, shootId?: number): Promise<void> {
  const open = tx
    .select({ id: jobs.id })
    .from(jobs)
    .where(and(eq(jobs.frameId, frames.id), eq(jobs.kind, 'facts'), inArray(jobs.state, ['queued', 'running'])));
  const missing = await tx
    .select({ id: frames.id, shootId: setups.shootId })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(and(isNull(frames.facts), notExists(open), shootId === undefined ? undefined : eq(setups.shootId, shootId)));
  await queue.add(
    tx,
    missing.map((frame) => factsOfFrame(frame.id, frame.shootId)),
  );
}
