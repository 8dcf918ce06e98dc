import type { DetailedError, UploadOptions } from 'tus-js-client';
import { importResultSchema, problemSchema, type ImportResult } from '../../contract/index.ts';
import { away, request, RequestError, untilAnswered } from './request.ts';

/** Bytes of one part: as much as is sent once more after a broken connection. */
const PART = 8_000_000;
/** Waits between tries, ms; a server that is away is asked until it is back. */
const DELAYS = Array.from({ length: 2000 }, (_, n) => Math.min(2000, 250 * n));
/** An answer that is no answer, as of a fault of the server’s own, is tried so often. */
const MOST_FAULTS = 5;

/**
 * Sends a file in parts and has it taken into a setup. The same file chosen once more, also after a reload or a restart
 * of the server, goes on where it stopped.
 */
export async function uploadFrame(
  setupId: number,
  file: File,
  onProgress: (share: number) => void,
): Promise<ImportResult> {
  for (let tries = 0; ; tries++) {
    const { id, forget } = await sendInParts(file, onProgress);
    try {
      const query = new URLSearchParams({ name: file.name, upload: id });
      const path = `/setups/${setupId}/frames?${query}`;
      return await untilAnswered(() => request(importResultSchema, 'POST', path));
    } catch (error) {
      // It was taken in, and the answer was lost, or it was too long ago: sent anew, it is found to be here.
      if (tries > 0 || !(error instanceof RequestError)) throw error;
    } finally {
      await forget();
    }
  }
}

/** @returns the upload’s name at the server, once all of it is there, and how the browser forgets where it was. */
async function sendInParts(
  file: File,
  onProgress: (share: number) => void,
): Promise<{ id: string; forget: () => Promise<void> }> {
  const { Upload, defaultOptions } = await import('tus-js-client');
  return new Promise((resolve, reject) => {
    const options: UploadOptions = {
      endpoint: '/api/uploads',
      chunkSize: PART,
      uploadDataDuringCreation: true,
      retryDelays: DELAYS,
      metadata: { name: file.name },
      onShouldRetry: (error, attempt) => mayPass(error, attempt),
      onProgress: (sent, all) => onProgress(all ? sent / all : 0),
      onError: (error) => reject(errorOf(error)),
      onSuccess: () => resolve({ id: (upload.url ?? '').split('/').at(-1) ?? '', forget }),
    };
    const upload = new Upload(file, options);
    const forget = async (): Promise<void> => {
      const { urlStorage } = defaultOptions;
      for (const { urlStorageKey } of await upload.findPreviousUploads()) await urlStorage.removeUpload(urlStorageKey);
    };
    void upload.findPreviousUploads().then(([before]) => {
      if (before) upload.resumeFromPreviousUpload(before);
      upload.start();
    }, reject);
  });
}

function mayPass(error: DetailedError, attempt: number): boolean {
  const status = error.originalResponse?.getStatus() ?? 0;
  // Another hand on the same upload, or one that counted differently, as after a break.
  if (status === 0 || status === 503 || status === 409 || status === 423) return true;
  return status >= 500 && status !== 507 && attempt < MOST_FAULTS;
}

function errorOf(error: Error | DetailedError): Error {
  if (!('originalResponse' in error)) return error;
  const body = error.originalResponse?.getBody();
  let said: unknown;
  try {
    said = JSON.parse(body ?? '');
  } catch {
    said = undefined;
  }
  return new RequestError(problemSchema.safeParse(said).data ?? away);
}
