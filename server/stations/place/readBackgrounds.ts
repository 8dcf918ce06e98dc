import { asc, eq, sql } from 'drizzle-orm';
import type { Background } from '../../../contract/index.ts';
import type { Database } from '../../database/connect.ts';
import { backgrounds } from '../../database/schema.ts';

/** The library of backgrounds, in the order in which they came; or one of them. */
export async function readBackgrounds(database: Database, id?: number): Promise<Background[]> {
  return database
    .select({
      id: backgrounds.id,
      name: backgrounds.name,
      width: backgrounds.width,
      height: backgrounds.height,
      picture: sql<string>`left(${backgrounds.file}, 16)`,
      tags: backgrounds.tags,
      scene: backgrounds.scene,
      removed: sql<boolean>`${backgrounds.removedAt} is not null`.mapWith(Boolean),
    })
    .from(backgrounds)
    .where(id === undefined ? undefined : eq(backgrounds.id, id))
    .orderBy(asc(backgrounds.id));
}
