import { and, asc, eq, sql } from 'drizzle-orm';
import type { CropChange, Delivery, DeliverySettings, Frame } from '../../../contract/index.ts';
import { plannedFiles, type Candidate, type Planned } from '../../../core/handOver/index.ts';
import type { Transaction } from '../../database/connect.ts';
import {
  backgrounds,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  placements,
  setups,
  shoots,
  subjects,
} from '../../database/schema.ts';
import { found, notFound, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startBatch } from '../../jobs/startBatch.ts';
import { peopleOn } from '../gather/consent.ts';

/** Rows to one INSERT. */
const AT_ONCE = 1000;

/** Has the files of a shoot made. @param repeats the hand-over of which only what changed is made anew. */
export async function startDelivery(
  context: Context,
  shootId: number,
  settings: DeliverySettings,
  repeats: number | null = null,
): Promise<Delivery> {
  const { database, queue, runner, news } = context;
  const deliveryId = await database.transaction(async (tx) => {
    const [shoot] = await tx.select().from(shoots).where(eq(shoots.id, shootId));
    if (!shoot) throw notFound('shoot');
    const candidates = await candidatesOf(tx, shootId);
    if (!candidates.length)
      throw new Refusal(409, {
        reason: 'no frame of this shoot has been extracted yet',
        remedy: 'Extract the frames first, then hand them over.',
      });
    const { files, notPlaced, keptBack } = plannedFiles(shoot, settings, candidates);
    if (!files.length) throw nothingLeft(notPlaced, keptBack);
    let made = 0;
    const ids = [...new Set(files.map(({ frameId }) => frameId))];
    await startBatch(tx, queue, shootId, 'deliver', ids, async (batchId) => {
      const row = { shootId, batchId, settings, keptBack, notPlaced, repeats };
      [{ insertId: made }] = await tx.insert(deliveries).values(row);
      const rows = files.map((file) => ({ deliveryId: made, ...file }));
      for (let at = 0; at < rows.length; at += AT_ONCE)
        await tx.insert(deliveryFiles).values(rows.slice(at, at + AT_ONCE));
      return { deliveryId: made };
    });
    return made;
  });
  runner.wake();
  return found(await news.tellOne(shootId, 'deliveries', deliveryId), 'hand-over');
}

function nothingLeft(notPlaced: Planned['notPlaced'], keptBack: Planned['keptBack']): Refusal {
  if (notPlaced.length)
    return new Refusal(409, {
      reason: 'nobody of those chosen stands on a background, which all of the presets need',
      remedy: 'Choose backgrounds at Place, or hand over cutouts.',
    });
  if (keptBack.length)
    return new Refusal(409, {
      reason: 'everybody of those chosen said no, or allowed only prints',
      remedy: 'Look at the roster at Gather, or choose other presets.',
    });
  return new Refusal(409, {
    reason: 'no extracted frame is among those chosen',
    remedy: 'Choose more of them, or look at the picks at Gather.',
  });
}

/** The extracted frames of a shoot, in the order they were taken, with who is on them; plates are none. */
async function candidatesOf(tx: Transaction, shootId: number): Promise<Candidate[]> {
  const rows = await tx
    .select({ frame: frames, setup: setups, subject: subjects, background: backgrounds })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .innerJoin(cuts, eq(cuts.frameId, frames.id))
    .leftJoin(subjects, and(eq(subjects.shootId, setups.shootId), sql`binary ${subjects.name} = ${frames.subject}`))
    .leftJoin(placements, eq(placements.frameId, frames.id))
    .leftJoin(backgrounds, eq(backgrounds.id, placements.backgroundId))
    .where(and(eq(setups.shootId, shootId), eq(frames.plate, false)))
    .orderBy(asc(frames.takenAt), asc(frames.name), asc(frames.id));
  const people = await peopleOn(tx, shootId);
  return rows.map(({ frame, setup, subject, background }) => ({
    id: frame.id,
    frame: frame.name,
    setup: { id: setup.id, name: setup.name },
    pick: frame.pick,
    subject: frame.subject,
    number: subject?.number ?? '',
    group: subject?.group ?? '',
    background: background && { id: background.id, name: background.name },
    people: people.get(frame.id) ?? [],
  }));
}

/** The same as an earlier hand-over, as things stand now: what was made from just the same is taken from it. */
export async function repeatDelivery(context: Context, id: number): Promise<Delivery> {
  const [row] = await context.database.select().from(deliveries).where(eq(deliveries.id, id));
  const { shootId, settings } = found(row, 'hand-over');
  return startDelivery(context, shootId, settings, id);
}

/** Takes a hand-over off the list, with those of its files that nothing else needs. */
export async function removeDelivery({ database, news, queue, runner }: Context, id: number): Promise<void> {
  const [row] = await database.select().from(deliveries).where(eq(deliveries.id, id));
  const { shootId, batchId } = found(row, 'hand-over');
  runner.abort(await queue.cancel({ batchId }));
  // Its files go with the daily sweep.
  await database.delete(deliveries).where(eq(deliveries.id, id));
  await news.tell(shootId, { deliveries: [id], batches: [batchId] });
}

/** Moves the crop of a frame for one shape, or takes it back to the proposal. */
export async function cropFrame(
  { database, news }: Context,
  frameId: number,
  { shape, crop }: CropChange,
): Promise<Frame> {
  const shootId = await database.transaction(async (tx) => {
    const [row] = await tx
      .select({ crops: placements.crops, shootId: setups.shootId })
      .from(placements)
      .innerJoin(frames, eq(frames.id, placements.frameId))
      .innerJoin(setups, eq(setups.id, frames.setupId))
      .where(eq(placements.frameId, frameId))
      .for('update');
    if (!row)
      throw new Refusal(409, {
        reason: 'this frame stands on no background, so there is no picture to crop',
        remedy: 'Choose its background at Place.',
      });
    const { [shape]: _, ...others } = row.crops;
    await tx
      .update(placements)
      .set({ crops: crop ? { ...others, [shape]: crop } : others })
      .where(eq(placements.frameId, frameId));
    return row.shootId;
  });
  return found(await news.tellOne(shootId, 'frames', frameId), 'frame');
}
