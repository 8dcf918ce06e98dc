import { noSceneFacts } from '../../../core/place/index.ts';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '../../../contract/index.ts';
import { ballIn, demoBackgrounds, demoFrames, demoShot } from '../../../core/studio/index.ts';
import type { Transaction } from '../../database/connect.ts';
import { backgrounds, frames, setups, shoots } from '../../database/schema.ts';
import { defined, ready, type Hands, type Kept } from '../../jobs/definition.ts';
import type { Rendered } from '../../standIn/renderTask.ts';
import { addFrame } from '../gather/addFrame.ts';
import { finishBackground, finishFrame, takenAt, truthFile } from './sample.ts';

const payloadSchema = z.object({
  what: z.enum(['frame', 'background']),
  name: z.string(),
  setupId: id.optional(),
  height: z.number(),
  extent: z.enum(['pictures', 'finished']),
  cutBatchId: id,
});
type Payload = z.infer<typeof payloadSchema>;

/** A frame or a background of the sample shoot. */
export const samplePictureJob = defined({
  lane: 'batch',
  payload: payloadSchema,
  prepare: (hands, { shootId }, payload) => {
    const { name, height, setupId } = payload;
    const frame = demoFrames.find((one) => one.name === name);
    if (shootId === null || (payload.what === 'frame' && !(frame && setupId))) return Promise.resolve(undefined);
    if (!frame || !setupId)
      return Promise.resolve(
        ready<'background'>({
          task: 'background',
          input: { name, height },
          files: ({ file }) => [file],
          keep: async (tx, picture) => keepBackground(tx, hands, { ...payload, shootId }, picture),
        }),
      );
    return Promise.resolve(
      ready<'shot'>({
        task: 'shot',
        input: { ...demoShot(frame, height), takenAt: takenAt(name), truth: truthFile(hands.store.at.folder, name) },
        files: ({ file }) => [file],
        keep: async (tx, picture) => keepFrame(tx, hands, { ...payload, setupId, shootId, who: frame.who }, picture),
      }),
    );
  },
});

/**
 * Pictures of the sample that end at once would not see each other: nobody would be placed on a background that comes
 * just then.
 */
async function oneAfterAnother(tx: Transaction, shootId: number): Promise<void> {
  await tx.select({ id: shoots.id }).from(shoots).where(eq(shoots.id, shootId)).for('update');
}

async function keepBackground(
  tx: Transaction,
  { events }: Hands,
  { name, extent, shootId }: Payload & { shootId: number },
  { file, width, height }: Rendered,
): Promise<Kept> {
  await oneAfterAnother(tx, shootId);
  const painted = demoBackgrounds.find((one) => one.name === name);
  const title = painted?.title ?? name;
  const [there] = await tx.select({ id: backgrounds.id }).from(backgrounds).where(eq(backgrounds.file, file));
  const known = painted && {
    tags: painted.tags,
    scene: { ...noSceneFacts, ...painted.facts, ball: ballIn(painted.lights) },
  };
  const backgroundId =
    there?.id ?? (await tx.insert(backgrounds).values({ name: title, file, width, height, ...known }))[0].insertId;
  events.send({ type: 'backgrounds' });
  if (extent !== 'finished') return {};
  await finishBackground(tx, shootId, backgroundId, name);
  const all = await tx
    .select({ id: frames.id })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(eq(setups.shootId, shootId));
  return { tells: { frames: all.map((frame) => frame.id) } };
}

async function keepFrame(
  tx: Transaction,
  hands: Hands,
  { name, setupId, shootId, who, extent, cutBatchId }: Payload & { setupId: number; shootId: number; who: string },
  picture: Rendered,
): Promise<Kept> {
  await oneAfterAnother(tx, shootId);
  const frameId = await addFrame(tx, hands.queue, shootId, {
    setupId,
    name: `${name}.jpg`,
    subject: who,
    ...picture,
    takenAt: takenAt(name).replace(':', '-').replace(':', '-').replace(' ', 'T'),
  });
  if (extent === 'finished') await finishFrame(tx, hands, { id: frameId, setupId, shootId, name, who }, cutBatchId);
  return {
    tells: { frames: [frameId], orders: [frameId], ...(extent === 'finished' ? { batches: [cutBatchId] } : {}) },
  };
}
