import { eq, inArray } from 'drizzle-orm';
import type { FringeAsked } from '../../../contract/index.ts';
import { screenLuminance } from '../../../core/gather/facts.ts';
import { USUAL_SCREEN } from '../../../core/place/fringe.ts';
import { defaultLook, type Look } from '../../../core/place/index.ts';
import { backgrounds, placements, styles } from '../../database/schema.ts';
import { Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { findFrame } from '../gather/frames.ts';
import { notCut } from '../gather/regions.ts';
import { knownLight } from './knownLight.ts';
import { lookOf } from './readStyles.ts';

/**
 * How much of a frame's fringe will be seen on each of several backgrounds, with the look that it has or would have there.
 * @returns in their order; null for a background that is gone.
 * @throws Refusal where there is no cut, or it cannot be read.
 */
export async function fringesOf(
  context: Context,
  frameId: number,
  asked: readonly FringeAsked[],
): Promise<(number | null)[]> {
  const { database, pools } = context;
  const { frame, cut, shootId } = await findFrame(context, frameId);
  if (!cut) throw notCut();
  const known = await database
    .select()
    .from(backgrounds)
    .where(inArray(backgrounds.id, [0, ...asked.map(({ backgroundId }) => backgroundId)]));
  const own = await database
    .select({ backgroundId: styles.backgroundId, look: styles.look })
    .from(styles)
    .where(eq(styles.shootId, shootId));
  const [placed] = await database.select().from(placements).where(eq(placements.frameId, frameId));
  const lookOn = (backgroundId: number): Look => {
    const style = own.find((one) => one.backgroundId === backgroundId)?.look;
    if (placed?.backgroundId === backgroundId) return lookOf(style, placed.look);
    // Whoever is first put on a background starts its style.
    return style ? lookOf(style, {}) : defaultLook;
  };
  const there = await Promise.all(
    asked.map(async ({ backgroundId, ...placement }) => {
      const background = known.find(({ id }) => id === backgroundId);
      if (!background) return [];
      const light = await knownLight(database, frame.setupId, background.scene);
      return [{ background, placement, look: lookOn(backgroundId), light }];
    }),
  );
  const made = await pools.run('asked', 'fringe', {
    cut: { file: cut.file, depth: cut.depth === 16 ? 16 : 8, width: frame.width, height: frame.height },
    screen: screenLuminance(frame.facts?.screen) ?? USUAL_SCREEN,
    on: there.flat().map(({ background: { file, width, height }, ...one }) => ({
      background: { file, width, height },
      ...one,
    })),
  });
  if (!made.ok) throw new Refusal(409, made);
  const seen = [...made.output.seen];
  return there.map(({ length }) => (length ? (seen.shift() ?? null) : null));
}
