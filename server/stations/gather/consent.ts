import { and, eq, sql } from 'drizzle-orm';
import type { Consent } from '../../../core/gather/subject.ts';
import type { Reader } from '../../database/connect.ts';
import { frames, placements, setups, subjects } from '../../database/schema.ts';

/** Somebody on a picture and what they said of it; whoever is not on the roster was not asked. */
export interface OnPicture {
  name: string;
  consent: Consent;
}

/** Who is on each frame of a shoot, and in its finished picture: the frame’s own subject, then those beside them. */
export async function peopleOn(database: Reader, shootId: number): Promise<Map<number, OnPicture[]>> {
  const rows = await database
    .select({ id: frames.id, name: frames.subject, consent: subjects.consent, others: placements.others })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .leftJoin(subjects, and(eq(subjects.shootId, setups.shootId), sql`binary ${subjects.name} = ${frames.subject}`))
    .leftJoin(placements, eq(placements.frameId, frames.id))
    .where(eq(setups.shootId, shootId));
  const own = new Map(rows.map(({ id, name, consent }) => [id, { name, consent: consent ?? 'unasked' }]));
  return new Map(
    rows.map(({ id, others }) => [
      id,
      [id, ...(others ?? []).map(({ frameId }) => frameId)].flatMap((frameId) => own.get(frameId) ?? []),
    ]),
  );
}

/** Frames of a shoot that must not be shown to others: somebody in the picture said no. */
export async function refusedFrames(database: Reader, shootId: number): Promise<Set<number>> {
  const people = await peopleOn(database, shootId);
  return new Set([...people].flatMap(([id, on]) => (on.some(({ consent }) => consent === 'no') ? [id] : [])));
}
