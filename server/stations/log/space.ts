import { stat } from 'node:fs/promises';
import { eq, inArray, sql } from 'drizzle-orm';
import type { SpaceTaken } from '../../../contract/index.ts';
import { cuts, deliveries, deliveryFiles, frames, notes, setups, testPictures, checks } from '../../database/schema.ts';
import type { Context } from '../../http/context.ts';

/** What a shoot takes on the disk, by what it is for; a file that serves two counts with the first. */
export async function spaceOf({ database, store }: Context, shootId: number): Promise<SpaceTaken[]> {
  const ofSetups = sql`${frames.setupId} in (select ${setups.id} from ${setups} where ${setups.shootId} = ${shootId})`;
  const photographs = await database.select({ file: frames.file, raw: frames.raw }).from(frames).where(ofSetups);
  const made = await database
    .select({ file: cuts.file })
    .from(cuts)
    .innerJoin(frames, eq(frames.id, cuts.frameId))
    .where(ofSetups);
  const tested = await database
    .select({ file: testPictures.file })
    .from(testPictures)
    .innerJoin(checks, eq(checks.id, testPictures.checkId))
    .innerJoin(setups, eq(setups.id, checks.setupId))
    .where(eq(setups.shootId, shootId));
  const written = await database.select({ file: notes.file }).from(notes).where(eq(notes.shootId, shootId));
  const handed = await database
    .select({ file: deliveryFiles.file })
    .from(deliveryFiles)
    .where(
      inArray(
        deliveryFiles.deliveryId,
        database.select({ id: deliveries.id }).from(deliveries).where(eq(deliveries.shootId, shootId)),
      ),
    );
  const counted = new Set<string>();
  const sum = async (what: SpaceTaken['what'], files: readonly (string | null)[]): Promise<SpaceTaken> => {
    let [count, bytes] = [0, 0];
    for (const file of new Set(files)) {
      if (!file || counted.has(file) || !(await store.has(file))) continue;
      counted.add(file);
      count++;
      bytes += (await stat(await store.need(file, 'this file'))).size;
    }
    return { what, files: count, bytes };
  };
  return [
    await sum(
      'photographs',
      photographs.flatMap(({ file, raw }) => [file, raw]),
    ),
    await sum(
      'cuts',
      made.map(({ file }) => file),
    ),
    await sum(
      'test frames and notes',
      [...tested, ...written].map(({ file }) => file),
    ),
    await sum(
      'hand-overs',
      handed.map(({ file }) => file),
    ),
  ];
}
