import { and, eq } from 'drizzle-orm';
import { id, testShotSchema } from '../../../contract/index.ts';
import { demoPeople } from '../../../core/studio/index.ts';
import { checks, plans, setups } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { writtenBy } from '../../standIn/encodeShot.ts';
import { photograph } from '../../standIn/photograph.ts';
import { putPicture } from './rounds.ts';

/** A test frame by the stand-in camera, into its place in a round. */
export const testShotJob = defined({
  lane: 'set',
  payload: testShotSchema.extend({ checkId: id }),
  tells: (_job, { checkId }) => ({ checks: [checkId] }),
  async prepare({ database, queue }, _job, { checkId, planId, kind, people, seed }) {
    const [row] = await database
      .select({ shootId: setups.shootId, plan: plans.plan })
      .from(checks)
      .innerJoin(setups, eq(setups.id, checks.setupId))
      .innerJoin(plans, and(eq(plans.shootId, setups.shootId), eq(plans.id, planId)))
      .where(eq(checks.id, checkId));
    if (!row) return undefined;
    const subjects = people.map((name, n) => ({ ...demoPeople[name], prop: undefined, moment: seed * 7 + n }));
    return ready<'shot'>({
      task: 'shot',
      input: photograph(row.plan, kind, subjects, seed),
      files: ({ file }) => [file],
      keep: async (tx, { file, width, height }) => {
        const picture = {
          kind,
          name: `Stand-in camera, take ${seed}`,
          file,
          width,
          height,
          camera: writtenBy(row.plan.camera),
        };
        const old = await putPicture(tx, queue, { checkId, shootId: row.shootId }, picture);
        return { superfluous: old ? [old] : [], tells: { checks: [checkId] } };
      },
    });
  },
});
