import { and, eq, sql } from 'drizzle-orm';
import type { KeptBack } from '../../../contract/index.ts';
import type { Database, Transaction } from '../../database/connect.ts';
import { frames, placements, setups, subjects } from '../../database/schema.ts';

/** Frames that must not leave the house, by frame, and why: somebody on them said no. */
export async function refusedFrames(database: Database | Transaction, shootId: number): Promise<Map<number, KeptBack>> {
  const rows = await database
    .select({
      id: frames.id,
      frame: frames.name,
      subject: frames.subject,
      consent: subjects.consent,
      others: placements.others,
    })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .leftJoin(subjects, and(eq(subjects.shootId, setups.shootId), sql`binary ${subjects.name} = ${frames.subject}`))
    .leftJoin(placements, eq(placements.frameId, frames.id))
    .where(eq(setups.shootId, shootId));
  const refused = new Map<number, KeptBack>();
  for (const { id, frame, subject, consent } of rows)
    if (consent === 'no') refused.set(id, { frame, subject, reason: 'said no' });
  for (const { id, frame, subject, others } of rows) {
    const beside = others?.find(({ frameId }) => refused.get(frameId)?.reason === 'said no');
    if (beside && !refused.has(id))
      refused.set(id, { frame, subject, reason: `${refused.get(beside.frameId)?.subject} stands on it, who said no` });
  }
  return refused;
}
