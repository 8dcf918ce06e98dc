import type { MadePicture } from '../../http/receivePicture.ts';
import { readHeic } from '../../pictures/heic.ts';
import type { Bench } from '../../threads/bench.ts';

export interface HeicInput {
  /** A file on its way in. */
  path: string;
}
export type HeicOutput = MadePicture & { bytes: number };

/** Keeps a picture made of a HEIC file. @throws PictureError if it cannot be read. */
export async function takeHeic({ path }: HeicInput, { store }: Bench): Promise<HeicOutput> {
  const { content, facts } = await readHeic(path);
  return { ...facts, file: await store.put(content), bytes: content.length };
}
