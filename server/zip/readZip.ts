import { Readable } from 'node:stream';
import yauzl from 'yauzl';

/** Why a ZIP is not taken, in words. */
export class ZipRefused extends Error {
  override name = 'ZipRefused';
}

export interface ZipEntry {
  name: string;
  /** As its header says; what comes out is held to it. */
  bytes: number;
  read: () => Promise<Readable>;
}

/**
 * The entries of a ZIP, one after the other, each read or passed over before the next is asked for. Names are those of the
 * file and never become paths; sizes are held to what the headers say.
 * @throws ZipRefused if it is damaged, or has more entries than `most`.
 */
export async function* entriesOfZip(path: string, most: number): AsyncGenerator<ZipEntry> {
  const zip = await new Promise<yauzl.ZipFile>((resolve, reject) =>
    yauzl.open(path, { lazyEntries: true, autoClose: false, validateEntrySizes: true }, (error, opened) =>
      error ? reject(new ZipRefused(`it is no sound ZIP (${error.message})`)) : resolve(opened),
    ),
  );
  try {
    if (zip.entryCount > most) throw new ZipRefused(`it has ${zip.entryCount} entries, more than ${most}`);
    for (;;) {
      const entry = await nextEntry(zip);
      if (!entry) return;
      yield {
        name: entry.fileName,
        bytes: entry.uncompressedSize,
        read: () =>
          new Promise((resolve, reject) =>
            zip.openReadStream(entry, (error, stream) =>
              error ? reject(new ZipRefused(`“${entry.fileName}” cannot be read (${error.message})`)) : resolve(stream),
            ),
          ),
      };
    }
  } finally {
    zip.close();
  }
}

function nextEntry(zip: yauzl.ZipFile): Promise<yauzl.Entry | undefined> {
  return new Promise((resolve, reject) => {
    const done = (): void => {
      zip.removeListener('entry', found).removeListener('end', ended).removeListener('error', failed);
    };
    const found = (entry: yauzl.Entry): void => {
      done();
      resolve(entry);
    };
    const ended = (): void => {
      done();
      resolve(undefined);
    };
    const failed = (error: Error): void => {
      done();
      reject(new ZipRefused(`it is no sound ZIP (${error.message})`));
    };
    zip.on('entry', found).on('end', ended).on('error', failed);
    zip.readEntry();
  });
}
