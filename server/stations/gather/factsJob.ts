import { and, count, eq, inArray, isNull, notExists } from 'drizzle-orm';
import { z } from 'zod';
import { frameFactsSchema } from '../../../contract/index.ts';
import type { Transaction } from '../../database/connect.ts';
import { frames, jobs, setups } from '../../database/schema.ts';
import { flawOf } from '../../database/sound.ts';
import { defined, ready } from '../../jobs/definition.ts';
import type { NewJob, Queue } from '../../jobs/queue.ts';

/** Before cuts: it takes less than a second, and at the set somebody waits to hear whether the frame is good. */
const AT_THE_SET = -5;
/** After cuts: of a whole card nobody waits for a single frame, and who extracts does not wait for the card. */
const OF_A_CARD = 5;
/** So many frames that wait to be read before cuts are a card. */
const CARD = 12;

/** Has frames read as they are gathered. */
export async function queueFacts(
  tx: Transaction,
  queue: Queue,
  frames: readonly { id: number; shootId: number }[],
): Promise<void> {
  const [{ waiting }] = await tx
    .select({ waiting: count() })
    .from(jobs)
    .where(and(eq(jobs.kind, 'facts'), eq(jobs.state, 'queued'), eq(jobs.priority, AT_THE_SET)));
  const job = ({ id, shootId }: { id: number; shootId: number }, n: number): NewJob => ({
    kind: 'facts',
    shootId,
    frameId: id,
    priority: waiting + n < CARD ? AT_THE_SET : OF_A_CARD,
  });
  await queue.add(tx, frames.map(job));
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
  await queueFacts(tx, queue, missing);
}
