import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { styleSchema, type Style } from '../../../contract/index.ts';
import { defaultLook, noExtras, plainLook, type Look } from '../../../core/place/index.ts';
import type { Reader } from '../../database/connect.ts';
import { backgrounds, frames, placements, setups, styles } from '../../database/schema.ts';
import { soundOr, type OnBroken, type Unread } from '../../database/sound.ts';

const soundStyle = styleSchema.omit({ revision: true });

/** How the people of a shoot on one background are made to agree with it; each background that somebody stands on has one. */

export async function readStyles(
  database: Reader,
  where: { shootId?: number; styleIds?: number[] },
  broken: OnBroken = () => undefined,
): Promise<Unread<Style>[]> {
  if (where.styleIds?.length === 0) return [];
  const rows = await database
    .select({ style: styles, background: backgrounds.name })
    .from(styles)
    .innerJoin(backgrounds, eq(backgrounds.id, styles.backgroundId))
    .where(
      and(
        where.shootId ? eq(styles.shootId, where.shootId) : undefined,
        where.styleIds ? inArray(styles.id, where.styleIds) : undefined,
      ),
    )
    .orderBy(asc(styles.id));
  return rows.flatMap(({ style: { id, backgroundId, look, extras, standing }, background }) =>
    soundOr(
      soundStyle,
      { id, backgroundId, look: filledLook(look), extras, standing },
      [
        (flaw) => {
          broken({
            reason: `The look of “${background}” cannot be read (${flaw})`,
            remedy: 'Person and background stand as they are; match them again at Place.',
          });
          return { id, backgroundId, look: plainLook, extras: noExtras, standing: null };
        },
      ],
      broken,
      `The style of “${background}”`,
    ),
  );
}

/** A look of an earlier version lacks settings that came later. */
export function filledLook(look: Partial<Look>): Look {
  return { ...plainLook, ...look };
}

/** The look of somebody on a background; those placed before there were styles stay as they were. */
export function lookOf(style: Partial<Look> | undefined, own: Partial<Look>): Look {
  return { ...plainLook, ...style, ...own };
}

/**
 * Gives a background its first look in a shoot as somebody is about to be put on it, unless it has one. Where people
 * stand already without one, they stay as they are.
 * @param look in what it differs from the proposed one.
 */
export async function startStyle(
  tx: Reader,
  shootId: number,
  backgroundId: number,
  look: Partial<Look> = {},
): Promise<void> {
  const [there] = await tx
    .select({ id: placements.frameId })
    .from(placements)
    .innerJoin(frames, eq(frames.id, placements.frameId))
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(and(eq(setups.shootId, shootId), eq(placements.backgroundId, backgroundId)))
    .limit(1);
  if (!there) await ensureStyle(tx, shootId, backgroundId, look);
}

/** Gives a background the proposed look in a shoot, unless it has one. */
export async function ensureStyle(
  tx: Reader,
  shootId: number,
  backgroundId: number,
  look: Partial<Look> = {},
): Promise<void> {
  await tx
    .insert(styles)
    .values({ shootId, backgroundId, look: { ...defaultLook, ...look } })
    .onDuplicateKeyUpdate({ set: { id: sql`id` } });
}
