import { and, eq, inArray, sql } from 'drizzle-orm';
import { qualitySchema, type Problem } from '../../contract/index.ts';
import { deliveredName } from '../../core/handOver/index.ts';
import type { Database, Transaction } from '../database/connect.ts';
import type { MadeWith } from '../database/queries.ts';
import { flawOf } from '../database/sound.ts';
import {
  backgrounds,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  jobs,
  placements,
  rehearsals,
  testPictures,
} from '../database/schema.ts';
import type { Store } from '../store/store.ts';
import type { ClaimedJob } from './claim.ts';
import type { Answer, CutAnswer, DeliverAnswer } from './tasks.ts';

/** What a job made was removed before a row named it; it has to be made again. */
export class FileGone extends Error {
  override name = 'FileGone';
}

/**
 * Writes what a job came to, all or nothing, and only if the job is still held by us.
 * @throws FileGone if a file that it made is not in the store.
 */
export async function finishJob(
  database: Database,
  store: Store,
  job: ClaimedJob,
  made: MadeWith,
  given: Answer,
): Promise<void> {
  const flaw = given.ok && !('files' in given) ? flawOf(qualitySchema, given.quality) : undefined;
  const answer: Answer = flaw
    ? {
        ok: false,
        reason: `a figure of its cut is no number (${flaw})`,
        remedy: 'Mask what is not screen and not person and cut it again; the other frames are not touched.',
      }
    : given;
  // Nothing is removed between the look at the file and the row that names it.
  const superfluous = await store.exclusive(() =>
    database.transaction(async (tx): Promise<string[]> => {
      if (answer.ok && !('files' in answer ? answer.files : [answer]).every(({ file }) => store.has(file)))
        throw new FileGone();
      const [held] = await tx
        .select()
        .from(jobs)
        .where(and(eq(jobs.id, job.id), eq(jobs.token, job.token), eq(jobs.state, 'running')))
        .for('update');
      if (!held) return !answer.ok ? [] : 'files' in answer ? answer.files.map(({ file }) => file) : [answer.file];
      if (!answer.ok) {
        await failJob(tx, job, { reason: answer.reason, remedy: answer.remedy });
        return [];
      }
      await tx
        .update(jobs)
        .set({ state: 'done', milliseconds: answer.milliseconds, token: null, leaseUntil: null })
        .where(eq(jobs.id, job.id));
      if (!('files' in answer)) return keepCut(tx, job.frameId, made, answer);
      await keepDelivered(tx, job, answer);
      return [];
    }),
  );
  for (const file of superfluous) await removeUnused(database, store, file);
}

/** Ends a job with what was wrong with it, if it is still held by us. */
export async function failJob(database: Database | Transaction, job: ClaimedJob, problem: Problem): Promise<void> {
  await database
    .update(jobs)
    .set({ state: 'failed', problem, token: null, leaseUntil: null })
    .where(and(eq(jobs.id, job.id), eq(jobs.token, job.token), eq(jobs.state, 'running')));
}

/** @returns the file of the cut that this one replaces, if it has another. */
async function keepCut(tx: Transaction, frameId: number, made: MadeWith, answer: CutAnswer): Promise<string[]> {
  const [before] = await tx.select({ file: cuts.file }).from(cuts).where(eq(cuts.frameId, frameId));
  const { file, depth, quality, milliseconds } = answer;
  const { recipe, guidance, plate, instructions } = made;
  const values = { file, depth, quality, milliseconds, recipe, guidance, plate, instructions };
  await tx
    .insert(cuts)
    .values({ frameId, ...values })
    .onDuplicateKeyUpdate({ set: { ...values, createdAt: sql`current_timestamp(3)` as never } });
  return before && before.file !== file ? [before.file] : [];
}

async function keepDelivered(tx: Transaction, job: ClaimedJob, answer: DeliverAnswer): Promise<void> {
  // Names are given out one job at a time: frames may share a name and finish at the same moment.
  const [delivery] = await tx.select().from(deliveries).where(eq(deliveries.batchId, job.batchId)).for('update');
  const [frame] = await tx.select().from(frames).where(eq(frames.id, job.frameId));
  if (!delivery || !frame) return;
  const [placed] = await tx
    .select({ name: backgrounds.name })
    .from(placements)
    .innerJoin(backgrounds, eq(backgrounds.id, placements.backgroundId))
    .where(eq(placements.frameId, job.frameId));
  for (const { kind, extension, ...file } of answer.files) {
    const taken = await tx
      .select({ name: deliveryFiles.name })
      .from(deliveryFiles)
      .where(eq(deliveryFiles.deliveryId, delivery.id));
    const name = deliveredName(frame.name, kind, extension, new Set(taken.map((row) => row.name)));
    await tx
      .insert(deliveryFiles)
      .values({
        deliveryId: delivery.id,
        frameId: frame.id,
        name,
        kind,
        ...file,
        background: kind === 'finished' ? (placed?.name ?? '') : '',
      });
  }
}

/** Deletes a stored file that nothing refers to any more. */
export function removeUnused(database: Database, store: Store, file: string): Promise<void> {
  return store.exclusive(async () => {
    if ((await unused(database, [file])).length) await store.remove(file);
  });
}

/** Those of the given files that no row names. */
export async function unused(database: Database, files: readonly string[]): Promise<string[]> {
  if (!files.length) return [];
  const named = await Promise.all([
    ...[frames, cuts, deliveryFiles, backgrounds, testPictures].map((table) =>
      database.selectDistinct({ file: table.file }).from(table).where(inArray(table.file, files)),
    ),
    database.selectDistinct({ file: cuts.plate }).from(cuts).where(inArray(cuts.plate, files)),
    database
      .select({ pictures: rehearsals.pictures })
      .from(rehearsals)
      .then((rows) => rows.flatMap(({ pictures }) => pictures)),
  ]);
  const used = new Set(named.flat().map(({ file }) => file));
  return files.filter((file) => !used.has(file));
}
