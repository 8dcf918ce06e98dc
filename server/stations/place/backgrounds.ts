import type { Request } from 'express';
import { and, eq, isNotNull, lt, notExists, notInArray } from 'drizzle-orm';
import type { Background, BackgroundChange, BackgroundResult, PaintRequest } from '../../../contract/index.ts';
import { settingsInWords } from '../../../core/gather/camera.ts';
import { noSceneFacts, sceneRanges, type SceneFacts, type Size } from '../../../core/place/index.ts';
import type { Database } from '../../database/connect.ts';
import { backgrounds, placements, styles } from '../../database/schema.ts';
import { found, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { mergedOrRefused } from '../../http/mergedOrRefused.ts';
import { PictureError, type PictureFacts } from '../../pictures/decode.ts';
import { receivePicture } from '../../http/receivePicture.ts';
import { readBackgrounds } from './readBackgrounds.ts';

/** The library of backgrounds, one for all shoots. */

/** Takes the request's body as a background. */
export async function addBackground(context: Context, name: string, request: Request): Promise<BackgroundResult> {
  const { store } = context;
  const by = (kind: 'heic' | 'svg') => async (path: string) => {
    const made = await context.pools.run('asked', kind, { path });
    if (!made.ok) throw new PictureError(made.reason, made.remedy);
    return made.output;
  };
  const received = await receivePicture(request, store, 'background', { heic: by('heic'), svg: by('svg') });
  if ('reason' in received) return { outcome: 'refused', name, ...received };
  return store
    .exclusive(async () => {
      if (!(await store.has(received.hash))) await received.keep();
      const { hash, facts } = received;
      const kept = await keepBackground(context, name.replace(/\.[^.]*$/, '') || name, hash, facts, written(facts));
      return { ...kept, name };
    })
    .finally(() => received.drop());
}

/** What its camera wrote of a scene. */
function written({ camera, focal35 }: Pick<PictureFacts, 'camera' | 'focal35'>): SceneFacts {
  const { min, max } = sceneRanges.focal;
  const focal = focal35 && focal35 >= min && focal35 <= max ? focal35 : null;
  return { ...noSceneFacts, focal, by: focal ? { focal: 'file' } : {}, notes: settingsInWords(camera) };
}

/** Paints a background of one tone or two. */
export async function paintBackground(context: Context, { name, ...wanted }: PaintRequest): Promise<BackgroundResult> {
  const made = await context.pools.run('asked', 'painted', wanted);
  if (!made.ok) throw new Refusal(409, made);
  return context.store.exclusive(() => keepBackground(context, name, made.output.file, wanted));
}

/** Writes the row of a file that is in the store; one that was removed comes back. */
async function keepBackground(
  { database, events }: Context,
  name: string,
  file: string,
  { width, height }: Size,
  scene: SceneFacts = noSceneFacts,
): Promise<BackgroundResult> {
  const [there] = await database.select().from(backgrounds).where(eq(backgrounds.file, file));
  if (there && !there.removedAt) return { outcome: 'duplicate', name, of: there.name };
  if (there) await database.update(backgrounds).set({ removedAt: null }).where(eq(backgrounds.id, there.id));
  const id = there?.id ?? (await database.insert(backgrounds).values({ name, file, width, height, scene }))[0].insertId;
  events.send({ type: 'backgrounds' });
  return { outcome: 'stored', name, background: await readBackground(database, id) };
}

/** Changes what is known of a background. @param seen what the change was made on. */
export async function changeBackground(
  { database, events }: Context,
  id: number,
  seen: Partial<BackgroundChange>,
  to: BackgroundChange,
): Promise<Background> {
  await database.transaction(async (tx) => {
    const row = found(
      (await tx.select().from(backgrounds).where(eq(backgrounds.id, id)).for('update'))[0],
      'background',
    );
    const now: Required<BackgroundChange> = {
      name: row.name,
      tags: row.tags,
      scene: row.scene,
      removed: row.removedAt !== null,
    };
    const { removed, ...next } = mergedOrRefused<BackgroundChange>(now, seen, to, nameOf);
    const removedAt = removed ? (row.removedAt ?? new Date()) : null;
    await tx
      .update(backgrounds)
      .set({ ...next, removedAt })
      .where(eq(backgrounds.id, id));
  });
  events.send({ type: 'backgrounds' });
  return readBackground(database, id);
}

async function readBackground(database: Database, id: number): Promise<Background> {
  return found((await readBackgrounds(database, id))[0], 'background');
}

/** What a field is called on the page. */
function nameOf([field, fact]: string[]): string {
  if (field === 'scene' && fact in sceneRanges) return `“${sceneRanges[fact as keyof typeof sceneRanges].label}”`;
  return { name: 'The name', tags: 'The list of words' }[field] ?? `“${field}”`;
}

/** For how long what was removed can be brought back, ms. */
const KEPT = 24 * 3600 * 1000;

/** Deletes for good what was removed long enough ago, nobody stands on and no style lays over; files go with a sweep. */
export async function purgeBackgrounds({ database }: Pick<Context, 'database'>): Promise<void> {
  const layered = (await database.select({ extras: styles.extras }).from(styles)).flatMap(({ extras }) =>
    extras.layers.map(({ backgroundId }) => backgroundId),
  );
  await database
    .delete(backgrounds)
    .where(
      and(
        isNotNull(backgrounds.removedAt),
        notInArray(backgrounds.id, [...layered, 0]),
        lt(backgrounds.removedAt, new Date(Date.now() - KEPT)),
        notExists(
          database
            .select({ id: placements.frameId })
            .from(placements)
            .where(eq(placements.backgroundId, backgrounds.id)),
        ),
      ),
    );
}
