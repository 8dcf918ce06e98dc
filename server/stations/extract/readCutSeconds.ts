import { and, desc, eq } from 'drizzle-orm';
import type { Reader } from '../../database/connect.ts';
import { jobs } from '../../database/schema.ts';

/** Seconds for one frame when `workers` cut at once, over the latest hundred cuts; null until there are some. */
export async function readCutSeconds(database: Reader, workers: number): Promise<number | null> {
  const rows = await database
    .select({ milliseconds: jobs.milliseconds })
    .from(jobs)
    .where(and(eq(jobs.kind, 'cut'), eq(jobs.state, 'done')))
    .orderBy(desc(jobs.id))
    .limit(100);
  if (!rows.length) return null;
  return rows.reduce((sum, row) => sum + (row.milliseconds ?? 0), 0) / rows.length / 1000 / Math.max(1, workers);
}
