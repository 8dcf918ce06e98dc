import { and, count, eq, isNull, ne, sql } from 'drizzle-orm';
import { join } from 'node:path';
import { defaultRecipe } from '../../../core/cut/index.ts';
import { defaultPlacement, type Placement } from '../../../core/place/index.ts';
import { demoPlans, type Plan } from '../../../core/plan/index.ts';
import { demoBackgrounds, demoFrames, type DemoFrame } from '../../../core/studio/index.ts';
import type { Database, Transaction } from '../../database/connect.ts';
import {
  backgrounds,
  batches,
  checks,
  frames,
  jobs,
  placements,
  plans,
  remembered,
  setups,
  shoots,
} from '../../database/schema.ts';
import type { Hands } from '../../jobs/definition.ts';
import type { NewJob } from '../../jobs/queue.ts';
import { startStyle } from '../place/readStyles.ts';

/** How much of the sample is made: its pictures only, or all that shows what each station is for. */
export type SampleExtent = 'pictures' | 'finished';
export interface SampleOptions {
  extent: SampleExtent;
  /** Height of its frames in pixels; the usual 2400 gives frames of 1600×2400 and backgrounds of 1800×2400. */
  height: number;
  /** Takes only the first frames of each setup, for tests. */
  perSetup: number;
}
export const usualSample: SampleOptions = { extent: 'finished', height: 2400, perSetup: Infinity };

/** What somebody asked for goes before the sample, and what finishes one of its frames before the next is begun. */
const PICTURES_PRIORITY = 20;
const FINISHING_PRIORITY = 10;
/** With so many of its frames a setup is tested. */
const TESTED_WITH = 2;
const REMOVED = 'sample removed';

type SetupKey = DemoFrame['setup'];

/** Puts into the queue what is missing of the sample shoot, unless somebody has removed it. */
export async function ensureSample(hands: Hands, options: SampleOptions): Promise<void> {
  const { database, queue, events } = hands;
  const [removed] = await database.select().from(remembered).where(eq(remembered.name, REMOVED));
  if (removed) return;
  await database.transaction(async (tx) => {
    const { shootId, setupIds } = await ensureShoot(tx);
    const missing = await missingPictures(tx, shootId, setupIds, options);
    if (!missing.length) return;
    const [{ insertId: cutBatchId }] = await tx.insert(batches).values({ shootId, kind: 'cut' });
    const [{ insertId: batchId }] = await tx.insert(batches).values({ shootId, kind: 'sample' });
    const { extent, height } = options;
    const added = missing.map((picture): NewJob => {
      const setupId = picture.setup && setupIds[picture.setup];
      const payload = { what: picture.what, name: picture.name, setupId, height, extent, cutBatchId };
      return { kind: 'samplePicture', shootId, batchId, priority: PICTURES_PRIORITY, payload };
    });
    await queue.add(tx, added);
  });
  events.send({ type: 'shoots' });
}

/** The sample shoot comes back, as new. */
export async function bringSampleBack(hands: Hands, options: SampleOptions): Promise<void> {
  await hands.database.delete(remembered).where(eq(remembered.name, REMOVED));
  await ensureSample(hands, options);
}

/** Remembers that the sample is not wanted. */
export async function noSample(tx: Transaction): Promise<void> {
  await tx
    .insert(remembered)
    .values({ name: REMOVED, value: 'yes' })
    .onDuplicateKeyUpdate({ set: { value: 'yes' } });
}

/** Pictures of the sample that are there, of all. */
export async function sampleProgress(database: Database): Promise<{ done: number; total: number }> {
  const [sum] = await database
    .select({ total: count(), done: sql<number>`coalesce(sum(${jobs.state} = 'done'), 0)` })
    .from(jobs)
    .where(eq(jobs.kind, 'samplePicture'));
  return { done: Number(sum.done), total: sum.total };
}

interface Picture {
  what: 'frame' | 'background';
  name: string;
  setup?: SetupKey;
}

/** What has neither been made nor asked for, in the order in which a first frame is soonest finished. */
async function missingPictures(
  tx: Transaction,
  shootId: number,
  setupIds: Record<SetupKey, number>,
  { perSetup }: SampleOptions,
): Promise<Picture[]> {
  const asked = await tx
    .select({ name: sql<string>`json_value(${jobs.payload}, '$.name')` })
    .from(jobs)
    .where(and(eq(jobs.kind, 'samplePicture'), eq(jobs.shootId, shootId), ne(jobs.state, 'cancelled')));
  const known = new Set(asked.map(({ name }) => name));
  for (const setupId of Object.values(setupIds)) {
    const there = await tx.select({ name: frames.name }).from(frames).where(eq(frames.setupId, setupId));
    for (const { name } of there) known.add(name.replace(/\.jpg$/, ''));
  }
  const painted = await tx.select({ name: backgrounds.name }).from(backgrounds);
  for (const { name, title } of demoBackgrounds) if (painted.some((row) => row.name === title)) known.add(name);
  const wanted = demoFrames.filter(({ name }) => Number(name.slice(-2)) <= perSetup);
  const order = wanted.flatMap(({ name, setup, who }): Picture[] => [
    { what: 'frame', name, setup },
    { what: 'background', name: backgroundOf(who) },
  ]);
  const rest = demoBackgrounds.map(({ name }): Picture => ({ what: 'background', name }));
  return [...order, ...rest].filter(({ name }) => !known.has(name) && known.add(name));
}

async function ensureShoot(tx: Transaction): Promise<{ shootId: number; setupIds: Record<SetupKey, number> }> {
  const [there] = await tx
    .select()
    .from(shoots)
    .where(and(eq(shoots.demo, true), isNull(shoots.removedAt)));
  const sample = { name: 'Saltmarsh Kite Meet', date: '2026-06-13', place: 'Saltmarsh, portrait tent', demo: true };
  const shootId = there?.id ?? (await tx.insert(shoots).values(sample))[0].insertId;
  // By the order in which they were made: somebody may have given them other names.
  const existing = await tx.select().from(setups).where(eq(setups.shootId, shootId)).orderBy(setups.id);
  const setupIds = {} as Record<SetupKey, number>;
  for (const [n, [key, plan]] of (Object.entries(demoPlans()) as [SetupKey, Plan][]).entries()) {
    const known = existing[n]?.id;
    setupIds[key] =
      known ?? (await tx.insert(setups).values({ shootId, name: plan.name, recipe: defaultRecipe }))[0].insertId;
    if (!known) await tx.insert(plans).values({ shootId, setupId: setupIds[key], plan });
  }
  return { shootId, setupIds };
}

/** Each subject of the sample has a background of their own choice. */
function backgroundOf(who: string): string {
  const subjects = [...new Set(demoFrames.map((frame) => frame.who))];
  return demoBackgrounds[subjects.indexOf(who) % demoBackgrounds.length].name;
}

/** A group stands as large as leaves it whole: its frame is held across and as wide as the background. */
const GROUP_HEIGHT = 0.5;
/** Width of an upright frame of the sample on its backgrounds, by its height: 2 to 3 on 3 to 4. */
const WIDTH = 8 / 9;

/** Where a frame's own side cuts somebody off, it lies at the background's. @param file name of a frame of the sample. */
function placementOf(file: string): Placement {
  const frame = demoFrames.find(({ name }) => file.startsWith(name));
  if (!frame) return defaultPlacement;
  const [{ pose, hair }, another] = frame.subjects;
  if (another) return { ...defaultPlacement, height: GROUP_HEIGHT };
  const near = frame.setup === 'window';
  const height = near && hair.style === 'frizzy' ? 1 : defaultPlacement.height;
  const reaching = pose === 'wave' || pose === 'raised' || (near && (pose === 'hip' || pose === 'hips'));
  return { ...defaultPlacement, height, x: reaching ? 1 - (height * WIDTH) / 2 : defaultPlacement.x };
}

/** A frame of the sample has come: it is placed, cut, and its setup tested. */
export async function finishFrame(
  tx: Transaction,
  { queue }: Pick<Hands, 'queue'>,
  frame: { id: number; setupId: number; shootId: number; name: string; who: string },
  cutBatchId: number,
): Promise<void> {
  const { id, setupId, shootId, name: file, who } = frame;
  const painted = demoBackgrounds.find(({ name }) => name === backgroundOf(who));
  const [background] = await tx
    .select()
    .from(backgrounds)
    .where(eq(backgrounds.name, painted?.title ?? ''));
  if (background) {
    await startStyle(tx, shootId, background.id, painted?.look);
    await tx.insert(placements).values({ frameId: id, backgroundId: background.id, ...placementOf(file) });
  }
  await queue.add(tx, [{ kind: 'cut', shootId, batchId: cutBatchId, frameId: id, priority: FINISHING_PRIORITY }]);
  const [{ there }] = await tx.select({ there: count() }).from(frames).where(eq(frames.setupId, setupId));
  if (there === TESTED_WITH) await testSetup(tx, { queue }, setupId, shootId);
}

/** A background of the sample has come: whoever chose it stands on it. */
export async function finishBackground(
  tx: Transaction,
  shootId: number,
  backgroundId: number,
  name: string,
): Promise<void> {
  const rows = await tx
    .select({ id: frames.id, name: frames.name, subject: frames.subject })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .leftJoin(placements, eq(placements.frameId, frames.id))
    .where(and(eq(setups.shootId, shootId), isNull(placements.frameId)));
  const chosen = rows.filter(
    ({ subject }) => demoFrames.some(({ who }) => who === subject) && backgroundOf(subject) === name,
  );
  if (!chosen.length) return;
  await startStyle(tx, shootId, backgroundId, demoBackgrounds.find((one) => one.name === name)?.look);
  await tx
    .insert(placements)
    .values(chosen.map(({ id, name }) => ({ frameId: id, backgroundId, ...placementOf(name) })));
}

/** A round of test frames by the stand-in camera. */
async function testSetup(
  tx: Transaction,
  { queue }: Pick<Hands, 'queue'>,
  setupId: number,
  shootId: number,
): Promise<void> {
  const [plan] = await tx.select({ id: plans.id }).from(plans).where(eq(plans.setupId, setupId));
  if (!plan) return;
  const [{ insertId: checkId }] = await tx.insert(checks).values({ setupId, marks: {}, openPoints: [] });
  const shots = ['plate', 'people', 'ball', 'grey card'] as const;
  await queue.add(
    tx,
    shots.map((kind): NewJob => {
      const payload = { checkId, planId: plan.id, kind, people: kind === 'people' ? ['noor'] : [], seed: 1 };
      return { kind: 'testShot', shootId, priority: FINISHING_PRIORITY, payload };
    }),
  );
}

/** Where the true matte of a sample frame is kept. */
export function truthFile(storeFolder: string, name: string): string {
  return join(storeFolder, '..', 'demo-truth', `${name}.png`);
}

/** The day of the sample: frames a few minutes apart, in the order of their numbers; as EXIF writes it. */
export function takenAt(name: string): string {
  const number = Number(name.slice(-4));
  const minutes = (number > 200 ? 14 * 60 : 11 * 60) + (number % 100) * 4;
  return `2026:06:13 ${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}:07`;
}
