import { asc, sql } from 'drizzle-orm';
import type { Background } from '../../../contract/index.ts';
import type { Database } from '../../database/connect.ts';
import { backgrounds } from '../../database/schema.ts';

export async function readBackgrounds(database: Database): Promise<Background[]> {
  return database
    .select({
      id: backgrounds.id,
      name: backgrounds.name,
      width: backgrounds.width,
      height: backgrounds.height,
      picture: sql<string>`left(${backgrounds.file}, 16)`,
    })
    .from(backgrounds)
    .orderBy(asc(backgrounds.id));
}
