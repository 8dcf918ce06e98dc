import { randomUUID } from 'node:crypto';
import { mkdir, open, rename, rm } from 'node:fs/promises';
import { dirname } from 'node:path';

/**
 * Writes a file so that it appears whole or not at all: under a temporary name on the same disk, synced, renamed. A
 * broken-off run leaves the old file or the new one, never half of one.
 * @param mode who may read and write it, less the account's usual mask.
 */
export async function writeWhole(
  target: string,
  content: Uint8Array,
  temporary = `${target}.${randomUUID()}.part`,
  mode = 0o666,
): Promise<void> {
  await mkdir(dirname(target), { recursive: true });
  try {
    const file = await open(temporary, 'wx', mode);
    try {
      await file.writeFile(content);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(temporary, target);
  } catch (error) {
    await rm(temporary, { force: true });
    throw error;
  }
}
