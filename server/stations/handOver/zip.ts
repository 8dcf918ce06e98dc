import { createReadStream } from 'node:fs';
import { PassThrough, type Readable } from 'node:stream';
import { stringify } from 'csv-stringify/sync';
import yazl from 'yazl';

/** A file of a hand-over, how to get at it, and what the list says of it. */
export interface ZipEntry {
  name: string;
  /** Not in the data folder any more. */
  gone: boolean;
  /** Path of a copy on this machine. */
  open: () => Promise<string>;
  kind: string;
  frame: string;
  setup: string;
  background: string;
  width: number;
  height: number;
  bytes: number;
}

/**
 * The files of a hand-over as a ZIP with a list of them. A file that is gone from the data folder is named in the list
 * and in a text beside it, and the rest goes out. Whoever destroys the stream, or pipes it into something that breaks
 * off, closes every file.
 */
export function zipOf(entries: readonly ZipEntry[]): Readable {
  const zip = new yazl.ZipFile();
  const out = new PassThrough();
  const missing = entries.filter(({ gone }) => gone);
  let open: Readable | undefined;
  const fail = (error: Error): void => void out.destroy(error);
  for (const entry of entries) {
    if (missing.includes(entry)) continue;
    // Opened when its turn comes, so that one of thousands holds one file open.
    zip.addReadStreamLazy(entry.name, { compress: false, size: entry.bytes }, (give) => {
      entry.open().then((path) => {
        open = createReadStream(path).once('error', fail);
        give(null, open);
      }, fail);
    });
  }
  const columns = ['file', 'kind', 'frame', 'setup', 'background', 'width_px', 'height_px', 'bytes', 'missing'];
  const rows = entries.map((entry) => [
    entry.name,
    entry.kind,
    entry.frame,
    entry.setup,
    entry.background,
    entry.width,
    entry.height,
    entry.bytes,
    missing.includes(entry) ? 'missing' : '',
  ]);
  zip.addBuffer(Buffer.from(stringify(rows, { header: true, columns, escape_formulas: true })), 'list.csv');
  if (missing.length)
    zip.addBuffer(
      Buffer.from(
        `These files of the hand-over are gone from the data folder:\r\n\r\n${missing.map(({ name, frame }) => `${name}  (frame ${frame})`).join('\r\n')}\r\n\r\nHand over once more; the frames named here are written anew.\r\n`,
      ),
      'MISSING.txt',
    );
  zip.on('error', fail);
  zip.outputStream.on('error', fail).pipe(out);
  zip.end();
  out.on('close', () => {
    open?.destroy();
    zip.outputStream.unpipe(out);
  });
  return out;
}
