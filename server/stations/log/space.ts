import { stat } from 'node:fs/promises';
import { eq, inArray, ne, sql } from 'drizzle-orm';
import type { Space, SpaceTaken } from '../../../contract/index.ts';
import type { Database } from '../../database/connect.ts';
import {
  backgrounds,
  checks,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  notes,
  setups,
  shoots,
  testPictures,
} from '../../database/schema.ts';
import { found } from '../../http/answers.ts';
import type { NeededFile, Store } from '../../store/store.ts';

/** The files of a shoot by what they are for, as `space.what` names it; a file that serves two is with the first. */
type Filed = Record<SpaceTaken['what'], string[]>;
/** What a file is called where it is missing. */
export const neededAs: Record<SpaceTaken['what'], NeededFile> = {
  photographs: 'this photograph',
  cuts: 'this cut',
  'test frames and notes': 'this test frame',
  'hand-overs': 'this file',
};

export async function filesOfShoot(database: Database, shootId: number): Promise<Filed> {
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
  const take = (rows: readonly { file: string | null }[]): string[] => {
    const own = [...new Set(rows.flatMap(({ file }) => file ?? []))].filter((file) => !counted.has(file));
    for (const file of own) counted.add(file);
    return own;
  };
  return {
    photographs: take(photographs.flatMap(({ file, raw }) => [{ file }, { file: raw }])),
    cuts: take(made),
    'test frames and notes': take([...tested, ...written]),
    'hand-overs': take(handed),
  };
}

/** The same without what another shoot or the library of backgrounds needs as well. */
export async function filesOfShootAlone(database: Database, shootId: number): Promise<Filed> {
  const others = await database.select({ id: shoots.id }).from(shoots).where(ne(shoots.id, shootId));
  const needed = new Set((await database.select({ file: backgrounds.file }).from(backgrounds)).map(({ file }) => file));
  for (const { id } of others)
    for (const files of Object.values(await filesOfShoot(database, id))) for (const file of files) needed.add(file);
  const own = Object.entries(await filesOfShoot(database, shootId));
  return Object.fromEntries(own.map(([what, files]) => [what, files.filter((file) => !needed.has(file))])) as Filed;
}

/** What a shoot takes on the disks, and where its pictures are. */
export async function spaceOf(
  { database, store }: { database: Database; store: Store },
  shootId: number,
): Promise<Space> {
  const [row] = await database.select({ archive: shoots.archive }).from(shoots).where(eq(shoots.id, shootId));
  const { archive } = found(row, 'shoot');
  const sum = async (what: SpaceTaken['what'], files: readonly string[]): Promise<SpaceTaken> => {
    let [count, bytes] = [0, 0];
    for (const file of files) {
      if (!(await store.has(file))) continue;
      count++;
      bytes += (await stat(await store.need(file, neededAs[what]))).size;
    }
    return { what, files: count, bytes };
  };
  const taken: SpaceTaken[] = [];
  for (const [what, files] of Object.entries(await filesOfShoot(database, shootId)))
    taken.push(await sum(what as SpaceTaken['what'], files));
  const place = (await store.archives()).find(({ folder }) => folder === archive);
  return { taken, archive: archive === null ? null : { folder: archive, there: place?.there ?? false } };
}
