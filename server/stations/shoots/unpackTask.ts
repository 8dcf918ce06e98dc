import { Readable } from 'node:stream';
import { filesOf, readBundle, type Bundle } from '../../../contract/index.ts';
import { PictureError } from '../../pictures/decode.ts';
import type { Bench } from '../../threads/bench.ts';
import { entriesOfZip, ZipRefused, type ZipEntry } from '../../zip/readZip.ts';
import { bundlePath } from './bundlePath.ts';

/** A bundle by its file in the store. */
export interface UnpackInput {
  bundle: string;
  name: string;
}
export type UnpackOutput = { content: Bundle };

const MOST_ENTRIES = 200_000;
/** Largest list of contents, and largest file of a shoot, bytes. */
const MOST_CONTENT = 256e6;
const MOST_FILE = 4e9;

/**
 * Reads a bundle and puts its files into the store; rows are written by whoever asked. Nothing that it says becomes a
 * path, and each file is what its name says.
 * @throws PictureError that names the bundle and what is wrong with it.
 */
export async function unpack({ bundle, name }: UnpackInput, { store, tell }: Bench): Promise<UnpackOutput> {
  const path = await store.need(bundle, 'this file');
  try {
    const content = await contentOf(path);
    const sizes = new Map(content.files.map(({ sha256, bytes }) => [sha256, bytes]));
    const named = filesOf(content);
    const superfluous = content.files.find(({ sha256 }) => !named.includes(sha256));
    if (superfluous) throw new ZipRefused(`it lists ${superfluous.sha256.slice(0, 12)}…, which nothing in it needs`);
    const left = new Set(named);
    for await (const entry of entriesOfZip(path, MOST_ENTRIES)) {
      if (entry.name === 'shoot.json') continue;
      const hash = entry.name.slice(-64);
      if (entry.name !== bundlePath(hash) || !left.has(hash))
        throw new ZipRefused(`“${entry.name.slice(0, 80)}” does not belong into a shoot`);
      if (entry.bytes !== sizes.get(hash) || entry.bytes > MOST_FILE)
        throw new ZipRefused(`“${hash.slice(0, 12)}…” is of another size than it lists`);
      await keep(entry, hash, store);
      left.delete(hash);
      tell(1 - left.size / Math.max(1, named.length));
    }
    const [missing] = left;
    if (missing) throw new ZipRefused(`the file ${missing.slice(0, 12)}… is not in it`);
    return { content };
  } catch (error) {
    if (!(error instanceof ZipRefused)) throw error;
    throw new PictureError(
      `“${name}” cannot be taken: ${error.message}`,
      'Take a file that was exported here and copied whole; nothing of this one was taken.',
    );
  }
}

async function contentOf(path: string): Promise<Bundle> {
  for await (const entry of entriesOfZip(path, MOST_ENTRIES)) {
    if (entry.name !== 'shoot.json') continue;
    if (entry.bytes > MOST_CONTENT) throw new ZipRefused('its list of contents is far too long');
    const text = await textOf(await entry.read());
    let json: unknown;
    try {
      json = JSON.parse(text);
    } catch {
      throw new ZipRefused('its shoot.json is no JSON');
    }
    const read = readBundle(json);
    if ('refused' in read) throw new ZipRefused(read.refused);
    return read.bundle;
  }
  throw new ZipRefused('it has no shoot.json, so it is no shoot that was exported here');
}

async function textOf(stream: Readable): Promise<string> {
  const chunks: Buffer[] = [];
  try {
    for await (const chunk of stream) chunks.push(chunk as Buffer);
  } catch (error) {
    throw new ZipRefused(`its shoot.json cannot be read (${(error as Error).message})`);
  }
  return Buffer.concat(chunks).toString('utf8');
}

/** Puts a file into its place if it is what its name says. */
async function keep(entry: ZipEntry, hash: string, store: Bench['store']): Promise<void> {
  let received;
  try {
    received = await store.receive(await entry.read(), entry.bytes);
  } catch (error) {
    if (error instanceof ZipRefused || !isOfTheZip(error)) throw error;
    throw new ZipRefused(`“${hash.slice(0, 12)}…” cannot be read (${(error as Error).message})`);
  }
  if ('tooLarge' in received) throw new ZipRefused(`“${hash.slice(0, 12)}…” is larger than it says`);
  try {
    if (received.hash !== hash) throw new ZipRefused(`“${hash.slice(0, 12)}…” is another file than its name says`);
    await store.adopt(received.temporary, hash);
  } finally {
    await store.discard(received.temporary);
  }
}

/** Faults of the disk have a code; those of a damaged ZIP have none, or one of the decompressor. */
function isOfTheZip(error: unknown): boolean {
  const { code } = error as NodeJS.ErrnoException;
  return code === undefined || code.startsWith('Z_');
}
