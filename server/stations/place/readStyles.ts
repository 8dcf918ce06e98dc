import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { Style } from '../../../contract/index.ts';
import { defaultLook, plainLook, type Look } from '../../../core/place/index.ts';
import type { Database, Transaction } from '../../database/connect.ts';
import { styles } from '../../database/schema.ts';
import type { Unread } from '../../database/sound.ts';

/** How the people of a shoot on one background are made to agree with it; each background that somebody stands on has one. */

export async function readStyles(
  database: Database,
  where: { shootId?: number; styleIds?: number[] },
): Promise<Unread<Style>[]> {
  if (where.styleIds?.length === 0) return [];
  const rows = await database
    .select({ id: styles.id, backgroundId: styles.backgroundId, look: styles.look })
    .from(styles)
    .where(
      and(
        where.shootId ? eq(styles.shootId, where.shootId) : undefined,
        where.styleIds ? inArray(styles.id, where.styleIds) : undefined,
      ),
    )
    .orderBy(asc(styles.id));
  return rows.map(({ look, ...row }) => ({ ...row, look: filledLook(look) }));
}

/** A look of an earlier version lacks settings that came later. */
export function filledLook(look: Partial<Look>): Look {
  return { ...plainLook, ...look };
}

/** The look of somebody on a background; those placed before there were styles stay as they were. */
export function lookOf(style: Partial<Look> | undefined, own: Partial<Look>): Look {
  return { ...plainLook, ...style, ...own };
}

/** Gives a background its first look in a shoot, unless it has one. */
export async function startStyle(tx: Transaction | Database, shootId: number, backgroundId: number): Promise<void> {
  await tx
    .insert(styles)
    .values({ shootId, backgroundId, look: defaultLook })
    .onDuplicateKeyUpdate({ set: { id: sql`id` } });
}
