import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync, readFileSync } from 'node:fs';
import { mkdir, open, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import { PictureError } from '../pictures/decode.ts';
import { writeWhole } from './writeWhole.ts';

/** Folders elsewhere, as on another disk, that a store has moved files to. */

const placesSchema = z.object({ id: z.string().regex(/^[0-9a-f-]{36}$/), folders: z.array(z.string()) });
type Places = z.infer<typeof placesSchema>;
const LIST = 'archives.json';

/** A folder that was named, and the one of this store’s own in it: stores of two machines may share a disk. */
export interface Place {
  folder: string;
  root: string;
}

const rootIn = (folder: string, id: string): string => join(folder, `silent-lawn-archive-${id}`);

function read(home: string): Places | undefined {
  const file = join(home, LIST);
  return existsSync(file) ? placesSchema.parse(JSON.parse(readFileSync(file, 'utf8'))) : undefined;
}

/** The folders of the store at `home`, the latest first. */
export function placesOf(home: string): Place[] {
  const places = read(home);
  return (places?.folders ?? []).map((folder) => ({ folder, root: rootIn(folder, places?.id ?? '') }));
}

/**
 * A folder as one of the store’s, which from now on looks there as well. It has to be there: a disk that is not
 * connected would be made a folder of this one.
 * @returns its root, which is there. @throws PictureError if nothing can be written there.
 */
export async function enrol(home: string, folder: string): Promise<string> {
  const { id, folders } = read(home) ?? { id: randomUUID(), folders: [] };
  const root = rootIn(folder, id);
  await mkdir(root).catch(({ code = 'no reason given' }: NodeJS.ErrnoException) => {
    if (code === 'EEXIST') return;
    throw new PictureError(
      code === 'ENOENT' ? `the folder “${folder}” is not there` : `nothing can be written to “${folder}”: ${code}`,
      'Make the folder, or connect its disk, then try again.',
    );
  });
  if (!folders.includes(folder)) {
    const list = { id, folders: [folder, ...folders] };
    await writeWhole(join(home, LIST), Buffer.from(`${JSON.stringify(list, null, 1)}\n`));
  }
  return root;
}

/**
 * Copies a stored file, whole or not at all, and looks whether it arrived as what it is.
 * @throws PictureError if it cannot be written there, or is not what its name says.
 */
export async function copyStored(from: string, to: string, hash: string): Promise<void> {
  const part = `${to}.${randomUUID()}.part`;
  try {
    await mkdir(dirname(to), { recursive: true });
    await pipeline(createReadStream(from), createWriteStream(part, { flags: 'wx', flush: true }));
    const digest = createHash('sha256');
    await pipeline(createReadStream(part), digest);
    if (digest.digest('hex') !== hash)
      throw new PictureError(
        `“${from}” is damaged: it is not what its name says`,
        'Bring the picture in again; it was left where it is.',
      );
    await rename(part, to);
    // The name itself has to be on the disk before the other copy goes.
    const folder = await open(dirname(to), 'r');
    await folder.sync().finally(() => folder.close());
  } catch (error) {
    await rm(part, { force: true });
    if (error instanceof PictureError) throw error;
    const { code = 'no reason given' } = error as NodeJS.ErrnoException;
    const why = code === 'ENOSPC' ? 'the disk is full' : `the system says ${code}`;
    throw new PictureError(`“${to}” cannot be written: ${why}`, 'Choose another folder, or make room, then try again.');
  }
}
