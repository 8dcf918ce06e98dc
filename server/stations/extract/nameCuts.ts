import { eq } from 'drizzle-orm';
import { defaultRecipe, fingerprintOf } from '../../../core/cut/index.ts';
import type { Database } from '../../database/connect.ts';
import { cuts } from '../../database/schema.ts';

/** Gives cuts of an earlier version, which have no fingerprint, the one of what they were made with. */
export async function nameCuts(database: Database): Promise<void> {
  for (const { frameId, recipe, guidance, plate } of await database
    .select()
    .from(cuts)
    .where(eq(cuts.fingerprint, ''))) {
    const fingerprint = fingerprintOf({ recipe: { ...defaultRecipe, ...recipe }, guidance, plate });
    await database.update(cuts).set({ fingerprint }).where(eq(cuts.frameId, frameId));
  }
}
