import { and, eq, inArray } from 'drizzle-orm';
import type { Frame, PlacedOn } from '../../../contract/index.ts';
import { backgrounds, frames, placements, setups, styles } from '../../database/schema.ts';
import { notFound } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startStyle } from './styles.ts';

/** Puts frames of a shoot on a background, or takes them off; all of them when none are named. */
export async function placeFrames(
  { database, news }: Context,
  shootId: number,
  placement: PlacedOn | null,
  frameIds?: readonly number[],
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
  if (ids.length && !placement) await database.delete(placements).where(inArray(placements.frameId, ids));
  if (ids.length && placement) {
    await startStyle(database, shootId, placement.backgroundId);
    await database
      .insert(placements)
      .values(ids.map((frameId) => ({ frameId, ...placement })))
      .onDuplicateKeyUpdate({ set: placement });
  }
  const of = placement
    ? await database
        .select({ id: styles.id })
        .from(styles)
        .where(and(eq(styles.shootId, shootId), eq(styles.backgroundId, placement.backgroundId)))
    : [];
  const { frames: told } = await news.tell(shootId, { frames: ids, orders: ids, styles: of.map(({ id }) => id) });
  return told.filter(({ id }) => ids.includes(id));
}
