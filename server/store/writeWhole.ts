import { randomUUID } from 'node:crypto';
import { mkdir, open, rename, rm } from 'node:fs/promises';
import { dirname } from 'node:path';

/**
 * Writes a file so that it appears whole or not at all: under a temporary name on the same disk, synced, renamed. A
 * broken-off run leaves the old file or the new one, never half of one.
 */
export async function writeWhole(target: string, content: Uint8Array, temporary = `${target}.${randomUUID()}.part`): Promise<void> {
  await mkdir(dirname(target), { recursive: true });
  try {
    const file = await open(temporary, 'wx');
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
