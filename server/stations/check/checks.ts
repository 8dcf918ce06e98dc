import { and, desc, eq, isNull } from 'drizzle-orm';
import type { Request } from 'express';
import type { z } from 'zod';
import type {
  Check,
  Job,
  MarksGiven,
  PictureKind,
  testShotSchema,
  TestPictureResult,
} from '../../../contract/index.ts';
import type { Transaction } from '../../database/connect.ts';
import { checks, frames, setups, testPictures } from '../../database/schema.ts';
import { found, notFound, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { receivePicture } from '../../http/receivePicture.ts';
import { startJob } from '../../jobs/startJob.ts';
import { removeUnused } from '../../store/unused.ts';
import { readPlans } from '../plan/readPlans.ts';
import { readChecks } from './readChecks.ts';
import { openPointsOf, putPicture, reopen } from './rounds.ts';

/** What can be done with rounds of test frames. */

const find = async ({ database }: Pick<Context, 'database'>, id: number) =>
  found((await readChecks(database, { checkIds: [id] }))[0], 'round');

async function tell(context: Context, shootId: number, id: number): Promise<Check> {
  return found(await context.news.tellOne(shootId, 'checks', id), 'round');
}

export async function createRound(context: Context, setupId: number): Promise<Check> {
  const { database } = context;
  const [setup] = await database.select().from(setups).where(eq(setups.id, setupId));
  if (!setup) throw notFound('setup');
  const [{ insertId }] = await database.insert(checks).values({ setupId, marks: {}, openPoints: [] });
  return tell(context, setup.shootId, insertId);
}

export async function removeRound({ database, store, news }: Context, checkId: number): Promise<void> {
  const { id, shootId } = await find({ database }, checkId);
  const pictures = await database.select().from(testPictures).where(eq(testPictures.checkId, id));
  await database.delete(checks).where(eq(checks.id, id));
  await news.tell(shootId, { checks: [id] });
  for (const { file } of pictures) await removeUnused(database, store, file);
}

/** Takes the request's body as a test frame. @param kind what it shows; left out, the picture itself tells. */
export async function addPicture(
  context: Context,
  checkId: number,
  name: string,
  kind: PictureKind | undefined,
  request: Request,
): Promise<TestPictureResult> {
  const { store, pools } = context;
  const { id, shootId } = await find(context, checkId);
  const received = await receivePicture(request, store, kind === 'background' ? 'background' : 'photograph');
  if ('reason' in received) return { outcome: 'refused', name, ...received };
  try {
    const told = kind ?? (await recognised(pools, received.path));
    if (!told) return { outcome: 'refused', name, ...noScreenSeen };
    const { hash: file, facts, keep } = received;
    const { width, height, camera } = facts;
    const check = await changeRound(context, { checkId: id, shootId }, keep, (tx) =>
      putPicture(tx, context.queue, { checkId: id, shootId }, { kind: told, name, file, width, height, camera }),
    );
    return { outcome: 'stored', kind: told, check };
  } finally {
    await received.drop();
  }
}

const noScreenSeen = {
  reason: 'no green or blue screen was found in it',
  remedy:
    'Photograph the lit screen so that it fills at least a twentieth of the frame, or say what the picture shows and drop it there.',
};

async function recognised(pools: Context['pools'], path: string): Promise<PictureKind | null> {
  const answer = await pools.run('asked', 'recognise', { path });
  if (!answer.ok) throw new Refusal(409, answer);
  return answer.output.recognised;
}

/**
 * Changes a round, so that it is read anew.
 * @param before what puts a file into the store first.
 * @param change
 * @returns a file that it does without now.
 */
async function changeRound(
  context: Context,
  { checkId, shootId }: { checkId: number; shootId: number },
  before: (() => Promise<void>) | undefined,
  change: (tx: Transaction) => Promise<string | undefined>,
): Promise<Check> {
  const { database, store, runner } = context;
  const old = await store.exclusive(async () => {
    await before?.();
    return database.transaction(change);
  });
  runner.wake();
  const check = await tell(context, shootId, checkId);
  if (old) await removeUnused(database, store, old);
  return check;
}

/** What a frame of nobody can be in a round. */
const ofNobody: readonly (PictureKind | 'slate' | 'unknown' | undefined)[] = [
  'plate',
  'ball',
  'grey card',
  'colour chart',
];

/**
 * Puts a gathered frame that shows the empty screen, ball, card or chart into the last open round of its setup, or a new
 * one; the frame stays where it is.
 * @throws Refusal if it shows somebody, or nothing that was recognised.
 */
export async function handToRound(context: Context, frameId: number): Promise<Check> {
  const { database, queue } = context;
  const [row] = await database.select().from(frames).where(eq(frames.id, frameId));
  const { setupId, name, file, width, height, camera, facts } = found(row, 'frame');
  const kind = facts?.kind;
  if (!ofNobody.includes(kind))
    throw new Refusal(409, {
      reason: `“${name}” was not recognised as empty screen, ball, card or chart`,
      remedy: 'Drop its file at Check into the field of what it shows.',
    });
  const [open] = await database
    .select({ id: checks.id })
    .from(checks)
    .where(and(eq(checks.setupId, setupId), isNull(checks.signedAt)))
    .orderBy(desc(checks.id))
    .limit(1);
  const { id: checkId } = open ?? (await createRound(context, setupId));
  const { shootId } = await find(context, checkId);
  const picture = { kind: kind as PictureKind, name, file, width, height, camera };
  return changeRound(context, { checkId, shootId }, undefined, (tx) =>
    putPicture(tx, queue, { checkId, shootId }, picture),
  );
}

export async function takeTestFrame(
  context: Context,
  checkId: number,
  shot: z.output<typeof testShotSchema>,
): Promise<Job> {
  const { id, shootId } = await find(context, checkId);
  const [planned] = await readPlans(context.database, { planIds: [shot.planId] });
  if (planned?.shootId !== shootId)
    throw new Refusal(400, {
      reason: 'planId: this plan belongs to another shoot',
      remedy: 'Choose a plan of this shoot.',
    });
  return startJob(context, { kind: 'testShot', payload: { ...shot, checkId: id }, shootId });
}

/** @throws Refusal if the round has no such picture. */
export async function findPicture({ database }: Pick<Context, 'database'>, checkId: number, kind: PictureKind) {
  const [picture] = await database
    .select()
    .from(testPictures)
    .where(and(eq(testPictures.checkId, checkId), eq(testPictures.kind, kind)));
  return found(picture, 'picture');
}

export async function removePicture(context: Context, checkId: number, kind: PictureKind): Promise<Check> {
  const { id, shootId } = await find(context, checkId);
  const old = await findPicture(context, id, kind);
  return changeRound(context, { checkId: id, shootId }, undefined, async (tx) => {
    await tx.delete(testPictures).where(eq(testPictures.id, old.id));
    await reopen(tx, context.queue, { checkId: id, shootId });
    return old.file;
  });
}

export async function markRound(context: Context, checkId: number, marks: MarksGiven): Promise<Check> {
  const { id, shootId } = await find(context, checkId);
  return changeRound(context, { checkId: id, shootId }, undefined, async (tx) => {
    await tx.update(checks).set({ marks, findings: null }).where(eq(checks.id, id));
    await context.queue.add(tx, [{ kind: 'reading', payload: { checkId: id }, shootId }]);
    return undefined;
  });
}

/** Has a round read that has no readings and is not about to get them. */
export async function readAgain(context: Context, checkId: number): Promise<Check> {
  const { id, shootId, findings } = await find(context, checkId);
  if (!findings && !(await context.queue.isOpen({ kind: 'reading', payload: { checkId: id } })))
    await startJob(context, { kind: 'reading', payload: { checkId: id }, shootId });
  return tell(context, shootId, id);
}

/** Signs a round off with what is left open. */
export async function signRound(context: Context, checkId: number): Promise<Check> {
  const { database } = context;
  const { id, shootId, findings } = await find(context, checkId);
  if (!findings?.found)
    throw new Refusal(409, {
      reason: 'this round has no readings yet',
      remedy: 'Photograph the empty screen or a test frame first.',
    });
  const taken = await database
    .select({ kind: testPictures.kind })
    .from(testPictures)
    .where(eq(testPictures.checkId, id));
  const openPoints = openPointsOf(
    findings,
    taken.map(({ kind }) => kind),
  );
  await database.update(checks).set({ signedAt: new Date(), openPoints }).where(eq(checks.id, id));
  return tell(context, shootId, id);
}

/** Opens a signed round again. */
export async function openRound(context: Context, checkId: number): Promise<Check> {
  const { id, shootId } = await find(context, checkId);
  await context.database.update(checks).set({ signedAt: null, openPoints: [] }).where(eq(checks.id, id));
  return tell(context, shootId, id);
}
