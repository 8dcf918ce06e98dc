import { desc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '../../../contract/index.ts';
import { exposureOf } from '../../../core/gather/camera.ts';
import type { Reader } from '../../database/connect.ts';
import { checks, plans, testPictures } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';

/** The reading of a round as its photographs and marks are now. */
export const readingJob = defined({
  lane: 'set',
  payload: z.object({ checkId: id }),
  tells: (_job, { checkId }) => ({ checks: [checkId] }),
  async prepare({ database }, _job, { checkId }) {
    const round = await stateOf(database, checkId);
    if (!round || !round.pictures.length) return undefined;
    const { setupId, marks, pictures } = round;
    const [planned] = await database
      .select()
      .from(plans)
      .where(eq(plans.setupId, setupId))
      .orderBy(desc(plans.changedAt))
      .limit(1);
    const lead = pictures.find(({ kind }) => kind === 'people') ?? pictures.find(({ kind }) => kind === 'plate');
    return ready<'read'>({
      task: 'read',
      input: {
        taken: lead && {
          camera: lead.camera.body,
          upright: lead.height >= lead.width,
          exposure: exposureOf(lead.camera),
          focal: lead.camera.focal,
        },
        pictures: Object.fromEntries(pictures.map(({ kind, file }) => [kind, file])),
        marks,
        plan: planned?.plan,
      },
      files: () => [],
      keep: async (tx, findings) => {
        // If they changed meanwhile, the later reading is the one that stays.
        const now = await stateOf(tx, checkId);
        if (JSON.stringify(now) === JSON.stringify(round))
          await tx.update(checks).set({ findings }).where(eq(checks.id, checkId));
        return {};
      },
    });
  },
});

async function stateOf(database: Reader, checkId: number) {
  const [round] = await database
    .select({ setupId: checks.setupId, marks: checks.marks })
    .from(checks)
    .where(eq(checks.id, checkId));
  if (!round) return undefined;
  const pictures = await database
    .select({
      kind: testPictures.kind,
      file: testPictures.file,
      camera: testPictures.camera,
      width: testPictures.width,
      height: testPictures.height,
    })
    .from(testPictures)
    .where(eq(testPictures.checkId, checkId))
    .orderBy(testPictures.kind);
  return { ...round, pictures };
}
