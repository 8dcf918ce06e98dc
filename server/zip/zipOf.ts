import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { PassThrough, Transform, type Readable } from 'node:stream';
import yazl from 'yazl';
import type { Store } from '../store/store.ts';

/** One entry of a ZIP: a file of the store, or something small that is written for it. */
export type Entry = { name: string } & ({ stored: Stored } | { content: Buffer });
interface Stored {
  sha256: string;
  bytes: number;
}

/** A ZIP before it is read: how long it is, and a name for just these bytes. */
export interface Zip {
  bytes: number;
  tag: string;
  /** @param from the first byte that is wanted. */
  open: (from: number) => Readable;
}

/**
 * Entries as a ZIP, stored as they are: pictures do not shrink. It is the same to the byte each time, so that a download
 * that broke off goes on. Whoever destroys the stream, or pipes it into something that breaks off, closes every file.
 * @param made the time that all entries bear.
 */
export async function zipOf(entries: readonly Entry[], made: Date, store: Store): Promise<Zip> {
  const tag = createHash('sha256');
  for (const entry of entries)
    tag.update(`${entry.name}\0`).update('stored' in entry ? entry.stored.sha256 : entry.content);
  // Its size follows from names and sizes alone: nothing is opened.
  const bytes = await new Promise<number>((resolve) => {
    packed(entries, made, () => undefined).end(ending, (size = 0) => resolve(size));
  });
  return {
    bytes,
    tag: `"${tag.digest('hex').slice(0, 32)}"`,
    open: (from) => {
      const out = from > 0 ? skipping(from) : new PassThrough();
      const fail = (error: Error): void => void out.destroy(error);
      let open: Readable | undefined;
      const zip = packed(entries, made, ({ sha256 }, give) => {
        store.need(sha256, 'this file').then((path) => {
          open = createReadStream(path).once('error', fail);
          give(null, open);
        }, fail);
      });
      zip.on('error', fail);
      zip.outputStream.on('error', fail).pipe(out);
      zip.end(ending);
      return out.on('close', () => {
        open?.destroy();
        zip.outputStream.unpipe(out);
      });
    },
  };
}

const ending = { forceZip64Format: false, comment: '' };

/** @param read is asked for an entry's stream when its turn comes, so that one of thousands holds one file open. */
function packed(
  entries: readonly Entry[],
  mtime: Date,
  read: (stored: Stored, give: (error: null, stream: Readable) => void) => void,
): yazl.ZipFile {
  const zip = new yazl.ZipFile();
  const how = { compress: false, mtime, mode: 0o100644 };
  for (const entry of entries)
    if ('content' in entry) zip.addBuffer(entry.content, entry.name, how);
    else zip.addReadStreamLazy(entry.name, { ...how, size: entry.stored.bytes }, (give) => read(entry.stored, give));
  return zip;
}

/** Lets nothing through of the first bytes. */
function skipping(from: number): Transform {
  let left = from;
  return new Transform({
    transform(chunk: Buffer, _encoding, give) {
      const cut = Math.min(left, chunk.length);
      left -= cut;
      give(null, chunk.subarray(cut));
    },
  });
}
