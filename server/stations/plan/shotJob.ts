import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq } from 'drizzle-orm';
import { id, shotRequestSchema } from '../../../contract/index.ts';
import { demoPeople } from '../../../core/studio/index.ts';
import { frames, plans, setups } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { writeWhole } from '../../store/writeWhole.ts';
import { addFrame } from '../gather/addFrame.ts';
import { photograph } from '../../standIn/photograph.ts';

/** A frame of a planned set by the stand-in camera, into Gather: into the setup's watched folder, if it has one. */
export const shotJob = defined({
  lane: 'set',
  payload: shotRequestSchema.extend({ planId: id }),
  async prepare({ database, queue, store }, _job, { planId, setupId, kind, people, pose, seed }) {
    const [row] = await database
      .select({ plan: plans.plan, shootId: plans.shootId })
      .from(plans)
      .where(eq(plans.id, planId));
    if (!row) return undefined;
    const subjects = people.map((name, n) => ({ ...demoPeople[name], pose, moment: seed * 7 + n }));
    const who = kind === 'people' ? people.join('-') || 'nobody' : kind.replace(' ', '-');
    return ready<'shot'>({
      task: 'shot',
      input: photograph(row.plan, kind, subjects, seed),
      files: ({ file, raw }) => (raw ? [file, raw] : [file]),
      keep: async (tx, picture) => {
        const ending = picture.raw ? 'dng' : picture.depth === 16 ? 'tif' : 'jpg';
        const name = `STANDIN_${who}_${seed}.${ending}`;
        const [{ watch }] = await tx.select({ watch: setups.watch }).from(setups).where(eq(setups.id, setupId));
        if (watch) {
          // As a tethered camera does; it is taken from there.
          const file = await readFile(await store.need(picture.raw ?? picture.file, 'this photograph'));
          await writeWhole(join(watch, name), file);
          return { superfluous: [picture.file, ...(picture.raw ? [picture.raw] : [])] };
        }
        const same = and(eq(frames.setupId, setupId), eq(frames.file, picture.file));
        const [there] = await tx.select({ id: frames.id }).from(frames).where(same);
        if (there) return { made: { frameId: there.id } };
        const frameId = await addFrame(tx, queue, row.shootId, { setupId, name, ...picture, takenAt: null });
        return { made: { frameId }, tells: { frames: [frameId], orders: [frameId] } };
      },
    });
  },
});
