import { and, desc, eq } from 'drizzle-orm';
import type { Request } from 'express';
import type { NewNote } from '../../../contract/index.ts';
import { checks, notes, setups, testPictures } from '../../database/schema.ts';
import { found, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { decodePicture, PictureError } from '../../pictures/decode.ts';
import { removeUnused } from '../../store/unused.ts';
import { findShoot } from '../shoots/shoots.ts';

/** What is written down of a shoot, with a picture or without. */

const MOST_BYTES = 120_000_000;

export async function addNote(context: Context, shootId: number, note: NewNote): Promise<{ id: number }> {
  await findShoot(context, shootId);
  await checkSetup(context, shootId, note.setupId);
  const [{ insertId }] = await context.database.insert(notes).values({ shootId, ...note });
  return { id: insertId };
}

export async function changeNote(context: Context, id: number, change: Partial<NewNote>): Promise<void> {
  const note = await findNote(context, id);
  if (change.setupId) await checkSetup(context, note.shootId, change.setupId);
  if (Object.keys(change).length) await context.database.update(notes).set(change).where(eq(notes.id, id));
}

export async function removeNote(context: Context, id: number): Promise<void> {
  const { kind, file } = await findNote(context, id);
  if (kind === 'erased')
    throw new Refusal(409, {
      reason: 'this is the proof that pictures of somebody were deleted',
      remedy: 'It goes with its shoot.',
    });
  await context.database.delete(notes).where(eq(notes.id, id));
  if (file) await removeUnused(context.database, context.store, file);
}

/** Takes the request’s body as the picture of a note. */
export async function illustrate(context: Context, id: number, name: string, request: Request): Promise<void> {
  const { store, database } = context;
  await findNote(context, id);
  const upload = await store.receive(request, MOST_BYTES);
  if ('tooLarge' in upload)
    throw new Refusal(400, {
      reason: `“${name}” is larger than ${MOST_BYTES / 1e6} MB`,
      remedy: 'Take a smaller picture.',
    });
  try {
    await decodePicture(upload.temporary, 'frame');
    await store.exclusive(async () => {
      if (!(await store.has(upload.hash))) await store.adopt(upload.temporary, upload.hash);
      await database.update(notes).set({ file: upload.hash }).where(eq(notes.id, id));
    });
  } catch (error) {
    if (error instanceof PictureError)
      throw new Refusal(400, { reason: `“${name}” cannot be taken: ${error.reason}`, remedy: error.remedy });
    throw error;
  } finally {
    await store.discard(upload.temporary);
  }
}

/** Takes the picture of the matt ball from the latest round of a note’s setup that has one. */
export async function illustrateByBall({ store, database }: Context, id: number): Promise<void> {
  const { setupId } = await findNote({ database }, id);
  await store.exclusive(async () => {
    const [ball] = await database
      .select({ file: testPictures.file })
      .from(testPictures)
      .innerJoin(checks, eq(checks.id, testPictures.checkId))
      .where(and(eq(checks.setupId, setupId ?? 0), eq(testPictures.kind, 'ball')))
      .orderBy(desc(checks.id))
      .limit(1);
    if (!ball)
      throw new Refusal(409, {
        reason: 'no round of its setup has a picture of the matt ball',
        remedy: 'Photograph the ball at Check, or add a picture from a file.',
      });
    await database.update(notes).set({ file: ball.file }).where(eq(notes.id, id));
  });
}

export async function findNote({ database }: Pick<Context, 'database'>, id: number) {
  const [note] = await database.select().from(notes).where(eq(notes.id, id));
  return found(note, 'note');
}

async function checkSetup({ database }: Context, shootId: number, setupId: number | null): Promise<void> {
  if (setupId === null) return;
  const [setup] = await database.select().from(setups).where(eq(setups.id, setupId));
  if (setup?.shootId !== shootId)
    throw new Refusal(400, {
      reason: 'setupId: this setup belongs to another shoot',
      remedy: 'Choose one of this shoot.',
    });
}
