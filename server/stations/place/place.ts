import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Frame, OwnPlace, PlacedOn } from '../../../contract/index.ts';
import { backgrounds, frames, placements, setups, styles } from '../../database/schema.ts';
import { notFound } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startStyle } from './readStyles.ts';

/**
 * Puts frames of a shoot on a background, or takes them off; all of them when none are named.
 * @param places of single frames, in the place of the common one.
 */
export async function placeFrames(
  { database, news }: Context,
  shootId: number,
  placement: PlacedOn | null,
  frameIds?: readonly number[],
  places: readonly OwnPlace[] = [],
): Promise<Frame[]> {
  if (placement) {
    const [background] = await database.select().from(backgrounds).where(eq(backgrounds.id, placement.backgroundId));
    if (!background) throw notFound('background');
  }
  const chosen = await database
    .select({ id: frames.id })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(and(eq(setups.shootId, shootId), frameIds ? inArray(frames.id, [...frameIds, 0]) : undefined));
  const ids = chosen.map((row) => row.id);
  const own = new Map(places.map(({ id, ...place }) => [id, place]));
  if (ids.length && !placement) await database.delete(placements).where(inArray(placements.frameId, ids));
  if (ids.length && placement) {
    await startStyle(database, shootId, placement.backgroundId);
    await database
      .insert(placements)
      .values(
        ids.map((frameId) => ({
          frameId,
          ...placement,
          others: ids.length === 1 ? (placement.others ?? []) : [],
          ...own.get(frameId),
        })),
      )
      .onDuplicateKeyUpdate({
        set: {
          // Set first: columns are set one after the other, and crops of another background mean nothing here.
          crops: sql`if(background_id = values(background_id), crops, '{}')`,
          backgroundId: sql`values(background_id)`,
          x: sql`values(x)`,
          y: sql`values(y)`,
          height: sql`values(height)`,
          look: sql`values(look)`,
          ...(ids.length === 1 ? { others: sql`values(others)` } : {}),
        },
      });
  }
  const of = placement
    ? await database
        .select({ id: styles.id })
        .from(styles)
        .where(and(eq(styles.shootId, shootId), eq(styles.backgroundId, placement.backgroundId)))
    : [];
  const { frames: told } = await news.tell(shootId, { frames: ids, styles: of.map(({ id }) => id) });
  return told.filter(({ id }) => ids.includes(id));
}
