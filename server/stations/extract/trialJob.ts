import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { id, recipeSchema } from '../../../contract/index.ts';
import { frames } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { ordersOf } from './readOrders.ts';

/** What a recipe that is not kept yet would change on every frame of a setup. */
export const trialJob = defined({
  lane: 'batch',
  payload: z.object({ setupId: id, recipe: recipeSchema }),
  async prepare({ database }, _job, { setupId, recipe }) {
    const all = await database.select().from(frames).where(eq(frames.setupId, setupId));
    const meant = { frameIds: all.map((frame) => frame.id) };
    const [now, then] = [await ordersOf(database, meant), await ordersOf(database, meant, recipe)];
    return ready<'trial'>({
      task: 'trial',
      input: {
        frames: all.flatMap(({ id: frameId, file: photograph, width, height }) => {
          const [before, after] = [now.get(frameId), then.get(frameId)];
          return before && after ? [{ frameId, photograph, width, height, before, after }] : [];
        }),
      },
      files: () => [],
      keep: (_tx, compared) => Promise.resolve({ made: { compared } }),
    });
  },
});
