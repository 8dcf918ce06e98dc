import { asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { clockedTime } from '../../../contract/clock.ts';
import { id } from '../../../contract/index.ts';
import { frames, setups } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { MOST_GATHERED } from './gatherScreen.ts';
import { framesOf } from '../extract/readOrders.ts';

export const tooFew = {
  reason: 'the setup has fewer than two frames of one size',
  remedy: 'Bring in more frames of it at Gather, or photograph the empty screen.',
};

/** The empty screen of a setup, put together from its frames; becomes a plate of it. */
export const plateJob = defined({
  lane: 'set',
  payload: z.object({ setupId: id }),
  async prepare({ database }, _job, { setupId }) {
    const [setup] = await database.select().from(setups).where(eq(setups.id, setupId));
    if (!setup) return undefined;
    const all = await database.select().from(frames).where(eq(frames.setupId, setupId)).orderBy(asc(frames.id));
    const shown = plateSources(all);
    if (shown.length < 2) return tooFew;
    return ready<'plate'>({
      task: 'plate',
      input: { files: evenly(shown, MOST_GATHERED).map(({ file }) => file) },
      files: ({ file }) => [file],
      keep: async (tx, { file, bytes, width, height, used, seen }) => {
        const name = `screen of ${used} frames.jpg`;
        const there = all.find((frame) => frame.file === file);
        const takenAt = middleTime(shown);
        const values = { setupId, name, file, bytes, width, height, depth: 8, takenAt, plate: true };
        const frameId = there?.id ?? (await tx.insert(frames).values(values))[0].insertId;
        if (there) await tx.update(frames).set({ plate: true }).where(eq(frames.id, frameId));
        const orders = [...(await framesOf(database, setupId)), frameId];
        return { made: { frameId, seen }, tells: { frames: [frameId], orders } };
      },
    });
  },
});

/**
 * Frames that a plate can be put together from: those of the commonest size, since frames held the other way up show
 * another part of the set.
 */
export function plateSources<T extends { plate: boolean; width: number; height: number }>(all: readonly T[]): T[] {
  const list = all.filter(({ plate }) => !plate);
  const like = (one: T): T[] => list.filter(({ width, height }) => width === one.width && height === one.height);
  return list.reduce<T[]>((most, one) => (like(one).length > most.length ? like(one) : most), []);
}

/** The time in the middle of what it is put together from: it goes with the frames nearest to it. */
function middleTime(shown: readonly { takenAt: string | null; clock: number }[]): string | null {
  const times = shown.flatMap(({ takenAt, clock }) => clockedTime(takenAt, clock) ?? []).toSorted();
  return times[times.length >> 1] ?? null;
}

/** So many of a list at most, spread over all of it. */
function evenly<T>(list: readonly T[], most: number): T[] {
  const every = Math.max(1, list.length / most);
  return Array.from({ length: Math.min(most, list.length) }, (_, n) => list[Math.floor(n * every)]);
}
