import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Subject } from '../../../contract/index.ts';
import type { Reader } from '../../database/connect.ts';
import { subjects } from '../../database/schema.ts';
import type { Unread } from '../../database/sound.ts';

/** The roster of a shoot, or some of it, in the order in which it was made. */
export async function readSubjects(
  database: Reader,
  where: { shootId?: number; subjectIds?: number[] },
): Promise<Unread<Subject>[]> {
  if (where.subjectIds?.length === 0) return [];
  const rows = await database
    .select()
    .from(subjects)
    .where(
      and(
        where.shootId ? eq(subjects.shootId, where.shootId) : undefined,
        where.subjectIds ? inArray(subjects.id, where.subjectIds) : undefined,
      ),
    )
    .orderBy(asc(subjects.id));
  return rows.map(({ createdAt: _, ...subject }) => subject);
}
