import { and, eq, isNotNull } from 'drizzle-orm';
import type { Database } from '../../database/connect.ts';
import { shoots } from '../../database/schema.ts';
import type { Store } from '../../store/store.ts';

/** An archive that holds pictures, of one shoot or of any, and is not there now. */
export async function archiveAway(
  { database, store }: { database: Database; store: Store },
  shootId?: number,
): Promise<string | undefined> {
  const of = shootId === undefined ? undefined : eq(shoots.id, shootId);
  const rows = await database
    .selectDistinct({ archive: shoots.archive })
    .from(shoots)
    .where(and(isNotNull(shoots.archive), of));
  const there = (await store.archives()).flatMap((place) => (place.there ? place.folder : []));
  return rows.map(({ archive }) => archive ?? '').find((folder) => !there.includes(folder));
}
