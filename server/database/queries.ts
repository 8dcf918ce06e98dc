import { and, asc, count, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import {
  frameSchema,
  planRowSchema,
  setupSchema,
  type Background,
  type Batch,
  type Delivery,
  type Frame,
  type PlanRow,
  type Problem,
  type Setup,
  type Shoot,
} from '../../contract/index.ts';
import {
  defaultRecipe,
  guidanceFor,
  instructionsOf,
  noGuidance,
  type Guidance,
  type Quality,
  type Recipe,
} from '../../core/cut/index.ts';
import type { Placement } from '../../core/place/index.ts';
import type { Database } from './connect.ts';
import { soundOr } from './sound.ts';
import {
  backgrounds,
  batches,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  jobs,
  placements,
  plans,
  setups,
  shoots,
} from './schema.ts';

/** Reads rows as the interface shows them; `News` says when they were read. */

/** An item before it is said when it was read. */
export type Unread<T> = Omit<T, 'revision'>;
/** Told what is kept and cannot be shown. */
export type OnBroken = (problem: Problem) => void;
const ignore: OnBroken = () => undefined;
const soundFrame = frameSchema.omit({ revision: true });
const soundSetup = setupSchema.omit({ revision: true });
const soundPlan = planRowSchema.omit({ revision: true });

/** @param workers how many jobs run at once, for the time left. */
export async function readBatches(
  database: Database,
  workers: number,
  where: { shootId?: number; batchIds?: number[] },
): Promise<Unread<Batch>[]> {
  if (where.batchIds?.length === 0) return [];
  const tally = (state: string) => sql<number>`cast(sum(${jobs.state} = ${state}) as signed)`;
  const rows = await database
    .select({
      id: batches.id,
      shootId: batches.shootId,
      kind: batches.kind,
      total: count(jobs.id),
      done: tally('done'),
      failed: tally('failed'),
      cancelled: tally('cancelled'),
      mean: sql<number | null>`cast(avg(${jobs.milliseconds}) as double)`,
    })
    .from(batches)
    .innerJoin(jobs, eq(jobs.batchId, batches.id))
    .where(
      and(
        where.shootId ? eq(batches.shootId, where.shootId) : undefined,
        where.batchIds ? inArray(batches.id, where.batchIds) : undefined,
      ),
    )
    .groupBy(batches.id)
    .orderBy(desc(batches.id));
  return rows.map(({ mean, ...row }) => {
    const open = row.total - Number(row.done) - Number(row.failed) - Number(row.cancelled);
    return {
      ...row,
      done: Number(row.done),
      failed: Number(row.failed),
      cancelled: Number(row.cancelled),
      open,
      secondsLeft:
        mean === null || open === 0 ? null : Math.ceil((Number(mean) * open) / Math.min(workers, open) / 1000),
    };
  });
}

export async function readFrames(
  database: Database,
  where: { shootId?: number; frameIds?: number[] },
  broken: OnBroken = ignore,
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
      takenAt: frame.takenAt,
      subject: frame.subject,
      guidance: frame.guidance,
      cut: cut
        ? {
            version: cut.file.slice(0, 16),
            quality: filledQuality(cut.quality),
            recipe: { ...defaultRecipe, ...cut.recipe },
            instructions: cut.instructions,
          }
        : null,
      job: job && job.state !== 'done' && job.state !== 'cancelled' ? { state: job.state, problem: job.problem } : null,
      placement: placement
        ? { backgroundId: placement.backgroundId, x: placement.x, y: placement.y, height: placement.height }
        : null,
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
        (flaw) => without(flaw, 'what is kept of its cut', 'Cut it again.'),
        (flaw) => ({
          ...without(flaw, 'what was said on it', 'Judge it again and cut it again.'),
          guidance: noGuidance,
          placement: null,
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

async function latestCutJobs(database: Database, frameIds: number[]) {
  if (!frameIds.length) return new Map<number, typeof jobs.$inferSelect>();
  const newest = database
    .select({ newestId: sql<number>`max(${jobs.id})`.as('newest_id') })
    .from(jobs)
    .innerJoin(batches, eq(batches.id, jobs.batchId))
    .where(and(eq(batches.kind, 'cut'), inArray(jobs.frameId, frameIds)))
    .groupBy(jobs.frameId)
    .as('newest');
  const rows = await database.select({ job: jobs }).from(jobs).innerJoin(newest, eq(newest.newestId, jobs.id));
  return new Map(rows.map(({ job }) => [job.frameId, job]));
}

export async function readShoots(
  database: Database,
  pending: (shoot: { demo: boolean }) => number,
  shootId?: number,
): Promise<Shoot[]> {
  const rows = await database
    .select({
      shoot: shoots,
      // A plate is nobody's picture.
      frames: sql<number>`count(case when ${frames.id} = ${setups.plateFrameId} then null else ${frames.id} end)`,
      cut: sql<number>`count(${cuts.frameId})`,
      placed: sql<number>`count(${placements.frameId})`,
      minutes: sql<number>`coalesce(sum(json_extract(${cuts.quality}, '$.minutes')), 0)`,
    })
    .from(shoots)
    .leftJoin(setups, eq(setups.shootId, shoots.id))
    .leftJoin(frames, eq(frames.setupId, setups.id))
    .leftJoin(cuts, eq(cuts.frameId, frames.id))
    .leftJoin(placements, eq(placements.frameId, frames.id))
    .where(shootId ? eq(shoots.id, shootId) : undefined)
    .groupBy(shoots.id)
    .orderBy(desc(shoots.date), desc(shoots.id));
  return rows.map(({ shoot, ...sums }) => ({
    id: shoot.id,
    name: shoot.name,
    date: shoot.date,
    place: shoot.place,
    demo: shoot.demo,
    frames: Number(sums.frames),
    cut: Number(sums.cut),
    placed: Number(sums.placed),
    minutes: Math.round(Number(sums.minutes) * 10) / 10,
    pending: pending(shoot),
  }));
}

export async function readSetups(
  database: Database,
  where: { shootId?: number; setupIds?: number[] },
  broken: OnBroken = ignore,
): Promise<Unread<Setup>[]> {
  if (where.setupIds?.length === 0) return [];
  const rows = await database
    .select()
    .from(setups)
    .where(
      and(
        where.shootId ? eq(setups.shootId, where.shootId) : undefined,
        where.setupIds ? inArray(setups.id, where.setupIds) : undefined,
      ),
    )
    .orderBy(asc(setups.id));
  return rows.flatMap((row) => {
    const setup = filledSetup(row);
    return soundOr(
      soundSetup,
      setup,
      [
        (flaw) => {
          broken({
            reason: `The settings of “${row.name}” cannot be read (${flaw})`,
            remedy: 'It stands at the usual settings, without masks; set what you need again.',
          });
          return { ...setup, recipe: defaultRecipe, masks: [] };
        },
      ],
      broken,
      `The setup “${row.name}”`,
    );
  });
}

/** A recipe of an earlier version lacks settings that came later. */
export function filledSetup(row: typeof setups.$inferSelect): Unread<Setup> {
  return { ...row, recipe: { ...defaultRecipe, ...row.recipe } };
}

/** What a cut is made with: plate and background by their hashes. */
export interface MadeWith {
  recipe: Recipe;
  guidance: Guidance;
  plate: string | null;
  litBy: { background: string; placement: Placement } | null;
  instructions: string;
}

/** What a frame is to be cut with now. */
export async function readInstructions(
  database: Database,
  frame: typeof frames.$inferSelect,
  setup: typeof setups.$inferSelect,
): Promise<MadeWith> {
  // Nobody else is meant where nobody has said who it is.
  const all =
    frame.subject === ''
      ? []
      : await database
          .select({ id: frames.id, setupId: frames.setupId, subject: frames.subject, guidance: frames.guidance })
          .from(frames)
          .where(and(eq(frames.setupId, setup.id), eq(frames.subject, frame.subject)));
  const guidance = guidanceFor(frame, setup.masks, all);
  const [plate] =
    setup.plateFrameId === null ? [] : await database.select().from(frames).where(eq(frames.id, setup.plateFrameId));
  // A frame held the other way up, and the plate itself, are cut without it.
  const fits = plate && plate.id !== frame.id && plate.width === frame.width && plate.height === frame.height;
  const { recipe } = filledSetup(setup);
  const [placed] =
    recipe.bounce > 0
      ? await database
          .select({ placement: placements, background: backgrounds.file })
          .from(placements)
          .innerJoin(backgrounds, eq(backgrounds.id, placements.backgroundId))
          .where(eq(placements.frameId, frame.id))
      : [];
  return {
    recipe,
    guidance,
    plate: fits ? plate.file : null,
    litBy: placed ?? null,
    instructions: instructionsOf(guidance, fits ? plate.id : null, placed?.placement ?? null),
  };
}

export async function readBackgrounds(database: Database): Promise<Background[]> {
  return database
    .select({
      id: backgrounds.id,
      name: backgrounds.name,
      width: backgrounds.width,
      height: backgrounds.height,
      picture: sql<string>`left(${backgrounds.file}, 16)`,
    })
    .from(backgrounds)
    .orderBy(asc(backgrounds.id));
}

export async function readDeliveries(
  database: Database,
  workers: number,
  where: { shootId?: number; batchIds?: number[]; deliveryIds?: number[] },
): Promise<Unread<Delivery>[]> {
  if (where.batchIds?.length === 0 || where.deliveryIds?.length === 0) return [];
  const rows = await database
    .select({
      delivery: deliveries,
      files: count(deliveryFiles.id),
      bytes: sql<number>`coalesce(sum(${deliveryFiles.bytes}), 0)`,
    })
    .from(deliveries)
    .leftJoin(deliveryFiles, eq(deliveryFiles.deliveryId, deliveries.id))
    .where(
      and(
        where.shootId ? eq(deliveries.shootId, where.shootId) : undefined,
        where.batchIds ? inArray(deliveries.batchId, where.batchIds) : undefined,
        where.deliveryIds ? inArray(deliveries.id, where.deliveryIds) : undefined,
      ),
    )
    .groupBy(deliveries.id)
    .orderBy(desc(deliveries.id));
  const batchIds = rows.map(({ delivery }) => delivery.batchId);
  const ofBatch = new Map((await readBatches(database, workers, { batchIds })).map((batch) => [batch.id, batch]));
  const failed = batchIds.length
    ? await database
        .select({ batchId: jobs.batchId, problem: jobs.problem, frame: frames.name })
        .from(jobs)
        .innerJoin(frames, eq(frames.id, jobs.frameId))
        .where(and(inArray(jobs.batchId, batchIds), eq(jobs.state, 'failed')))
    : [];
  const unfinished = batchIds.length
    ? await database
        .select({ batchId: jobs.batchId, frame: frames.name })
        .from(jobs)
        .innerJoin(frames, eq(frames.id, jobs.frameId))
        .innerJoin(deliveries, eq(deliveries.batchId, jobs.batchId))
        .leftJoin(
          deliveryFiles,
          and(
            eq(deliveryFiles.deliveryId, deliveries.id),
            eq(deliveryFiles.frameId, jobs.frameId),
            eq(deliveryFiles.kind, 'finished'),
          ),
        )
        .where(and(inArray(jobs.batchId, batchIds), eq(jobs.state, 'done'), isNull(deliveryFiles.id)))
    : [];
  return rows.flatMap(({ delivery, files, bytes }) => {
    const batch = ofBatch.get(delivery.batchId);
    if (!batch) return [];
    const problems = failed
      .filter(({ batchId }) => batchId === batch.id)
      .map(({ problem, frame }) => ({
        frame,
        reason: problem?.reason ?? 'it failed',
        remedy: problem?.remedy ?? 'Try again.',
      }));
    const { id, shootId, settings, createdAt } = delivery;
    return [
      {
        id,
        shootId,
        settings,
        createdAt: createdAt.toISOString(),
        batch,
        files,
        bytes: Number(bytes),
        problems,
        leftOut:
          settings.finished === 'none'
            ? []
            : unfinished.filter(({ batchId }) => batchId === batch.id).map(({ frame }) => frame),
      },
    ];
  });
}

/** Plans of a shoot, or some plans, in the order they were made. */
export async function readPlans(
  database: Database,
  where: { shootId?: number; planIds?: number[] },
  broken: OnBroken = ignore,
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

/** Seconds for one frame when `workers` cut at once, over the latest hundred cuts; null until there are some. */
export async function readCutSeconds(database: Database, workers: number): Promise<number | null> {
  const rows = await database
    .select({ milliseconds: cuts.milliseconds })
    .from(cuts)
    .orderBy(desc(cuts.createdAt))
    .limit(100);
  if (!rows.length) return null;
  return rows.reduce((sum, row) => sum + row.milliseconds, 0) / rows.length / 1000 / Math.max(1, workers);
}
