import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { filesOf, storedHash, type Bundle } from '../../../contract/index.ts';
import type { WorkPlace } from '../../../core/log/index.ts';
import type { Transaction } from '../../database/connect.ts';
import {
  backgrounds,
  batches,
  checks,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  jobs,
  luts,
  notes,
  placements,
  plans,
  setups,
  shoots,
  styles,
  subjects,
  testPictures,
  workTimes,
} from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { readMissing } from '../gather/factsJob.ts';

/** A bundle taken in as a new shoot: its files first, then all of its rows at once or none. */
export const importJob = defined({
  lane: 'set',
  payload: z.object({ bundle: storedHash, name: z.string() }),
  prepare({ queue }, _job, payload) {
    return Promise.resolve(
      ready<'unpack'>({
        task: 'unpack',
        input: payload,
        files: ({ content }) => filesOf(content),
        keep: async (tx, { content }) => {
          const shootId = await insertShoot(tx, content);
          await readMissing(tx, queue, shootId);
          return { made: { shootId }, superfluous: [payload.bundle] };
        },
      }),
    );
  },
});

/** Rows to one INSERT. */
const AT_ONCE = 500;

/** Inserts rows in their order. @returns the ids that they got, by the bundle’s own. */
async function insertAll<R extends { id: number }>(
  rows: readonly R[],
  insert: (row: Omit<R, 'id'>) => Promise<number>,
): Promise<Map<number, number>> {
  const ids = new Map<number, number>();
  for (const { id, ...row } of rows) ids.set(id, await insert(row));
  return ids;
}

async function insertShoot(tx: Transaction, bundle: Bundle): Promise<number> {
  const date = (text: string): Date => new Date(text);
  const [{ insertId: shootId }] = await tx
    .insert(shoots)
    .values({ ...bundle.shoot, createdAt: date(bundle.shoot.createdAt) });
  const setup = await insertAll(bundle.setups, async (row) => {
    const [{ insertId }] = await tx.insert(setups).values({ shootId, ...row });
    return insertId;
  });
  const of = (ids: Map<number, number>, id: number): number => ids.get(id) ?? 0;
  const maybe = (ids: Map<number, number>, id: number | null): number | null => (id === null ? null : of(ids, id));
  const frame = await insertAll(bundle.frames, async ({ setupId, createdAt, ...row }) => {
    const values = { ...row, setupId: of(setup, setupId), createdAt: date(createdAt) };
    const [{ insertId }] = await tx.insert(frames).values(values);
    return insertId;
  });
  const background = await insertAll(bundle.backgrounds, async ({ createdAt, ...row }) => {
    const [there] = await tx.select().from(backgrounds).where(eq(backgrounds.file, row.file));
    if (there) return there.id;
    const [{ insertId }] = await tx.insert(backgrounds).values({ ...row, createdAt: date(createdAt) });
    return insertId;
  });
  const lut = await insertAll(bundle.luts, async (row) => {
    const [there] = await tx.select().from(luts).where(eq(luts.file, row.file));
    if (there) return there.id;
    return (await tx.insert(luts).values(row))[0].insertId;
  });
  const round = await insertAll(bundle.rounds, async ({ setupId, signedAt, createdAt, ...row }) => {
    const times = { signedAt: signedAt === null ? null : date(signedAt), createdAt: date(createdAt) };
    const [{ insertId }] = await tx.insert(checks).values({ ...row, ...times, setupId: of(setup, setupId) });
    return insertId;
  });
  const many = async <T>(rows: readonly T[], insert: (part: T[]) => Promise<unknown>): Promise<void> => {
    for (let at = 0; at < rows.length; at += AT_ONCE) await insert(rows.slice(at, at + AT_ONCE));
  };
  await many(
    bundle.cuts.map((row) => ({ ...row, frameId: of(frame, row.frameId), createdAt: date(row.createdAt) })),
    (part) => tx.insert(cuts).values(part),
  );
  await many(
    bundle.subjects.map((row) => ({ ...row, shootId, createdAt: date(row.createdAt) })),
    (part) => tx.insert(subjects).values(part),
  );
  await many(
    bundle.placements.map((row) => ({
      ...row,
      frameId: of(frame, row.frameId),
      backgroundId: of(background, row.backgroundId),
      others: row.others.map((other) => ({ ...other, frameId: of(frame, other.frameId) })),
    })),
    (part) => tx.insert(placements).values(part),
  );
  await many(
    bundle.styles.map(({ backgroundId, look, extras, standing }) => ({
      ...{ shootId, backgroundId: of(background, backgroundId), look, standing },
      extras: {
        ...extras,
        lut: maybe(lut, extras.lut),
        layers: extras.layers.map((layer) => ({ ...layer, backgroundId: of(background, layer.backgroundId) })),
      },
    })),
    (part) => tx.insert(styles).values(part),
  );
  await many(
    bundle.plans.map((row) => ({
      ...{ shootId, plan: row.plan, setupId: maybe(setup, row.setupId) },
      ...{ createdAt: date(row.createdAt), changedAt: date(row.changedAt) },
    })),
    (part) => tx.insert(plans).values(part),
  );
  await many(
    bundle.testPictures.map(({ roundId, ...row }) => ({ ...row, checkId: of(round, roundId) })),
    (part) => tx.insert(testPictures).values(part),
  );
  await many(
    bundle.times.map((row) => ({ ...row, shootId, place: row.place as WorkPlace })),
    (part) => tx.insert(workTimes).values(part),
  );
  await many(
    bundle.notes.map((row) => ({
      ...row,
      ...{ shootId, setupId: maybe(setup, row.setupId), place: row.place as WorkPlace, createdAt: date(row.createdAt) },
    })),
    (part) => tx.insert(notes).values(part),
  );
  for (const delivery of bundle.deliveries) await insertDelivery(tx, shootId, delivery, { setup, frame, background });
  return shootId;
}

type Ids = Record<'setup' | 'frame' | 'background', Map<number, number>>;

/** A hand-over with its batch of finished jobs, as pages know them. */
async function insertDelivery(
  tx: Transaction,
  shootId: number,
  { settings, keptBack, notPlaced, createdAt, files }: Bundle['deliveries'][number],
  { setup, frame, background }: Ids,
): Promise<void> {
  const made = new Date(createdAt);
  const of = (ids: Map<number, number>, list: number[] | null) => list && list.flatMap((id) => ids.get(id) ?? []);
  const { chosen } = settings;
  const own = { ...chosen, setups: of(setup, chosen.setups), backgrounds: of(background, chosen.backgrounds) };
  const [{ insertId: batchId }] = await tx.insert(batches).values({ shootId, kind: 'deliver', createdAt: made });
  const [{ insertId: deliveryId }] = await tx
    .insert(deliveries)
    .values({ shootId, batchId, settings: { ...settings, chosen: own }, keptBack, notPlaced, createdAt: made });
  const of1 = (id: number | null): number | null => (id === null ? null : (frame.get(id) ?? null));
  const rows = files.map((file) => ({ ...file, deliveryId, frameId: of1(file.frameId) }));
  for (let at = 0; at < rows.length; at += AT_ONCE) await tx.insert(deliveryFiles).values(rows.slice(at, at + AT_ONCE));
  const frameIds = [...new Set(rows.flatMap(({ frameId }) => frameId ?? []))];
  const done = { kind: 'deliver' as const, shootId, batchId, state: 'done' as const, payload: { deliveryId } };
  if (frameIds.length) await tx.insert(jobs).values(frameIds.map((frameId) => ({ ...done, frameId })));
}
