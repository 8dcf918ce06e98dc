import { eq } from 'drizzle-orm';
import { distinctName, MOST_SUBJECTS, noSubject, type Subject as Fields } from '../../../core/gather/subject.ts';
import type { Transaction } from '../../database/connect.ts';
import { shoots, subjects } from '../../database/schema.ts';
import { Refusal } from '../../http/answers.ts';

/** Names given out on the roster of a shoot. */

/** Two that add at once would give out the same name: they come here one after the other. */
export async function oneAfterAnother(tx: Transaction, shootId: number): Promise<void> {
  await tx.select({ id: shoots.id }).from(shoots).where(eq(shoots.id, shootId)).for('update');
}

/** @returns ids of those who were added. @throws Refusal where they are too many. */
export async function addTo(tx: Transaction, shootId: number, added: readonly Fields[]): Promise<number[]> {
  const there = await tx
    .select({ name: subjects.name, number: subjects.number })
    .from(subjects)
    .where(eq(subjects.shootId, shootId))
    .for('update');
  if (there.length + added.length > MOST_SUBJECTS)
    throw new Refusal(409, {
      reason: `a shoot has at most ${MOST_SUBJECTS} subjects, and these would be ${there.length + added.length}`,
      remedy: 'Make a shoot for each day or group.',
    });
  const names = new Set(there.map(({ name }) => name.toLowerCase()));
  const numbers = new Set([...there, ...added].map(({ number }) => number.toLowerCase()));
  let next = 1;
  const free = (): string => {
    while (numbers.has(`${next}`)) next++;
    numbers.add(`${next}`);
    return `${next}`;
  };
  const rows = added.map((subject) => {
    const number = subject.number || free();
    return { ...subject, shootId, number, name: distinctName({ ...subject, number }, names) };
  });
  if (!rows.length) return [];
  return (await tx.insert(subjects).values(rows).$returningId()).map(({ id }) => id);
}

/** Whoever is named on a frame stands on the roster. @returns ids of those who were added. */
export async function ensureSubjects(tx: Transaction, shootId: number, names: readonly string[]): Promise<number[]> {
  const wanted = [...new Set(names.filter((name) => name !== ''))];
  const listed = () => tx.select({ name: subjects.name }).from(subjects).where(eq(subjects.shootId, shootId));
  const missing = (there: { name: string }[]): string[] => {
    const known = new Set(there.map(({ name }) => name));
    return wanted.filter((name) => !known.has(name));
  };
  // Nobody waits for others where everybody is there already.
  if (!wanted.length || !missing(await listed()).length) return [];
  await oneAfterAnother(tx, shootId);
  return addTo(
    tx,
    shootId,
    // A locking read sees what others wrote since the first one.
    missing(await listed().for('update')).map((name) => ({ ...noSubject, name })),
  );
}
