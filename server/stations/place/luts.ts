import { asc, eq } from 'drizzle-orm';
import type { Request } from 'express';
import type { Lut, LutResult } from '../../../contract/index.ts';
import { readCube } from '../../../core/place/index.ts';
import type { Database } from '../../database/connect.ts';
import { luts } from '../../database/schema.ts';
import type { Context } from '../../http/context.ts';
import { readFile } from 'node:fs/promises';

/** Look-up tables, one library for all shoots. A table of 129 places to a side is 70 MB of text at most. */
const MOST_BYTES = 80_000_000;

export function readLuts(database: Database): Promise<Lut[]> {
  return database.select({ id: luts.id, name: luts.name, size: luts.size }).from(luts).orderBy(asc(luts.name));
}

/** Takes the request's body as a `.cube` file. */
export async function addLut({ database, store }: Context, name: string, request: Request): Promise<LutResult> {
  const upload = await store.receive(request, MOST_BYTES);
  if ('tooLarge' in upload)
    return {
      outcome: 'refused',
      name,
      reason: `the file is larger than ${MOST_BYTES / 1e6} MB`,
      remedy: 'Export it with fewer places to a side, such as 33.',
    };
  try {
    const read = readCube(await readFile(upload.temporary, 'utf8'));
    if (!read.ok) return { outcome: 'refused', name, reason: read.reason, remedy: read.remedy };
    const { title, size } = read.cube;
    return await store.exclusive(async () => {
      const [there] = await database.select().from(luts).where(eq(luts.file, upload.hash));
      if (!there || !(await store.has(upload.hash))) await store.adopt(upload.temporary, upload.hash);
      if (there) return { outcome: 'stored', lut: { id: there.id, name: there.name, size } };
      const called = (title || name.replace(/\.cube$/i, '')).slice(0, 255);
      const [{ insertId }] = await database.insert(luts).values({ name: called, file: upload.hash, size });
      return { outcome: 'stored', lut: { id: insertId, name: called, size } };
    });
  } finally {
    await store.discard(upload.temporary);
  }
}
