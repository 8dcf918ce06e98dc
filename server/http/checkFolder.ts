import { readdir } from 'node:fs/promises';
import { isAbsolute } from 'node:path';
import { Refusal } from './answers.ts';

/** @param such what it may be, in words. @throws Refusal unless it is a folder of this machine that can be read. */
export async function checkFolder(path: string, such: string): Promise<void> {
  const sound = isAbsolute(path) && (await readdir(path).catch(() => undefined));
  if (!sound)
    throw new Refusal(400, {
      reason: `“${path}” is no folder of this machine that can be read`,
      remedy: `Give the whole path of a folder that is there, ${such}.`,
    });
}
