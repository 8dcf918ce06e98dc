import type { Developing } from '../../../core/gather/develop.ts';
import type { MadePicture } from '../../http/receivePicture.ts';
import { encodePicture } from '../../pictures/encode.ts';
import { developRaw } from '../../pictures/raw.ts';
import type { Bench } from '../../threads/bench.ts';

export interface DevelopInput {
  /** A raw file on its way in by its path, or one in the store by its hash. */
  raw: { path: string } | { hash: string };
  settings: Developing;
}
export type DevelopOutput = MadePicture & { bytes: number };

/** Develops a camera's raw file and keeps the picture. @throws PictureError if it cannot be read. */
export async function develop({ raw, settings }: DevelopInput, { store }: Bench): Promise<DevelopOutput> {
  const path = 'path' in raw ? raw.path : await store.need(raw.hash, 'this raw file');
  const { picture, camera, takenAt } = await developRaw(path, settings);
  const content = await encodePicture(picture, 'tiff16');
  const { width, height } = picture;
  return { file: await store.put(content), bytes: content.length, width, height, depth: 16, camera, takenAt };
}
