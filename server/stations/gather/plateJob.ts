import { asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '../../../contract/index.ts';
import { frames, setups } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { MOST_GATHERED } from './gatherScreen.ts';
import { framesOf } from '../extract/readOrders.ts';

export const tooFew = {
  reason: 'the setup has fewer than two frames of one size',
  remedy: 'Bring in more frames of it at Gather, or photograph the empty screen.',
};

/** The empty screen of a setup, put together from its frames; becomes its plate. */
export const plateJob = defined({
  lane: 'set',
  payload: z.object({ setupId: id }),
  async prepare({ database }, _job, { setupId }) {
    const [setup] = await database.select().from(setups).where(eq(setups.id, setupId));
    if (!setup) return undefined;
    const all = await database.select().from(frames).where(eq(frames.setupId, setupId)).orderBy(asc(frames.id));
    const shown = plateSources(all, setup.plateFrameId);
    if (shown.length < 2) return tooFew;
    return ready<'plate'>({
      task: 'plate',
      input: { files: evenly(shown, MOST_GATHERED).map(({ file }) => file) },
      files: ({ file }) => [file],
      keep: async (tx, { file, bytes, width, height, used, seen }) => {
        const name = `screen of ${used} frames.jpg`;
        const there = all.find((frame) => frame.file === file);
        const values = { setupId, name, file, bytes, width, height, depth: 8, takenAt: null };
        const frameId = there?.id ?? (await tx.insert(frames).values(values))[0].insertId;
        await tx.update(setups).set({ plateFrameId: frameId }).where(eq(setups.id, setupId));
        const orders = [...(await framesOf(database, setupId)), frameId];
        return { made: { frameId, seen }, tells: { setups: [setupId], frames: [frameId], orders } };
      },
    });
  },
});

/**
 * Frames that a plate can be put together from: those of the commonest size, since frames held the other way up show
 * another part of the set.
 */
export function plateSources<T extends { id: number; width: number; height: number }>(
  all: readonly T[],
  plateFrameId: number | null,
): T[] {
  const list = all.filter((frame) => frame.id !== plateFrameId);
  const like = (one: T): T[] => list.filter(({ width, height }) => width === one.width && height === one.height);
  return list.reduce<T[]>((most, one) => (like(one).length > most.length ? like(one) : most), []);
}

/** So many of a list at most, spread over all of it. */
function evenly<T>(list: readonly T[], most: number): T[] {
  const every = Math.max(1, list.length / most);
  return Array.from({ length: Math.min(most, list.length) }, (_, n) => list[Math.floor(n * every)]);
}
