import { and, asc, eq, inArray } from 'drizzle-orm';
import { setupSchema, type Setup } from '../../../contract/index.ts';
import { defaultRecipe } from '../../../core/cut/index.ts';
import type { Database } from '../../database/connect.ts';
import { setups } from '../../database/schema.ts';
import { soundOr, type OnBroken, type Unread } from '../../database/sound.ts';

const soundSetup = setupSchema.omit({ revision: true });

/** Setups of a shoot, or some setups, in the order they were made. */
export async function readSetups(
  database: Database,
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
  return rows.flatMap((row) => {
    const setup = filledSetup(row);
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

/** A recipe of an earlier version lacks settings that came later. */
export function filledSetup(row: typeof setups.$inferSelect): Unread<Setup> {
  return { ...row, recipe: { ...defaultRecipe, ...row.recipe } };
}
