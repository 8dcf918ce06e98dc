import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { mkdir, open, readdir, readFile, rename, rm, stat, utimes } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { PassThrough, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Mutex } from 'async-mutex';
import { PictureError } from '../pictures/decode.ts';
import {
  BrokenOff,
  bringBack,
  type DerivedKind,
  type NeededFile,
  type Received,
  type Store,
  type StoreAt,
} from './store.ts';
import { copyStored, enrol, placesOf } from './places.ts';
import { writeWhole } from './writeWhole.ts';

/** What is derived from stored files has a folder of its own for each kind, and an ending. */
const endings: Record<DerivedKind, string> = {
  thumbnails: 'jpg',
  views: 'jpg',
  persons: 'png',
  previews: 'png',
  tones: 'json',
  fringes: 'json',
  figures: 'png',
};

/**
 * Pictures as files named by the SHA-256 of their content. A file appears whole or not at all: it is written under a
 * temporary name on the same disk, synced and renamed. Nothing from outside ever becomes part of a path.
 */
export class LocalStore implements Store {
  readonly at: StoreAt;
  private readonly references = new Mutex();

  constructor(readonly folder: string) {
    this.at = { kind: 'local', folder };
  }

  exclusive<T>(work: () => Promise<T>): Promise<T> {
    return this.references.runExclusive(work);
  }

  /** Path of a stored file; it may not exist. @param hash 64 hex digits. */
  path(hash: string): string {
    if (!/^[0-9a-f]{64}$/.test(hash))
      throw new TypeError(`hash: expected 64 hex digits, received ${JSON.stringify(hash)}`);
    return join(this.folder, hash.slice(0, 2), hash);
  }

  /** Where a file is: at home, or in an archive. */
  private find(hash: string): string | undefined {
    const home = this.path(hash);
    if (existsSync(home)) return home;
    return placesOf(this.folder)
      .map(({ root }) => join(root, hash.slice(0, 2), hash))
      .find(existsSync);
  }

  has(hash: string): Promise<boolean> {
    return Promise.resolve(this.find(hash) !== undefined);
  }

  async need(hash: string, what: NeededFile): Promise<string> {
    const found = this.find(hash);
    if (found) return found;
    const away = (await this.archives()).filter(({ there }) => !there).map(({ folder }) => `“${folder}”`);
    if (!away.length) throw new PictureError(`the file of ${what} is missing from the data folder`, bringBack[what]);
    throw new PictureError(
      `the file of ${what} is not in the data folder, and the archive ${away.join(', ')} is not there now`,
      `Connect its disk and try again. Without it: ${bringBack[what]}`,
    );
  }

  archives(): Promise<{ folder: string; there: boolean }[]> {
    return Promise.resolve(placesOf(this.folder).map(({ folder, root }) => ({ folder, there: existsSync(root) })));
  }

  async enrol(folder: string): Promise<void> {
    await enrol(this.folder, folder);
  }

  async move(hash: string, folder: string | null, what: NeededFile): Promise<void> {
    const from = await this.need(hash, what);
    const root = folder === null ? this.folder : await enrol(this.folder, folder);
    const to = join(root, hash.slice(0, 2), hash);
    if (from === to) return;
    await copyStored(from, to, hash);
    await rm(from, { force: true });
  }

  async olderThan(age: number): Promise<string[]> {
    const before = Date.now() - age;
    const found = new Set<string>();
    for (const root of [this.folder, ...placesOf(this.folder).map((place) => place.root)])
      for (const folder of await readdir(root).catch(() => [])) {
        if (!/^[0-9a-f]{2}$/.test(folder)) continue;
        for (const name of await readdir(join(root, folder))) {
          if (!/^[0-9a-f]{64}$/.test(name)) continue;
          const facts = await stat(join(root, folder, name)).catch(() => undefined);
          if (facts && facts.mtimeMs < before) found.add(name);
        }
      }
    return [...found];
  }

  async put(content: Uint8Array): Promise<string> {
    const hash = createHash('sha256').update(content).digest('hex');
    if (!existsSync(this.path(hash))) await writeWhole(this.path(hash), content, await this.temporaryName());
    // Young again, so that no sweep takes it before its row is written.
    else await utimes(this.path(hash), new Date(), new Date());
    return hash;
  }

  async receive(stream: Readable, mostBytes: number): Promise<Received | { tooLarge: true }> {
    const temporary = await this.temporaryName();
    if (stream.destroyed) throw new BrokenOff('the upload broke off');
    const digest = createHash('sha256');
    let bytes = 0;
    const count = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        bytes += chunk.length;
        digest.update(chunk);
        done(bytes > mostBytes ? new TooLarge() : null, chunk);
      },
    });
    // Behind a stream of our own: a disk that is full must not break the sender off, who could then not be told.
    const body = new PassThrough();
    const breakOff = (): void => void (stream.readableEnded || body.destroy(new BrokenOff('the upload broke off')));
    stream.once('error', breakOff).once('close', breakOff);
    stream.pipe(body);
    const file = createWriteStream(temporary, { flags: 'wx', flush: true });
    try {
      await pipeline(body, count, file);
    } catch (error) {
      stream.unpipe(body).resume();
      // One that is still being opened would be there again after it was thrown away.
      if (!file.closed) await new Promise((resolve) => file.once('close', resolve));
      await this.discard(temporary);
      if (error instanceof TooLarge) return { tooLarge: true };
      throw error;
    }
    return { temporary, hash: digest.digest('hex'), bytes };
  }

  async arrived(path: string): Promise<Received> {
    const digest = createHash('sha256');
    await pipeline(createReadStream(path), digest);
    // What is renamed into its place has to be on the disk.
    const file = await open(path, 'r+');
    try {
      await file.sync();
      return { temporary: path, hash: digest.digest('hex'), bytes: (await file.stat()).size };
    } finally {
      await file.close();
    }
  }

  async adopt(temporary: string, hash: string): Promise<void> {
    const path = this.path(hash);
    await mkdir(dirname(path), { recursive: true });
    await rename(temporary, path);
  }

  async discard(temporary: string): Promise<void> {
    await rm(temporary, { force: true });
  }

  async remove(hash: string): Promise<void> {
    await rm(this.path(hash), { force: true });
    for (const { root } of placesOf(this.folder)) await rm(join(root, hash.slice(0, 2), hash), { force: true });
    for (const kind of Object.keys(endings) as DerivedKind[]) await rm(this.derivedPath(hash, kind), { force: true });
  }

  async derived(
    hash: string,
    kind: DerivedKind,
    what: NeededFile,
    make: (path: string) => Promise<Buffer>,
  ): Promise<Buffer> {
    const path = this.derivedPath(hash, kind);
    const kept = await readFile(path).catch(() => undefined);
    if (kept) return kept;
    const content = await make(await this.need(hash, what));
    await this.keepDerived(hash, kind, content);
    return content;
  }

  async keepDerived(hash: string, kind: DerivedKind, content: Buffer): Promise<void> {
    await writeWhole(this.derivedPath(hash, kind), content, await this.temporaryName());
  }

  private derivedPath(hash: string, kind: DerivedKind): string {
    return join(dirname(dirname(this.path(hash))), kind, `${hash}.${endings[kind]}`);
  }

  async clearTemporary(): Promise<void> {
    await rm(join(this.folder, 'incoming'), { recursive: true, force: true });
  }

  private async temporaryName(): Promise<string> {
    const incoming = join(this.folder, 'incoming');
    await mkdir(incoming, { recursive: true });
    return join(incoming, randomUUID());
  }
}

class TooLarge extends Error {}
