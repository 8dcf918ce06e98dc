import { and, eq, ne } from 'drizzle-orm';
import type { Transaction } from '../../database/connect.ts';
import { frames, setups } from '../../database/schema.ts';
import type { Queue } from '../../jobs/queue.ts';
import { queueFacts } from './factsJob.ts';
import { ensureSubjects } from './onRoster.ts';

/**
 * A frame comes into a setup: its row, whoever is on it on the roster, and the job that reads it. It takes the clock of
 * its camera's other frames.
 */
export async function addFrame(
  tx: Transaction,
  queue: Queue,
  shootId: number,
  values: typeof frames.$inferInsert,
): Promise<number> {
  const clock = values.camera?.body ? await clockOf(tx, shootId, values.camera.body) : 0;
  const [{ insertId }] = await tx.insert(frames).values({ ...values, clock });
  if (values.subject) await ensureSubjects(tx, shootId, [values.subject]);
  await queueFacts(tx, queue, [{ id: insertId, shootId }]);
  return insertId;
}

async function clockOf(tx: Transaction, shootId: number, body: string): Promise<number> {
  const rows = await tx
    .select({ clock: frames.clock, camera: frames.camera })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(and(eq(setups.shootId, shootId), ne(frames.clock, 0)));
  return rows.find(({ camera }) => camera.body === body)?.clock ?? 0;
}
