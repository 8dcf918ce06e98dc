import type { Request } from 'express';
import { readFile } from 'node:fs/promises';
import type { LibraryItem } from '../../../contract/index.ts';
import { stemOf } from '../../../core/handOver/index.ts';
import { libraryItems } from '../../database/schema.ts';
import { Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { PictureError } from '../../pictures/decode.ts';
import { LARGEST_PROFILE, readProfile } from '../../pictures/profiles.ts';

/** Takes the request’s body as a colour profile into the library; one that is there already stays as it is. */
export async function receiveProfile(
  { database, store }: Context,
  name: string,
  request: Request,
): Promise<LibraryItem> {
  const upload = await store.receive(request, LARGEST_PROFILE);
  if ('tooLarge' in upload)
    throw new Refusal(400, {
      reason: `“${name}” is larger than ${LARGEST_PROFILE >> 20} MB`,
      remedy: 'Give the profile alone, as the print service hands it out.',
    });
  try {
    const { name: said, inks } = await readProfile(await readFile(upload.temporary));
    return await store.exclusive(async () => {
      const all = await database.select().from(libraryItems);
      const there = all.find(({ item }) => item.kind === 'profile' && item.entry.file === upload.hash);
      if (!there || !(await store.has(upload.hash))) await store.adopt(upload.temporary, upload.hash);
      if (there) return { id: there.id, item: there.item };
      const entry = { file: upload.hash, name: (said || stemOf(name)).slice(0, 120), ...(inks ? { inks } : {}) };
      const item = { kind: 'profile' as const, entry };
      const [{ insertId }] = await database.insert(libraryItems).values({ item });
      return { id: insertId, item };
    });
  } catch (error) {
    if (error instanceof PictureError)
      throw new Refusal(400, { reason: `“${name}” cannot be taken: ${error.reason}`, remedy: error.remedy });
    throw error;
  } finally {
    await store.discard(upload.temporary);
  }
}
