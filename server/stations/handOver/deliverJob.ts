import { and, eq } from 'drizzle-orm';
import { z } from 'zod';
import { id, lookSchema } from '../../../contract/index.ts';
import { defaultRecipe } from '../../../core/cut/index.ts';
import { deliveredName } from '../../../core/handOver/index.ts';
import type { Transaction } from '../../database/connect.ts';
import {
  backgrounds,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  placements,
  setups,
  styles,
} from '../../database/schema.ts';
import { flawOf } from '../../database/sound.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { filedExtras } from '../place/extras.ts';
import { filedOthers } from '../place/filedOthers.ts';
import { knownLight } from '../place/knownLight.ts';
import { lookOf } from '../place/readStyles.ts';
import type { MadeFile } from './filesTask.ts';

/** The files of one frame for one hand-over. */
export const deliverJob = defined({
  lane: 'batch',
  payload: z.object({ deliveryId: id }),
  tells: (_job, { deliveryId }) => ({ deliveries: [deliveryId] }),
  async prepare({ database }, { frameId }, { deliveryId }) {
    const [delivery] = await database.select().from(deliveries).where(eq(deliveries.id, deliveryId));
    if (!delivery || frameId === null) return undefined;
    const [row] = await database
      .select({ frame: frames, cut: cuts, placement: placements, background: backgrounds, style: styles })
      .from(frames)
      .innerJoin(setups, eq(setups.id, frames.setupId))
      .leftJoin(cuts, eq(cuts.frameId, frames.id))
      .leftJoin(placements, eq(placements.frameId, frames.id))
      .leftJoin(backgrounds, eq(backgrounds.id, placements.backgroundId))
      .leftJoin(styles, and(eq(styles.shootId, setups.shootId), eq(styles.backgroundId, placements.backgroundId)))
      .where(eq(frames.id, frameId));
    if (!row) return undefined;
    const { frame, cut, placement, background, style } = row;
    if (!cut) return { reason: 'it has not been extracted yet', remedy: 'Extract it, then hand over again.' };
    const { settings } = delivery;
    const { guidance, plate, litBy } = cut;
    const look = lookOf(style?.look, placement?.look ?? {});
    const flaw = background && settings.finished !== 'none' ? flawOf(lookSchema, look) : undefined;
    if (flaw)
      return {
        reason: `the look of “${background?.name}” cannot be read (${flaw})`,
        remedy: 'Match person and background again at Place, then hand over again.',
      };
    // Who has no background yet has no finished picture; that is no failure.
    const placed =
      placement && background
        ? {
            background: background.file,
            others: await filedOthers(database, placement.others, background.scene),
            light: await knownLight(database, frame.setupId, background.scene),
            placement: { x: placement.x, y: placement.y, height: placement.height },
            look,
            extras: style ? await filedExtras(database, style.extras, frameId, background.name) : undefined,
          }
        : null;
    return ready<'files'>({
      task: 'files',
      input: {
        photograph: frame.file,
        order: { recipe: { ...defaultRecipe, ...cut.recipe }, guidance, plate, litBy },
        cut: { file: cut.file, depth: cut.depth === 16 ? 16 : 8 },
        cutout: settings.cutout === 'none' ? null : settings.cutout,
        finished:
          settings.finished === 'none' || !placed
            ? null
            : { format: settings.finished, quality: settings.quality, ...placed },
      },
      files: ({ files }) => files.map(({ file }) => file),
      keep: async (tx, { files }) => {
        await keepFiles(tx, deliveryId, frame, background?.name ?? '', files);
        return {};
      },
    });
  },
});

async function keepFiles(
  tx: Transaction,
  deliveryId: number,
  frame: { id: number; name: string },
  background: string,
  files: readonly MadeFile[],
): Promise<void> {
  // Names are given out one job at a time: frames may share a name and finish at the same moment.
  await tx.select().from(deliveries).where(eq(deliveries.id, deliveryId)).for('update');
  for (const { kind, extension, ...file } of files) {
    const taken = await tx
      .select({ name: deliveryFiles.name })
      .from(deliveryFiles)
      .where(eq(deliveryFiles.deliveryId, deliveryId));
    const name = deliveredName(frame.name, kind, extension, new Set(taken.map((row) => row.name)));
    const shown = kind === 'finished' ? background : '';
    await tx.insert(deliveryFiles).values({ deliveryId, frameId: frame.id, name, kind, ...file, background: shown });
  }
}
