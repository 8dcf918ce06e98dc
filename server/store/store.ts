import type { Readable } from 'node:stream';

/** What a file can be, and what helps when it is gone. */
export const bringBack = {
  'this photograph': 'Bring the same file in again at Gather; its subject, masks, verdicts and placement stay.',
  'this cut': 'Extract the frame again.',
  'a stroke': 'Remove the touch at Extract under Touches and draw it again.',
  'the matte': 'Bring the matte in again at Extract under Masks, or take it off there.',
  'the plate': 'Choose another plate, or none, at Extract under Masks; or bring its file in again at Gather.',
  'the background': 'Add the same picture again at Place.',
  'a layer': 'Add the same picture again at Place.',
  'the look-up table': 'Add the same table again at Place.',
  'this raw file': 'Bring it in again at Gather.',
  'this picture': 'Bring it in again at the Log.',
  'this file': 'Hand over once more.',
  'this small picture': 'Hand over once more.',
  'the profile': 'Bring the profile in again at Hand over.',
  'this test frame': 'Take or drop it again at Check.',
};
export type NeededFile = keyof typeof bringBack;
/** What is kept beside a file because it is made from it: small pictures for lists, maps of where persons are,
 * what is measured of it. */
export type DerivedKind = 'thumbnails' | 'views' | 'persons' | 'previews' | 'tones' | 'fringes' | 'figures';
/** How a worker opens the same store, on this machine or another. */
export type StoreAt = { kind: 'local'; folder: string };

/** A stream that was written to a temporary file. */
export interface Received {
  temporary: string;
  hash: string;
  bytes: number;
}

/** The sender went away; nobody waits for an answer. */
export class BrokenOff extends Error {
  override name = 'BrokenOff';
}

/**
 * The port through which all files are reached: pictures named by the SHA-256 of their content, 64 hex digits, each
 * there whole or not at all. `LocalStore` keeps them in a folder; another keeper gives paths of its own local copies.
 */
export interface Store {
  readonly at: StoreAt;
  /**
   * Runs what puts a file in its place and writes the row that names it, or what looks for rows and removes the file:
   * one at a time, so that no file is removed between its arrival and its row.
   */
  exclusive<T>(work: () => Promise<T>): Promise<T>;
  has(hash: string): Promise<boolean>;
  /** Path of a copy on this machine. @throws PictureError that says what is gone and how to bring it back. */
  need(hash: string, what: NeededFile): Promise<string>;
  put(content: Uint8Array): Promise<string>;
  /** Writes a stream to a temporary file. The caller either keeps it with `adopt` or drops it with `discard`. */
  receive(stream: Readable, mostBytes: number): Promise<Received | { tooLarge: true }>;
  /** The same of a file that lies beside the store already. */
  arrived(path: string): Promise<Received>;
  adopt(temporary: string, hash: string): Promise<void>;
  discard(temporary: string): Promise<void>;
  /** Removes a file and what was derived from it. */
  remove(hash: string): Promise<void>;
  /** What is derived from a file; made once, then kept. @throws PictureError if the file is gone. */
  derived(hash: string, kind: DerivedKind, what: NeededFile, make: (path: string) => Promise<Buffer>): Promise<Buffer>;
  /** Keeps what was derived on the way. */
  keepDerived(hash: string, kind: DerivedKind, content: Buffer): Promise<void>;
  /** Folders elsewhere that files were moved to, and whether each is there now, as a disk that is connected. */
  archives(): Promise<{ folder: string; there: boolean }[]>;
  /** Makes a folder ready for files to be moved to. @throws PictureError if it is not there, or cannot be written. */
  enrol(folder: string): Promise<void>;
  /**
   * Moves a file to a folder elsewhere, or home with null; it is found there by `need` as before, and is never in no
   * place at all.
   * @throws PictureError if it is gone, or the folder cannot be written.
   */
  move(hash: string, folder: string | null, what: NeededFile): Promise<void>;
  /** All files older than `age` ms, by their hashes; of archives those that are there now. */
  olderThan(age: number): Promise<string[]>;
  /** Drops half-written files of an earlier run. */
  clearTemporary(): Promise<void>;
}
