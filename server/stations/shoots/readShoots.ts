import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Shoot } from '../../../contract/index.ts';
import type { Database } from '../../database/connect.ts';
import {
  checks,
  cuts,
  deliveries,
  frames,
  jobs,
  placements,
  plans,
  setups,
  shoots,
  subjects,
} from '../../database/schema.ts';

const said = (field: string) => sql`json_value(${frames.review}, ${field})`;
const isAccepted = sql`ifnull(${said('$.state')} = 'accepted' and ${said('$.of')} = ${cuts.fingerprint}, false)`;

const isDropped = sql`ifnull(${frames.pick} = 'drop', false)`;

/** Pictures in the strip of a shoot. */
const STRIP = 6;

/** All shoots, or one, the newest first. */
export async function readShoots(database: Database, shootId?: number): Promise<Shoot[]> {
  const meant = shootId ? eq(shoots.id, shootId) : undefined;
  const number = (query: ReturnType<typeof sql>) => sql<number>`(${query})`;
  const rows = await database
    .select({
      shoot: shoots,
      // A plate is nobody's picture, nor is what was dropped.
      frames: sql<number>`count(case when ${frames.plate} or ${isDropped} then null else ${frames.id} end)`,
      cut: sql<number>`count(if(${isDropped}, null, ${cuts.frameId}))`,
      placed: sql<number>`count(if(${isDropped}, null, ${placements.frameId}))`,
      // What was accepted as it stands asks for nothing more.
      minutes: sql<number>`coalesce(sum(if(${isAccepted} or ${isDropped}, 0, json_extract(${cuts.quality}, '$.minutes'))), 0)`,
      plans: number(sql`select count(*) from ${plans} where ${plans.shootId} = ${shoots.id}`),
      rounds: number(
        sql`select count(*) from ${checks} join ${setups} s on s.id = ${checks.setupId} where s.shoot_id = ${shoots.id}`,
      ),
      signed: number(
        sql`select count(*) from ${checks} join ${setups} s on s.id = ${checks.setupId} where s.shoot_id = ${shoots.id} and ${checks.signedAt} is not null`,
      ),
      handedOver: number(sql`select count(*) from ${deliveries} where ${deliveries.shootId} = ${shoots.id}`),
      pending: number(
        sql`select count(*) from ${jobs} where ${jobs.shootId} = ${shoots.id} and ${jobs.kind} = 'samplePicture' and ${jobs.state} in ('queued', 'running')`,
      ),
    })
    .from(shoots)
    .leftJoin(setups, eq(setups.shootId, shoots.id))
    .leftJoin(frames, eq(frames.setupId, setups.id))
    .leftJoin(cuts, eq(cuts.frameId, frames.id))
    .leftJoin(placements, eq(placements.frameId, frames.id))
    .where(meant)
    .groupBy(shoots.id)
    .orderBy(desc(shoots.date), desc(shoots.id));
  const strips = await readStrips(
    database,
    rows.map(({ shoot }) => shoot.id),
  );
  return rows.map(({ shoot: { id, name, date, place, demo, archive, removedAt }, ...sums }) => ({
    id,
    name,
    date,
    place,
    sample: demo,
    strip: strips.get(id) ?? [],
    plans: Number(sums.plans),
    rounds: Number(sums.rounds),
    signed: Number(sums.signed),
    frames: Number(sums.frames),
    cut: Number(sums.cut),
    placed: Number(sums.placed),
    handedOver: Number(sums.handedOver),
    minutes: Math.round(Number(sums.minutes) * 10) / 10,
    pending: Number(sums.pending),
    archive,
    removedAt: removedAt?.toISOString() ?? null,
  }));
}

/** A few frames of each shoot, spread over it. */
async function readStrips(database: Database, shootIds: number[]): Promise<Map<number, Shoot['strip']>> {
  if (!shootIds.length) return new Map();
  const numbered = database
    .select({
      id: frames.id,
      shootId: setups.shootId,
      picture: sql<string>`left(${frames.file}, 16)`.as('picture'),
      cut: sql<string | null>`left(${cuts.file}, 16)`.as('cut'),
      n: sql<number>`row_number() over (partition by ${setups.shootId} order by ${frames.takenAt}, ${frames.id}) - 1`.as(
        'n',
      ),
      total: sql<number>`count(*) over (partition by ${setups.shootId})`.as('total'),
    })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .leftJoin(cuts, eq(cuts.frameId, frames.id))
    .leftJoin(subjects, and(eq(subjects.shootId, setups.shootId), sql`binary ${subjects.name} = ${frames.subject}`))
    .where(
      and(
        inArray(setups.shootId, shootIds),
        sql`not ${frames.plate} and not ${isDropped}`,
        // Whoever said no is not shown off either.
        sql`ifnull(${subjects.consent}, '') <> 'no'`,
      ),
    )
    .as('numbered');
  const rows = await database
    .select()
    .from(numbered)
    .where(sql`mod(${numbered.n}, greatest(1, ceil(${numbered.total} / ${STRIP}))) = 0`)
    .orderBy(numbered.n);
  const strips = new Map<number, Shoot['strip']>();
  for (const { id, shootId, picture, cut } of rows) {
    const strip = strips.get(shootId) ?? [];
    strips.set(shootId, [...strip, { id, picture, cut: cut === null ? null : { version: cut } }]);
  }
  return strips;
}
