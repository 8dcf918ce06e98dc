import { and, eq, inArray, like, or } from 'drizzle-orm';
import type { Database } from '../database/connect.ts';
import type { LibraryEntry } from '../../contract/index.ts';
import {
  backgrounds,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  jobs,
  libraryItems,
  luts,
  notes,
  rehearsals,
  testPictures,
} from '../database/schema.ts';
import type { Store } from './store.ts';

/** Deletes a stored file that nothing refers to any more. */
export function removeUnused(database: Database, store: Store, file: string): Promise<void> {
  return store.exclusive(async () => {
    if ((await unused(database, [file])).length) await store.remove(file);
  });
}

/** Those of the given files that no row names. */
export async function unused(database: Database, files: readonly string[]): Promise<string[]> {
  if (!files.length) return [];
  const named = await Promise.all([
    ...[frames, cuts, deliveryFiles, backgrounds, luts, notes, testPictures].map((table) =>
      database.selectDistinct({ file: table.file }).from(table).where(inArray(table.file, files)),
    ),
    database.selectDistinct({ file: frames.raw }).from(frames).where(inArray(frames.raw, files)),
    database.selectDistinct({ file: cuts.plate }).from(cuts).where(inArray(cuts.plate, files)),
    ...[frames, cuts].map((table) =>
      database
        .select({ guidance: table.guidance })
        .from(table)
        .where(or(like(table.guidance, '%"path"%'), like(table.guidance, '%"matte"%')))
        .then((rows) =>
          rows.flatMap(({ guidance }) => [
            ...guidance.touches.map(({ path }) => ({ file: path })),
            ...(guidance.matte ? [{ file: guidance.matte.file }] : []),
          ]),
        ),
    ),
    database
      .select({ pictures: rehearsals.pictures })
      .from(rehearsals)
      .then((rows) => rows.flatMap(({ pictures }) => pictures)),
  ]);
  const waiting = await database
    .select({ payload: jobs.payload })
    .from(jobs)
    .where(and(eq(jobs.kind, 'import'), inArray(jobs.state, ['queued', 'running'])));
  const bundles = waiting.map(({ payload }) => (payload as { bundle: string }).bundle);
  const profiles = [
    ...(await database.select({ item: libraryItems.item }).from(libraryItems)).map(({ item }) => item),
    ...(await database.select({ settings: deliveries.settings }).from(deliveries))
      .flatMap(({ settings }) => settings.presets)
      .map((entry) => ({ kind: 'preset' as const, entry })),
  ].flatMap(profileOf);
  const used = new Set([...named.flat().map(({ file }) => file), ...profiles, ...bundles]);
  return files.filter((file) => !used.has(file));
}

/** The profile's file that an entry of the library names. */
function profileOf(item: LibraryEntry): string[] {
  if (item.kind === 'profile') return [item.entry.file];
  if (item.kind !== 'preset' || item.entry.kind !== 'print' || typeof item.entry.profile === 'string') return [];
  return [item.entry.profile.file];
}
