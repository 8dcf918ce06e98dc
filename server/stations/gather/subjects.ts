import dayjs from 'dayjs';
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Erasure, Subject, SubjectChange } from '../../../contract/index.ts';
import { subjectFields, type Subject as Fields } from '../../../core/gather/subject.ts';
import type { Transaction } from '../../database/connect.ts';
import {
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  notes,
  placements,
  setups,
  shoots,
  subjects,
} from '../../database/schema.ts';
import { found, notFound, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { mergedOrRefused } from '../../http/mergedOrRefused.ts';
import { archiveAway } from '../log/archives.ts';
import { addTo, oneAfterAnother } from './onRoster.ts';
import { removeUnused } from '../../store/unused.ts';
import { findShoot } from '../shoots/shoots.ts';

/** Who is photographed: the roster of a shoot. Frames name their subject, so a name is changed on both. */

/** Names are compared as they are written, whatever the database thinks of letters. */
const isOn = (name: string) => sql`binary ${frames.subject} = ${name}`;

/** Adds to the roster; equal names are told apart, who has no number gets the next free one. */
export async function addSubjects(context: Context, shootId: number, added: readonly Fields[]): Promise<Subject[]> {
  await findShoot(context, shootId);
  const ids = await context.database.transaction(async (tx) => {
    await oneAfterAnother(tx, shootId);
    return addTo(tx, shootId, added);
  });
  const told = await context.news.tell(shootId, { subjects: ids });
  return told.subjects.filter(({ id }) => ids.includes(id));
}

async function findSubject(tx: Transaction, id: number) {
  const [row] = await tx.select().from(subjects).where(eq(subjects.id, id)).for('update');
  if (!row) throw notFound('subject');
  return row;
}

function framesNamed(tx: Transaction, shootId: number, name: string) {
  return tx
    .select({ id: frames.id, file: frames.file, raw: frames.raw, cut: cuts.file, plate: cuts.plate })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .leftJoin(cuts, eq(cuts.frameId, frames.id))
    .where(and(eq(setups.shootId, shootId), isOn(name)));
}

/** @param seen what the change was made on. @throws Refusal where the new name is somebody else's. */
export async function changeSubject(
  { database, news }: Context,
  id: number,
  seen: SubjectChange,
  to: SubjectChange,
): Promise<Subject> {
  const { shootId, renamed } = await database.transaction(async (tx) => {
    const { createdAt: _, id: __, shootId, ...before } = await findSubject(tx, id);
    await oneAfterAnother(tx, shootId);
    const after = mergedOrRefused<Fields>(before, seen, to, ([field]) => subjectFields[field as keyof Fields].label);
    const others = await tx
      .select({ id: subjects.id, name: subjects.name })
      .from(subjects)
      .where(eq(subjects.shootId, shootId));
    if (others.some((other) => other.id !== id && other.name.toLowerCase() === after.name.toLowerCase()))
      throw new Refusal(409, {
        reason: `“${after.name}” is somebody else’s name in this shoot`,
        remedy: 'Add what tells them apart, a number or a letter.',
      });
    await tx.update(subjects).set(after).where(eq(subjects.id, id));
    if (after.name === before.name) return { shootId, renamed: [] };
    const named = (await framesNamed(tx, shootId, before.name)).map((frame) => frame.id);
    if (named.length) await tx.update(frames).set({ subject: after.name }).where(inArray(frames.id, named));
    return { shootId, renamed: named };
  });
  const told = await news.tell(shootId, { subjects: [id], frames: renamed, orders: renamed });
  return found(
    told.subjects.find((subject) => subject.id === id),
    'subject',
  );
}

/** Takes somebody off the roster. Their frames stay and are nobody's. */
export async function removeSubject({ database, news }: Context, id: number): Promise<void> {
  const { shootId, named } = await database.transaction(async (tx) => {
    const { shootId, name } = await findSubject(tx, id);
    const named = (await framesNamed(tx, shootId, name)).map((frame) => frame.id);
    if (named.length) await tx.update(frames).set({ subject: '' }).where(inArray(frames.id, named));
    await tx.delete(subjects).where(eq(subjects.id, id));
    return { shootId, named };
  });
  await news.tell(shootId, { subjects: [id], frames: named, orders: named });
}

/**
 * Takes somebody off the roster with every picture that shows them: frames, cuts, what was handed over of them, and of
 * other people's pictures those on which they stand, too. The log keeps that it was done, without the name.
 * @returns a written proof.
 */
export async function eraseSubject({ database, news, store }: Context, id: number): Promise<Erasure> {
  const [of] = await database.select({ shootId: subjects.shootId }).from(subjects).where(eq(subjects.id, id));
  const away = await archiveAway({ database, store }, found(of, 'subject').shootId);
  if (away !== undefined)
    throw new Refusal(409, {
      reason: `the pictures of this shoot lie in the archive “${away}”, which is not there now`,
      remedy: 'Connect its disk, then delete them; otherwise they would stay on it.',
    });
  const { shootId, ids, files, proof } = await database.transaction(async (tx) => {
    const { shootId, name, number } = await findSubject(tx, id);
    const [shoot] = await tx.select().from(shoots).where(eq(shoots.id, shootId));
    const named = await framesNamed(tx, shootId, name);
    const ids = named.map((frame) => frame.id);
    const placed = await tx
      .select({ id: placements.frameId, others: placements.others })
      .from(placements)
      .innerJoin(frames, eq(frames.id, placements.frameId))
      .innerJoin(setups, eq(setups.id, frames.setupId))
      .where(eq(setups.shootId, shootId));
    const beside = placed.filter(({ others }) => others.some(({ frameId }) => ids.includes(frameId)));
    const showing = inArray(deliveryFiles.frameId, [...ids, ...beside.map((one) => one.id), 0]);
    const delivered = await tx.select({ file: deliveryFiles.file }).from(deliveryFiles).where(showing);
    await tx.delete(deliveryFiles).where(showing);
    for (const { id: frameId, others } of beside) {
      const rest = others.filter((other) => !ids.includes(other.frameId));
      await tx.update(placements).set({ others: rest }).where(eq(placements.frameId, frameId));
    }
    if (ids.length) await tx.delete(frames).where(inArray(frames.id, ids));
    await tx.delete(subjects).where(eq(subjects.id, id));
    const files = [
      ...named.flatMap(({ file, raw, cut, plate }) => [file, raw, cut, plate]),
      ...delivered.map(({ file }) => file),
    ];
    const gone = [...new Set(files)].flatMap((file) => file ?? []);
    const at = new Date();
    const counts = [
      counted(named.length, 'photograph'),
      counted(named.filter(({ cut }) => cut).length, 'cut'),
      counted(delivered.length, 'file of hand-overs', 'files of hand-overs'),
    ].join(', ');
    await tx.insert(notes).values({
      shootId,
      kind: 'erased',
      at: dayjs(at).format('YYYY-MM-DDTHH:mm:ss'),
      place: 'gather',
      words: `Number ${number || '–'} was deleted with every picture: ${counts}.`,
    });
    const proof = proofOf({ shoot: shoot.name, date: shoot.date, name, number, at, counts, files: gone });
    return { shootId, ids: [...ids, ...beside.map((one) => one.id)], files, proof };
  });
  for (const file of new Set(files)) if (file) await removeUnused(database, store, file);
  const made = await database.select({ id: deliveries.id }).from(deliveries).where(eq(deliveries.shootId, shootId));
  const touched = { subjects: [id], frames: ids, orders: ids, deliveries: made.map((delivery) => delivery.id) };
  await news.tell(shootId, touched);
  return { proof };
}

/** What is given to whoever asked for the deletion. */
function proofOf(of: {
  shoot: string;
  date: string;
  name: string;
  number: string;
  at: Date;
  counts: string;
  files: readonly string[];
}): string {
  const { shoot, date, name, number, at, counts, files } = of;
  return [
    'Pictures deleted on request',
    '',
    `Person: ${name}${number ? `, number ${number}` : ''}`,
    `Shoot: ${shoot}, ${date}`,
    `Deleted: ${at.toISOString()}`,
    `What: ${counts}; the entry on the roster.`,
    'What had been carried away before, and files on cards and disks outside of this application, are not reached.',
    '',
    'SHA-256 of the deleted files:',
    ...files,
    '',
  ].join('\r\n');
}

function counted(n: number, one: string, many = `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`;
}
