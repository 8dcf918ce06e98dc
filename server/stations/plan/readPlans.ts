import { and, eq, inArray } from 'drizzle-orm';
import { planRowSchema, type PlanRow } from '../../../contract/index.ts';
import type { Reader } from '../../database/connect.ts';
import { plans } from '../../database/schema.ts';
import { soundOr, type OnBroken, type Unread } from '../../database/sound.ts';

const soundPlan = planRowSchema.omit({ revision: true });

/** Plans of a shoot, or some plans, in the order they were made. */
export async function readPlans(
  database: Reader,
  where: { shootId?: number; planIds?: number[] },
  broken: OnBroken = () => undefined,
): Promise<Unread<PlanRow>[]> {
  if (where.planIds?.length === 0) return [];
  const rows = await database
    .select()
    .from(plans)
    .where(
      and(
        where.shootId ? eq(plans.shootId, where.shootId) : undefined,
        where.planIds ? inArray(plans.id, where.planIds) : undefined,
      ),
    )
    .orderBy(plans.id);
  return rows.flatMap(({ id, shootId, setupId, plan, changedAt }) =>
    soundOr(
      soundPlan,
      { id, shootId, setupId, plan, changedAt: changedAt.toISOString() },
      [],
      broken,
      `A planned set, “${plan?.name ?? id}”,`,
    ),
  );
}
