import dayjs from 'dayjs';
import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Findings } from '../../../contract/index.ts';
import { readingFacts } from '../../../core/plan/index.ts';
import type { Transaction } from '../../database/connect.ts';
import { checks, notes } from '../../database/schema.ts';

/**
 * Writes into a shoot that begins from another what was known of its setups there: what was read as each was signed
 * off, as a note at Check, and the camera notes.
 * @param copies ids of setups there, and of those that were made from them.
 * @param from name and date of the shoot there.
 */
export async function noteLastTime(
  tx: Transaction,
  shootId: number,
  copies: ReadonlyMap<number, number>,
  from: { name: string; date: string },
): Promise<void> {
  const there = [0, ...copies.keys()];
  const rounds = await tx.select().from(checks).where(inArray(checks.setupId, there)).orderBy(asc(checks.createdAt));
  for (const [of, setupId] of copies) {
    const read = rounds.filter((round) => round.setupId === of && round.findings?.readings.length);
    const round = read.findLast(({ signedAt }) => signedAt) ?? read.at(-1);
    if (!round?.findings) continue;
    await tx.insert(notes).values({
      ...{ shootId, setupId, kind: 'note', place: 'check' },
      at: dayjs(round.createdAt).format('YYYY-MM-DDTHH:mm'),
      words: readInWords(round.findings, `Read at “${from.name}”, ${from.date}`),
    });
  }
  const cameras = await tx
    .select()
    .from(notes)
    .where(and(inArray(notes.setupId, there), eq(notes.kind, 'camera')))
    .orderBy(asc(notes.id));
  for (const { at, place, setupId, words, camera, file } of cameras)
    await tx
      .insert(notes)
      .values({ ...{ shootId, kind: 'camera', at, place, words, camera, file }, setupId: copies.get(setupId ?? 0) });
}

function readInWords({ readings }: Findings, lead: string): string {
  const lines = readings.map(({ id, value, verdict }) => {
    const { title, unit, digits } = readingFacts[id];
    return `${title}: ${value.toFixed(digits)} ${unit}`.trim() + (verdict === 'beyond' ? ', out of bounds' : '');
  });
  return [`${lead}:`, ...lines].join('\n').slice(0, 4000);
}
