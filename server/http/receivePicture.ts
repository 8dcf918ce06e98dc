import { Readable } from 'node:stream';
import type { Problem } from '../../contract/index.ts';
import { checkWhole, inspectPicture, PictureError, type PictureFacts, type PictureUse } from '../pictures/decode.ts';
import { isHeic } from '../pictures/heic.ts';
import { isSvg } from '../pictures/svg.ts';
import { isCameraRaw } from '../pictures/rawFile.ts';
import type { Store } from '../store/store.ts';

/** Height of the small pictures in lists. */
export const THUMBNAIL_HEIGHT = 220;
/** 60 megapixels of uncompressed 16-bit RGBA are 480 MB; nothing larger can be a picture that we take. */
export const MOST_BYTES = 520_000_000;

/** A picture in the store, made from a camera's raw file. */
export type MadePicture = Omit<PictureFacts, 'format'> & { file: string };

interface Received {
  /** Where it lies until it is kept. */
  path: string;
  /** The camera's raw file that it was developed from, by its hash. */
  raw?: string;
  hash: string;
  bytes: number;
  facts: Omit<PictureFacts, 'format'>;
  /** Moves the file to its place in the store; within `store.exclusive`, together with its row. */
  keep(): Promise<void>;
  /** Throws the upload away, if it was not kept. */
  drop(): Promise<void>;
}

/**
 * Takes a request's body, another stream, or a file that has arrived beside the store as one picture file, checks that it decodes whole, and leaves it to the caller to keep it.
 *
 * @param make makes a picture of a camera's raw file, of a HEIC file, or of a drawing in SVG; without it those are refused.
 */
export async function receivePicture(
  source: Readable | { path: string },
  store: Store,
  use: PictureUse,
  make: Partial<Record<'raw' | 'heic' | 'svg', (path: string) => Promise<MadePicture>>> = {},
): Promise<Received | Problem> {
  const upload =
    source instanceof Readable ? await store.receive(source, MOST_BYTES) : await store.arrived(source.path);
  if ('tooLarge' in upload)
    return { reason: `the file is larger than ${MOST_BYTES / 1e6} MB`, remedy: 'Export it smaller or compressed.' };
  const { temporary, hash, bytes } = upload;
  // What arrived beside the store is there for another try; whoever took it forgets it.
  const drop = (): Promise<void> => (source instanceof Readable ? store.discard(temporary) : Promise.resolve());
  try {
    const shown = (await isHeic(temporary)) ? make.heic : (await isSvg(temporary)) ? make.svg : undefined;
    if (shown) {
      // What it shows is kept without loss; the file itself says nothing more.
      const { file, ...facts } = await shown(temporary);
      await drop();
      const path = await store.need(file, 'this photograph');
      return { path, hash: file, bytes, facts, keep: () => Promise.resolve(), drop: () => Promise.resolve() };
    }
    if (make.raw && (await isCameraRaw(temporary))) {
      const { file, ...facts } = await make.raw(temporary);
      const keep = (): Promise<void> => store.adopt(temporary, hash);
      return { path: temporary, raw: hash, hash: file, bytes, facts, keep, drop };
    }
    const facts = await inspectPicture(temporary, use);
    // A file already in the store has been read before; any other is read through once, so that a truncated one is
    // refused now and not at eleven at night in the middle of a batch.
    const small = (await store.has(hash)) ? undefined : await checkWhole(temporary, use, THUMBNAIL_HEIGHT);
    const keep = async (): Promise<void> => {
      await store.adopt(temporary, hash);
      if (small) await store.keepDerived(hash, 'thumbnails', small);
    };
    return { path: temporary, hash, bytes, facts, keep, drop };
  } catch (error) {
    await drop();
    if (error instanceof PictureError) return { reason: error.reason, remedy: error.remedy };
    throw error;
  }
}
