import { and, asc, desc, eq, inArray, isNull } from 'drizzle-orm';
import { LOG_VERSION, type ShootLog } from '../../../contract/index.ts';
import { doubtFacts, type DoubtKind } from '../../../core/cut/doubts.ts';
import { settingsInWords, type Camera } from '../../../core/gather/camera.ts';
import { foreseenBy, timelineOf, type Course, type Foreseen, type LoggedSetup } from '../../../core/log/index.ts';
import { quickReport, type Plan, type ReadingId } from '../../../core/plan/index.ts';
import type { Database } from '../../database/connect.ts';
import {
  batches,
  checks,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  jobs,
  notes,
  plans,
  setups,
  shoots,
  testPictures,
  workTimes,
} from '../../database/schema.ts';

/** The logs of shoots, put together from what is kept of them; removed ones are left out. The oldest comes first. */
export async function readLogs(database: Database, shootId?: number): Promise<ShootLog[]> {
  const rows = await database
    .select()
    .from(shoots)
    .where(and(isNull(shoots.removedAt), shootId ? eq(shoots.id, shootId) : undefined))
    .orderBy(asc(shoots.date), asc(shoots.id));
  return Promise.all(rows.map((shoot) => readLog(database, shoot)));
}

async function readLog(database: Database, shoot: typeof shoots.$inferSelect): Promise<ShootLog> {
  const shootId = shoot.id;
  const ofSetups = await database.select().from(setups).where(eq(setups.shootId, shootId)).orderBy(asc(setups.id));
  const ids = [0, ...ofSetups.map(({ id }) => id)];
  const nameOf = new Map(ofSetups.map(({ id, name }) => [id, name]));
  const [ofPlans, rounds, tested, pictures, ofBatches, failed, made, files, times, written] = await Promise.all([
    database.select().from(plans).where(eq(plans.shootId, shootId)).orderBy(asc(plans.id)),
    database.select().from(checks).where(inArray(checks.setupId, ids)).orderBy(asc(checks.createdAt)),
    database
      .select({ checkId: testPictures.checkId, camera: testPictures.camera })
      .from(testPictures)
      .innerJoin(checks, eq(checks.id, testPictures.checkId))
      .where(inArray(checks.setupId, ids))
      .orderBy(asc(testPictures.id)),
    database
      .select({
        id: frames.id,
        setupId: frames.setupId,
        plate: frames.plate,
        pick: frames.pick,
        camera: frames.camera,
        review: frames.review,
        createdAt: frames.createdAt,
        quality: cuts.quality,
      })
      .from(frames)
      .leftJoin(cuts, eq(cuts.frameId, frames.id))
      .where(inArray(frames.setupId, ids)),
    database.select().from(batches).where(eq(batches.shootId, shootId)).orderBy(asc(batches.id)),
    database.select({ batchId: jobs.batchId, state: jobs.state }).from(jobs).where(eq(jobs.shootId, shootId)),
    database.select().from(deliveries).where(eq(deliveries.shootId, shootId)).orderBy(asc(deliveries.id)),
    database
      .select({ deliveryId: deliveryFiles.deliveryId, preset: deliveryFiles.preset, file: deliveryFiles.file })
      .from(deliveryFiles)
      .innerJoin(deliveries, eq(deliveries.id, deliveryFiles.deliveryId))
      .where(eq(deliveries.shootId, shootId)),
    database.select().from(workTimes).where(eq(workTimes.shootId, shootId)).orderBy(asc(workTimes.day)),
    database.select().from(notes).where(eq(notes.shootId, shootId)).orderBy(desc(notes.at)),
  ]);
  const people = pictures.filter(({ plate, pick }) => !plate && pick !== 'drop');
  const reports = new Map(ofPlans.map(({ id, plan }) => [id, factsOf(plan)]));
  const course: Course = {
    plans: ofPlans.map(({ id, createdAt, plan, setupId }) => {
      const report = reports.get(id);
      return {
        at: createdAt.toISOString(),
        name: plan.name,
        setup: nameOf.get(setupId ?? 0) ?? '',
        minutes: report?.minutes ?? 0,
        frames: report?.foreseen?.frames ?? 0,
      };
    }),
    rounds: rounds.map(({ id: round, createdAt, signedAt, setupId, findings, openPoints }) => ({
      at: createdAt.toISOString(),
      signedAt: signedAt?.toISOString() ?? null,
      setup: nameOf.get(setupId) ?? '',
      readings: (findings?.readings ?? []).map(({ id, value, verdict }) => ({
        id,
        value,
        beyond: verdict === 'beyond',
      })),
      minutes: findings?.forecast?.minutes ?? null,
      openPoints,
      camera: [
        ...tested.filter(({ checkId }) => checkId === round),
        ...people.filter((frame) => frame.setupId === setupId),
      ].reduce((words, { camera }) => words || takenWith(camera), ''),
    })),
    frames: people.map(({ createdAt, setupId }) => ({
      at: createdAt.toISOString(),
      time: createdAt.getTime(),
      setup: nameOf.get(setupId) ?? '',
    })),
    batches: ofBatches.map(({ id, createdAt, kind }) => {
      const of = failed.filter(({ batchId }) => batchId === id);
      return {
        at: createdAt.toISOString(),
        kind,
        total: of.length,
        failed: of.filter(({ state }) => state === 'failed').length,
      };
    }),
    deliveries: made.map(({ id, createdAt, settings, keptBack }) => ({
      at: createdAt.toISOString(),
      presets: settings.presets.map(({ name }) => name),
      files: files.filter(({ deliveryId, preset, file }) => deliveryId === id && preset >= 0 && file !== null).length,
      keptBack: keptBack.length,
    })),
  };
  return {
    format: 'silent-lawn-log',
    version: LOG_VERSION,
    shoot: { id: shootId, name: shoot.name, date: shoot.date, place: shoot.place, sample: shoot.demo },
    setups: ofSetups.map(({ id, name }): LoggedSetup => {
      const plan = ofPlans.findLast(({ setupId }) => setupId === id);
      const report = plan && reports.get(plan.id);
      const own = rounds.filter(({ setupId, findings }) => setupId === id && findings?.readings.length);
      const round = own.findLast(({ signedAt }) => signedAt) ?? own.at(-1);
      const measured = Object.fromEntries((round?.findings?.readings ?? []).map(({ id: of, value }) => [of, value]));
      const shown = people.filter(({ setupId }) => setupId === id);
      return {
        id,
        name,
        set: report?.set ?? null,
        readings: { ...report?.readings, ...measured },
        measured: round !== undefined,
        plan: report?.foreseen ?? null,
        check: foreseenBy(round?.findings?.forecast as Parameters<typeof foreseenBy>[0]),
        frames: shown.length,
        cut: shown.filter(({ quality }) => quality).length,
        accepted: acceptedOf(shown),
        doubts: shown.reduce((sum, { quality }) => sum + (quality?.minutes ?? 0), 0),
      };
    }),
    times: times.map(({ place, day, seconds, corrected }) => ({ place, day, seconds, corrected })),
    costs: shoot.costs,
    pictures: people.length,
    handedOver: made.length,
    events: timelineOf(course),
    notes: written.map(({ id, kind, at, place, setupId, words, camera, file }) => ({
      id,
      kind,
      at,
      place,
      setupId,
      words,
      camera,
      picture: file?.slice(0, 16) ?? null,
    })),
  };
}

type Shown = Pick<typeof frames.$inferSelect, 'review'> & { quality: typeof cuts.$inferSelect.quality | null };

/** What a hand accepted: minutes that were foreseen for it by kind of doubt, and minutes spent. */
function acceptedOf(shown: readonly Shown[]): LoggedSetup['accepted'] {
  const foreseen: Partial<Record<DoubtKind, number>> = {};
  let [count, spent] = [0, 0];
  for (const { review, quality } of shown) {
    if (review?.state !== 'accepted' || !quality) continue;
    count++;
    spent += review.seconds / 60;
    for (const { kind, minutes } of quality.doubts)
      if (Object.hasOwn(doubtFacts, kind)) foreseen[kind] = (foreseen[kind] ?? 0) + minutes;
  }
  return { frames: count, foreseen, spent };
}

interface PlanFacts {
  set: LoggedSetup['set'];
  readings: Partial<Record<ReadingId, number>>;
  foreseen: Foreseen | null;
  minutes: number;
}

/** Reports cost some milliseconds each, and a log of a year asks for many again and again. */
const known = new WeakMap<Plan, PlanFacts>();
const byContent = new Map<string, PlanFacts>();
const MOST_KNOWN = 400;

function factsOf(plan: Plan): PlanFacts | undefined {
  const there = known.get(plan);
  if (there) return there;
  const content = JSON.stringify(plan);
  const facts = byContent.get(content) ?? computed(plan);
  if (!facts) return undefined;
  if (byContent.size >= MOST_KNOWN) byContent.clear();
  byContent.set(content, facts);
  known.set(plan, facts);
  return facts;
}

function computed(plan: Plan): PlanFacts | undefined {
  // A plan of an earlier version may not be computable any more; the rest of the log is.
  try {
    const { readings, forecast, kit } = quickReport(plan);
    const { screen, people, lamps } = plan;
    return {
      set: {
        material: screen.material,
        colour: screen.colour,
        area: screen.width * (screen.height + screen.sweep),
        screenCost: kit.items[0]?.cost ?? 0,
        kitCost: kit.cost,
        distance: people[0]?.z ?? 0,
        light: lightWords(lamps),
      },
      readings: Object.fromEntries(readings.map(({ id, value }) => [id, value])),
      foreseen: foreseenBy(forecast),
      minutes: forecast.minutes,
    };
  } catch {
    return undefined;
  }
}

function lightWords(lamps: Plan['lamps']): string {
  const of = (role: Plan['lamps'][number]['role']): string =>
    [...new Set(lamps.filter((lamp) => lamp.role === role).map(({ kind }) => kind))].join(' and ');
  const screen = of('screen');
  return `${of('key') || 'no key'}; ${screen ? `${screen} on the screen` : 'one light for both'}`;
}

/** What a picture was taken with, as photographers write it. */
function takenWith(camera: Camera): string {
  return [camera.body, settingsInWords(camera)].filter(Boolean).join(', ');
}
