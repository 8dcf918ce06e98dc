import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import { setupSchema, type Setup } from '../../../contract/index.ts';
import { defaultRecipe } from '../../../core/cut/index.ts';
import type { Reader } from '../../database/connect.ts';
import { setups, watchedFiles } from '../../database/schema.ts';
import { soundOr, type OnBroken, type Unread } from '../../database/sound.ts';

const soundSetup = setupSchema.omit({ revision: true });

/** Setups of a shoot, or some setups, in the order they were made. */
export async function readSetups(
  database: Reader,
  where: { shootId?: number; setupIds?: number[] },
  broken: OnBroken = () => undefined,
): Promise<Unread<Setup>[]> {
  if (where.setupIds?.length === 0) return [];
  const rows = await database
    .select()
    .from(setups)
    .where(
      and(
        where.shootId ? eq(setups.shootId, where.shootId) : undefined,
        where.setupIds ? inArray(setups.id, where.setupIds) : undefined,
      ),
    )
    .orderBy(asc(setups.id));
  const watched = await watchedOf(
    database,
    rows.map(({ id }) => id),
  );
  return rows.flatMap((row) => {
    const setup = { ...filledSetup(row), watched: watched.get(row.id) ?? { taken: 0, refused: [] } };
    return soundOr(
      soundSetup,
      setup,
      [
        (flaw) => {
          broken({
            reason: `The settings of “${row.name}” cannot be read (${flaw})`,
            remedy: 'It stands at the usual settings, without masks; set what you need again.',
          });
          return { ...setup, recipe: defaultRecipe, masks: [] };
        },
      ],
      broken,
      `The setup “${row.name}”`,
    );
  });
}

/** Refused files of a watched folder that are told at most; the latest. */
const MOST_REFUSED = 20;

async function watchedOf(database: Reader, setupIds: number[]): Promise<Map<number, Setup['watched']>> {
  const found = new Map<number, Setup['watched']>();
  if (!setupIds.length) return found;
  const rows = await database
    .select()
    .from(watchedFiles)
    .where(inArray(watchedFiles.setupId, setupIds))
    .orderBy(desc(watchedFiles.id));
  for (const { setupId, name, problem } of rows) {
    const one = found.get(setupId) ?? { taken: 0, refused: [] };
    found.set(setupId, one);
    if (!problem) one.taken++;
    else if (one.refused.length < MOST_REFUSED) one.refused.push({ name, ...problem });
  }
  return found;
}

/** A recipe of an earlier version lacks settings that came later. */
export function filledSetup(row: typeof setups.$inferSelect): Omit<Unread<Setup>, 'watched'> {
  return { ...row, recipe: { ...defaultRecipe, ...row.recipe } };
}
