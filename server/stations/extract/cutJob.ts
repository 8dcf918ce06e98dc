import { eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { qualitySchema } from '../../../contract/index.ts';
import { EXTRACTION, fingerprintOf } from '../../../core/cut/index.ts';
import { cuts, frames } from '../../database/schema.ts';
import { flawOf } from '../../database/sound.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { ordersOf } from './readOrders.ts';

/** The cut of one frame, by the order that holds when its turn comes. */
export const cutJob = defined({
  lane: 'batch',
  payload: z.object({}),
  async prepare({ database }, { frameId }) {
    if (frameId === null) return undefined;
    const [frame] = await database.select().from(frames).where(eq(frames.id, frameId));
    const order = (await ordersOf(database, { frameIds: [frameId] })).get(frameId);
    if (!frame || order === undefined) return undefined;
    if (order === null)
      return {
        reason: 'it shows the empty screen and is the plate of its setup',
        remedy: 'Choose another plate, or none, under Masks if somebody is on it.',
      };
    return ready<'cut'>({
      task: 'cut',
      input: { photograph: frame.file, order },
      files: ({ file }) => [file],
      flaw: ({ quality }) => {
        const flaw = flawOf(qualitySchema, quality);
        return flaw === undefined
          ? undefined
          : {
              reason: `a figure of its cut is no number (${flaw})`,
              remedy: 'Mask what is not screen and not person and extract it again; the other frames are not touched.',
            };
      },
      keep: async (tx, { file, depth, quality, faces, hands }) => {
        const [before] = await tx.select({ file: cuts.file }).from(cuts).where(eq(cuts.frameId, frameId));
        const values = {
          file,
          depth,
          quality,
          faces,
          hands,
          ...order,
          fingerprint: fingerprintOf(order),
          extraction: EXTRACTION,
        };
        await tx
          .insert(cuts)
          .values({ frameId, ...values })
          .onDuplicateKeyUpdate({ set: { ...values, createdAt: sql`current_timestamp(3)` as never } });
        return { superfluous: before && before.file !== file ? [before.file] : [] };
      },
    });
  },
});
