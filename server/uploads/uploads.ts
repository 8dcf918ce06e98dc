import { existsSync } from 'node:fs';
import { rm, stat, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { FileConfigstore, FileStore } from '@tus/file-store';
import { Server, type Upload } from '@tus/server';
import type { RequestHandler } from 'express';
import type { Problem } from '../../contract/index.ts';
import { MOST_BYTES } from '../http/receivePicture.ts';
import type { Store } from '../store/store.ts';

/**
 * Files that come in parts by the tus protocol, so that an upload goes on after a broken connection, a reload or a
 * restart where it stopped. They lie beside the store until whoever sent them says what they are for.
 */

/** What was begun and not gone on with for so long is dropped, ms. */
const KEPT = 3 * 24 * 3_600_000;
/** Room that is left for everything else, bytes. */
const SPARE = 16e6;
export const UPLOADS_PATH = '/api/uploads';
const DISK_FULL: Problem = {
  reason: 'the disk is full',
  remedy: 'Make room on the disk that holds the data folder, then choose the file again.',
};
const TOO_LARGE: Problem = {
  reason: `the file is larger than ${MOST_BYTES / 1e6} MB`,
  remedy: 'Export it smaller or compressed.',
};

const folderOf = (store: Store): string => join(store.at.folder, 'arriving');

/** Where an upload that has arrived whole lies; undefined if it is not there, or not whole. */
export async function arrivedPath(store: Store, id: string): Promise<string | undefined> {
  if (!/^[0-9a-f]{32}$/.test(id)) return undefined;
  const path = join(folderOf(store), id);
  const known = await new FileConfigstore(folderOf(store)).get(id).catch(() => undefined);
  const size = await stat(path).then(
    (facts) => facts.size,
    () => undefined,
  );
  return known && size === known.size ? path : undefined;
}

export async function forgetUpload(store: Store, id: string): Promise<void> {
  for (const name of [id, `${id}.json`]) await rm(join(folderOf(store), name), { force: true });
}

/** Drops what nobody went on with. */
export async function dropOldUploads(store: Store): Promise<void> {
  if (existsSync(folderOf(store)))
    await new FileStore({ directory: folderOf(store), expirationPeriodInMilliseconds: KEPT }).deleteExpired();
}

/** Takes uploads in parts, below `UPLOADS_PATH`. */
export function uploadsHandler(store: Store): RequestHandler {
  const directory = folderOf(store);
  const refuse = (status: number, problem: Problem): object => ({ status_code: status, body: JSON.stringify(problem) });
  const room = async (): Promise<number> => {
    const { bavail, bsize } = await statfs(directory);
    return bavail * bsize - SPARE;
  };
  const server = new Server({
    path: UPLOADS_PATH,
    datastore: new FileStore({ directory, expirationPeriodInMilliseconds: KEPT }),
    relativeLocation: true,
    allowedOrigins: [],
    maxSize: MOST_BYTES,
    onUploadCreate: async (_request: unknown, { size = 0 }: Upload) => {
      if (size > (await room())) throw refuse(507, DISK_FULL);
      return {};
    },
    onResponseError: async (_request: unknown, error: object) => {
      const status = 'status_code' in error ? error.status_code : 500;
      if (status === 413) return { status_code: 413, body: JSON.stringify(TOO_LARGE) };
      // What could not be written while nothing is left was not written for that.
      if (status === 500 && (await room()) <= 0) return { status_code: 507, body: JSON.stringify(DISK_FULL) };
      return undefined;
    },
  });
  return (request, response, next) => void server.handle(request, response).catch(next);
}
