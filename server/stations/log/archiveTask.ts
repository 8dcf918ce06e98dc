import type { NeededFile } from '../../store/store.ts';
import type { Bench } from '../../threads/bench.ts';

/** Files that move to a folder elsewhere, or home with null. */
export interface ArchiveInput {
  folder: string | null;
  files: { hash: string; what: NeededFile }[];
}
export type ArchiveOutput = { moved: number };

/**
 * Moves files one after the other, each there whole before it goes where it was, so that a broken-off run goes on.
 * What is gone altogether stands in nobody’s way; the station says it where it is needed.
 * @throws PictureError that names the first file that cannot be written.
 */
export async function archive({ folder, files }: ArchiveInput, { store, tell }: Bench): Promise<ArchiveOutput> {
  let moved = 0;
  for (const [n, { hash, what }] of files.entries()) {
    if (await store.has(hash)) {
      await store.move(hash, folder, what);
      moved++;
    }
    tell((n + 1) / files.length);
  }
  return { moved };
}
