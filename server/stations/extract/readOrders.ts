import { and, asc, eq, inArray, type SQL } from 'drizzle-orm';
import { clockedTime, secondsOf } from '../../../contract/clock.ts';
import type { OrderItem } from '../../../contract/index.ts';
import { fingerprintOf, orderOf, type Order, type Recipe, type Shot } from '../../../core/cut/index.ts';
import { grouped } from '../../../core/gather/grouped.ts';
import type { Reader } from '../../database/connect.ts';
import { frames, setups } from '../../database/schema.ts';
import type { Unread } from '../../database/sound.ts';
import { filledSetup } from '../gather/readSetups.ts';

/**
 * What frames are to be cut with now, by frame; null for a plate. Pictures are told by their hashes.
 * @param tried takes the place of the setups' recipes.
 */
export async function ordersOf(
  database: Reader,
  where: { shootId: number } | { frameIds: readonly number[] },
  tried?: Recipe,
): Promise<Map<number, Order | null>> {
  if ('frameIds' in where && !where.frameIds.length) return new Map();
  const meant = 'shootId' in where ? eq(setups.shootId, where.shootId) : inArray(frames.id, where.frameIds);
  const rows = await database
    .select({
      setupId: frames.setupId,
      subject: frames.subject,
      guidance: frames.guidance,
      ...shotColumns,
      plate: frames.plate,
      setup: setups,
    })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(meant);
  const plates = await database
    .select({ ...shotColumns, setupId: frames.setupId, picture: frames.file })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(
      and(
        eq(frames.plate, true),
        'shootId' in where
          ? eq(setups.shootId, where.shootId)
          : inArray(frames.setupId, [0, ...new Set(rows.map(({ setupId }) => setupId))]),
      ),
    )
    .orderBy(asc(frames.id));
  const platesOf = grouped(
    plates.map((row) => ({ ...row, ...timed(row) })),
    ({ setupId }) => setupId,
  );
  const groups = await subjectGroups(
    database,
    'shootId' in where ? eq(setups.shootId, where.shootId) : sameSubjects(rows),
  );
  return new Map(
    rows.map(({ setup, ...frame }) => {
      const { recipe, masks } = filledSetup(setup);
      const all = groups.get(groupOf(frame)) ?? [];
      const plates = platesOf.get(setup.id) ?? [];
      return [frame.id, orderOf({ ...frame, ...timed(frame) }, { recipe: tried ?? recipe, masks, plates }, all)];
    }),
  );
}

const shotColumns = {
  id: frames.id,
  width: frames.width,
  height: frames.height,
  camera: frames.camera,
  takenAt: frames.takenAt,
  clock: frames.clock,
};

/** Which camera took it when, on the clock of the shoot. */
function timed({
  camera,
  takenAt,
  clock,
}: Pick<typeof frames.$inferSelect, 'camera' | 'takenAt' | 'clock'>): Pick<Shot, 'body' | 'at'> {
  return { body: camera.body, at: secondsOf(clockedTime(takenAt, clock)) };
}

/** The same as pages are told it. */
export async function readOrders(
  database: Reader,
  where: { shootId: number } | { frameIds: readonly number[] },
): Promise<Unread<OrderItem>[]> {
  return [...(await ordersOf(database, where))].map(([id, order]) => ({ id, wanted: order && fingerprintOf(order) }));
}

type Grouped = Pick<typeof frames.$inferSelect, 'id' | 'setupId' | 'subject' | 'guidance'>;

function groupOf({ setupId, subject }: Pick<Grouped, 'setupId' | 'subject'>): string {
  return `${setupId} ${subject}`;
}

function sameSubjects(rows: readonly Pick<Grouped, 'setupId' | 'subject'>[]): SQL | undefined {
  const named = rows.filter(({ subject }) => subject !== '');
  if (!named.length) return undefined;
  return and(
    inArray(frames.setupId, [...new Set(named.map(({ setupId }) => setupId))]),
    inArray(frames.subject, [...new Set(named.map(({ subject }) => subject))]),
  );
}

/** Frames of a subject by setup and subject; nobody else is meant where nobody has said who it is. */
async function subjectGroups(database: Reader, where: SQL | undefined): Promise<Map<string, Grouped[]>> {
  const groups = new Map<string, Grouped[]>();
  if (!where) return groups;
  const rows = await database
    .select({ id: frames.id, setupId: frames.setupId, subject: frames.subject, guidance: frames.guidance })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(where);
  for (const row of rows) {
    if (row.subject === '') continue;
    const group = groups.get(groupOf(row));
    if (group) group.push(row);
    else groups.set(groupOf(row), [row]);
  }
  return groups;
}

/** Frames whose orders a change may touch: all of a setup, or those of some subjects in it. */
export async function framesOf(database: Reader, setupId: number, subjects?: readonly string[]): Promise<number[]> {
  if (subjects && !subjects.length) return [];
  const rows = await database
    .select({ id: frames.id })
    .from(frames)
    .where(and(eq(frames.setupId, setupId), subjects && inArray(frames.subject, subjects)));
  return rows.map(({ id }) => id);
}
