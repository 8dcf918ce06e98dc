import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { copyFile, mkdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { PictureError } from '../../pictures/decode.ts';
import { writeWhole } from '../../store/writeWhole.ts';
import type { Bench } from '../../threads/bench.ts';

/** Files that go into a folder: by their hash in the store, or with their content. */
export interface CopyOutInput {
  folder: string;
  files: { name: string; hash: string; bytes: number; content: Uint8Array | null }[];
}
export type CopyOutOutput = { copied: number; there: number };

/**
 * Copies files into a folder, each whole or not at all; those that are there already with just that content stay, so
 * that a broken-off run goes on. Nothing is ever written over.
 * @throws PictureError that names the first file in the way, or says that the folder cannot be written.
 */
export async function copyOut({ folder, files }: CopyOutInput, { store, tell }: Bench): Promise<CopyOutOutput> {
  let copied = 0;
  let there = 0;
  for (const [n, { name, hash, bytes, content }] of files.entries()) {
    const target = join(folder, ...name.split('/'));
    const found = await stat(target).catch(() => undefined);
    if (found) {
      if (!found.isFile() || found.size !== bytes || (await hashOf(target)) !== hash)
        throw new PictureError(
          `“${target}” is there already and is another file`,
          'Move it away, or copy into another folder; nothing was written over.',
        );
      there++;
    } else {
      await put(target, content ?? (await store.need(hash, 'this file')));
      copied++;
    }
    tell((n + 1) / files.length);
  }
  return { copied, there };
}

async function put(target: string, from: Uint8Array | string): Promise<void> {
  try {
    if (typeof from !== 'string') return await writeWhole(target, from);
    await mkdir(dirname(target), { recursive: true });
    const part = `${target}.part`;
    try {
      await copyFile(from, part);
      await rename(part, target);
    } catch (error) {
      await rm(part, { force: true });
      throw error;
    }
  } catch (error) {
    const { code = 'no reason given' } = error as NodeJS.ErrnoException;
    const why = code === 'ENOSPC' ? 'the disk is full' : `the system says ${code}`;
    throw new PictureError(
      `“${target}” cannot be written: ${why}`,
      'Choose another folder, or make room, then copy again.',
    );
  }
}

async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}
