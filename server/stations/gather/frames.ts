import { and, eq, ne } from 'drizzle-orm';
import type { Readable } from 'node:stream';
import {
  guidanceSchema,
  type Frame,
  type FrameChange,
  type ImportResult,
  type Problem,
} from '../../../contract/index.ts';
import { cuts, frames, setups } from '../../database/schema.ts';
import { found, notFound, parse, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { mergedOrRefused } from '../../http/mergedOrRefused.ts';
import { guidanceOfCutout } from '../extract/cutElsewhere.ts';
import { receivePicture, type MadePicture } from '../../http/receivePicture.ts';
import { addFrame } from './addFrame.ts';
import { OF_ANOTHER } from './developJob.ts';
import { queueFacts } from './factsJob.ts';
import { ensureSubjects } from './onRoster.ts';
import { PictureError } from '../../pictures/decode.ts';
import { removeUnused } from '../../store/unused.ts';
import type { Answer } from '../../threads/task.ts';
import { arrivedPath, forgetUpload } from '../../uploads/uploads.ts';
import { framesOf } from '../extract/readOrders.ts';

/** Frames brought in, changed and taken out. */

/** A frame with less than this share of the others’ usual pixels is asked about, if there are so many others. */
const FAR_SMALLER = 0.34;
const LEAST_OTHERS = 2;

/** A frame with its cut and the shoot that it belongs to. @throws Refusal if there is none. */
export async function findFrame({ database }: Pick<Context, 'database'>, id: number) {
  const [row] = await database
    .select({ frame: frames, cut: cuts, shootId: setups.shootId })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .leftJoin(cuts, eq(cuts.frameId, frames.id))
    .where(eq(frames.id, id));
  return found(row, 'frame');
}
export type FoundFrame = Awaited<ReturnType<typeof findFrame>>;

/** Takes a file as a photograph of a setup. */
export function importFrame(
  context: Context,
  setupId: number,
  name: string,
  file: Readable | { path: string },
): Promise<ImportResult> {
  return context.arriving.while(() => takeFrame(context, setupId, name, file));
}

async function takeFrame(
  context: Context,
  setupId: number,
  name: string,
  file: Readable | { path: string },
): Promise<ImportResult> {
  const { database, store, news, pools, queue, runner } = context;
  const [setup] = await database.select().from(setups).where(eq(setups.id, setupId));
  if (!setup) throw notFound('setup');
  const made = async (work: Promise<Answer<'develop'> | Answer<'heic'>>): Promise<MadePicture> => {
    const answer = await work;
    if (!answer.ok) throw new PictureError(answer.reason, answer.remedy);
    return answer.output;
  };
  const received = await receivePicture(file, store, 'frame', {
    raw: (path) => made(pools.run('set', 'develop', { raw: { path }, settings: setup.develop })),
    heic: (path) => made(pools.run('set', 'heic', { path })),
  });
  if ('reason' in received) return { outcome: 'refused', name, ...received };
  const guidance = await guidanceOfCutout(store, received.path);
  // File and row come together, so that nobody finds the file without a row and removes it.
  const kept = await store
    .exclusive(async (): Promise<{ of: string } | { frameId: number }> => {
      const there = await sameFile(context, setup.shootId, received.hash);
      const pair = await pairOf(context, setupId, name, received);
      // A file that had gone missing is back.
      const { raw = null, hash } = received;
      if (there && (await store.has(hash)) && (!raw || (await store.has(raw)))) return { of: there };
      // A photograph beside its raw file is the same frame; the raw file shows more.
      if (pair && !raw) return { of: pair.name };
      await received.keep();
      if (there) return { of: there };
      const { width, height, depth, takenAt, camera } = received.facts;
      const values = { setupId, name, file: hash, raw, bytes: received.bytes, width, height, depth };
      if (pair)
        return database.transaction(async (tx) => {
          await tx
            .update(frames)
            .set({ ...values, camera, facts: null })
            .where(eq(frames.id, pair.id));
          await tx.update(cuts).set({ fingerprint: OF_ANOTHER }).where(eq(cuts.frameId, pair.id));
          await queueFacts(tx, queue, [{ id: pair.id, shootId: setup.shootId }]);
          return { frameId: pair.id };
        });
      return database.transaction(async (tx) => ({
        frameId: await addFrame(tx, queue, setup.shootId, { ...values, guidance, camera, takenAt: takenAt ?? null }),
      }));
    })
    .finally(() => received.drop());
  if ('of' in kept) return { outcome: 'duplicate', name, of: kept.of };
  runner.wake();
  const told = await news.tell(setup.shootId, { frames: [kept.frameId], orders: [kept.frameId] });
  const frame = found(
    told.frames.find(({ id }) => id === kept.frameId),
    'frame',
  );
  const question = guidance.matte ? cutAlready : await sizeQuestion(context, frame);
  return { outcome: 'stored', name, frame, question };
}

/** A frame whose file came in parts. @throws Refusal if it is not there, or not whole. */
export async function importUploaded(
  context: Context,
  setupId: number,
  name: string,
  upload: string,
): Promise<ImportResult> {
  const path = await arrivedPath(context.store, upload);
  if (path === undefined)
    throw new Refusal(404, { reason: `“${name}” has not arrived whole`, remedy: 'Choose the file again.' });
  const result = await importFrame(context, setupId, name, { path });
  await forgetUpload(context.store, upload);
  return result;
}

/** The other one of a raw file and a photograph that a camera wrote of one exposure: same name and time. */
async function pairOf(
  { database }: Pick<Context, 'database'>,
  setupId: number,
  name: string,
  { raw, facts }: { raw?: string; facts: { takenAt?: string } },
): Promise<{ id: number; name: string } | undefined> {
  if (!facts.takenAt) return undefined;
  const stem = (file: string): string => file.replace(/\.[^.]*$/, '').toLowerCase();
  const rows = await database
    .select({ id: frames.id, name: frames.name, raw: frames.raw })
    .from(frames)
    .where(and(eq(frames.setupId, setupId), eq(frames.takenAt, facts.takenAt)));
  return rows.find((row) => stem(row.name) === stem(name) && (row.raw === null) !== (raw === undefined));
}

async function sameFile(
  { database }: Pick<Context, 'database'>,
  shootId: number,
  file: string,
): Promise<string | undefined> {
  const [there] = await database
    .select({ name: frames.name })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(and(eq(setups.shootId, shootId), eq(frames.file, file)));
  return there?.name;
}

/** Asks about a frame that is far smaller than the rest of its setup: a preview or an export by mistake. */
/** A photograph that a program turned has open corners too. */
const cutAlready: Problem = {
  reason:
    'it has transparent areas and is taken for cut out already: its transparency is its matte, and no screen is looked for',
  remedy:
    'If it still shows its screen, take the matte off at Extract under Masks and choose “Unmixing” under Settings, or bring in the original.',
};

async function sizeQuestion(
  { database }: Pick<Context, 'database'>,
  { id, setupId, width, height }: Frame,
): Promise<Problem | undefined> {
  const rest = (
    await database
      .select({ width: frames.width, height: frames.height })
      .from(frames)
      .where(and(eq(frames.setupId, setupId), ne(frames.id, id)))
  )
    .map((other) => other.width * other.height)
    .sort((a, b) => a - b);
  const usual = rest[rest.length >> 1];
  if (rest.length < LEAST_OTHERS || width * height > FAR_SMALLER * usual) return undefined;
  const megapixels = (pixels: number): string => (pixels / 1e6).toFixed(pixels < 1e6 ? 2 : 0);
  return {
    reason: `it has ${megapixels(width * height)} megapixels, where the others of its setup have ${megapixels(usual)}`,
    remedy: 'If it is a preview or a small export, take it out and bring in the photograph itself.',
  };
}

/** Changes who is on a frame or what was said on it. @param seen what the change was made on. */
export async function changeFrame(context: Context, id: number, seen: FrameChange, to: FrameChange): Promise<Frame> {
  const { database, news } = context;
  const { shootId } = await findFrame(context, id);
  const { setupId, subjects, added } = await database.transaction(async (tx) => {
    const [now] = await tx.select().from(frames).where(eq(frames.id, id)).for('update');
    if (!now) throw notFound('frame');
    const before = { subject: now.subject, guidance: now.guidance, review: now.review };
    const { subject, guidance, review } = mergedOrRefused(before, seen, to, ([field]) =>
      field === 'subject' ? 'Who is on this frame' : 'What was said on this frame',
    );
    const sound = parse(guidanceSchema, guidance, 'guidance');
    await tx.update(frames).set({ subject, guidance: sound, review }).where(eq(frames.id, id));
    const added = await ensureSubjects(tx, shootId, [subject]);
    return { setupId: now.setupId, added, subjects: [now.subject, subject].filter((name) => name !== '') };
  });
  const orders = [id, ...(await framesOf(database, setupId, subjects))];
  const told = await news.tell(shootId, { frames: [id], orders, subjects: added });
  return found(
    told.frames.find((frame) => frame.id === id),
    'frame',
  );
}

export async function removeFrame(context: Context, id: number): Promise<void> {
  const { database, store, news } = context;
  const { frame, cut, shootId } = await findFrame(context, id);
  await database.delete(frames).where(eq(frames.id, id));
  const touched = frame.plate
    ? await framesOf(database, frame.setupId)
    : await framesOf(database, frame.setupId, frame.subject ? [frame.subject] : []);
  await news.tell(shootId, { frames: [id], orders: [id, ...touched] });
  for (const file of [frame.file, frame.raw, cut?.file, cut?.plate])
    if (file) await removeUnused(database, store, file);
}
