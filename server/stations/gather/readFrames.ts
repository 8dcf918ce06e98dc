import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { frameSchema, type Frame } from '../../../contract/index.ts';
import { noGuidance, type Quality } from '../../../core/cut/index.ts';
import { clockedTime } from '../../../contract/clock.ts';
import type { Reader } from '../../database/connect.ts';
import { cuts, frames, jobs, placements, setups } from '../../database/schema.ts';
import { soundOr, type OnBroken, type Unread } from '../../database/sound.ts';

const soundFrame = frameSchema.omit({ revision: true });

/** Frames of a shoot, or some frames, in the order they were taken. */
export async function readFrames(
  database: Reader,
  where: { shootId?: number; frameIds?: number[] },
  broken: OnBroken = () => undefined,
): Promise<Unread<Frame>[]> {
  if (where.frameIds?.length === 0) return [];
  const condition = and(
    where.shootId ? eq(setups.shootId, where.shootId) : undefined,
    where.frameIds ? inArray(frames.id, where.frameIds) : undefined,
  );
  const rows = await database
    .select({ frame: frames, cut: cuts, placement: placements })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .leftJoin(cuts, eq(cuts.frameId, frames.id))
    .leftJoin(placements, eq(placements.frameId, frames.id))
    .where(condition)
    .orderBy(asc(frames.takenAt), asc(frames.name), asc(frames.id));
  const latest = await latestCutJobs(
    database,
    rows.map((row) => row.frame.id),
  );
  return rows.flatMap(({ frame, cut, placement }) => {
    const job = latest.get(frame.id);
    const read: Unread<Frame> = {
      id: frame.id,
      setupId: frame.setupId,
      name: frame.name,
      width: frame.width,
      height: frame.height,
      depth: frame.depth === 16 ? 16 : 8,
      bytes: frame.bytes,
      takenAt: clockedTime(frame.takenAt, frame.clock),
      clock: frame.clock,
      camera: frame.camera,
      raw: frame.raw !== null,
      facts: frame.facts,
      plate: frame.plate,
      pick: frame.pick,
      subject: frame.subject,
      guidance: frame.guidance,
      review: frame.review,
      cut: cut
        ? {
            version: cut.file.slice(0, 16),
            quality: filledQuality(cut.quality),
            fingerprint: cut.fingerprint,
            extraction: cut.extraction,
            faces: cut.faces,
            hands: cut.hands,
          }
        : null,
      job: job && job.state !== 'done' && job.state !== 'cancelled' ? { state: job.state, problem: job.problem } : null,
      placement: placement
        ? {
            backgroundId: placement.backgroundId,
            x: placement.x,
            y: placement.y,
            height: placement.height,
            look: placement.look,
            others: placement.others,
          }
        : null,
      crops: placement?.crops ?? {},
      picture: frame.file.slice(0, 16),
    };
    const without = (flaw: string, part: string, remedy: string): Unread<Frame> => ({
      ...read,
      cut: null,
      job: { state: 'failed', problem: { reason: `${part} cannot be read (${flaw})`, remedy } },
    });
    return soundOr(
      soundFrame,
      read,
      [
        (flaw) => without(flaw, 'what is kept of its cut', 'Extract it again.'),
        (flaw) => ({
          ...without(flaw, 'what was said on it', 'Judge it again and extract it again.'),
          guidance: noGuidance,
          review: null,
          placement: null,
          crops: {},
        }),
      ],
      broken,
      `The frame “${frame.name}”`,
    );
  });
}

/** Rows of an earlier version know no ledger, no places and no extent. */
function filledQuality(quality: Quality): Quality {
  return {
    ...quality,
    extent: quality?.extent ?? { x: 0, y: 0, width: 1, height: 1 },
    ledger: quality?.ledger ?? [],
    doubts: (quality?.doubts ?? []).map((doubt) => ({ ...doubt, places: doubt?.places ?? [] })),
  };
}

async function latestCutJobs(database: Reader, frameIds: number[]) {
  if (!frameIds.length) return new Map<number, typeof jobs.$inferSelect>();
  const newest = database
    .select({ newestId: sql<number>`max(${jobs.id})`.as('newest_id') })
    .from(jobs)
    .where(and(eq(jobs.kind, 'cut'), inArray(jobs.frameId, frameIds)))
    .groupBy(jobs.frameId)
    .as('newest');
  const rows = await database.select({ job: jobs }).from(jobs).innerJoin(newest, eq(newest.newestId, jobs.id));
  return new Map(rows.map(({ job }) => [job.frameId, job]));
}
