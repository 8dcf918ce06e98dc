import type { Request, Response } from 'express';
import { pipeline } from 'node:stream/promises';
import type { Log } from '../log.ts';
import type { Zip } from './zipOf.ts';

/** Sends a ZIP as a file to keep, or the rest of it to whoever has its beginning already. */
export async function sendZip(request: Request, response: Response, name: string, zip: Zip, log: Log): Promise<void> {
  response.attachment(name).type('application/zip').set({ 'Accept-Ranges': 'bytes', ETag: zip.tag });
  const from = rangeFrom(request.get('range'), request.get('if-range'), zip.tag);
  if (from >= zip.bytes) return void response.status(416).set('Content-Range', `bytes */${zip.bytes}`).end();
  if (from > 0) response.status(206).set('Content-Range', `bytes ${from}-${zip.bytes - 1}/${zip.bytes}`);
  response.set('Content-Length', String(zip.bytes - from));
  // A broken-off download is the browser's business, not a fault.
  await pipeline(zip.open(from), response).catch((err: NodeJS.ErrnoException) =>
    log[err.code === 'ERR_STREAM_PREMATURE_CLOSE' ? 'info' : 'warn']({ err, name }, 'A download broke off'),
  );
}

/** First byte of an open range; 0 for the whole, also where the file has become another. */
function rangeFrom(range: string | undefined, ifRange: string | undefined, tag: string): number {
  if (ifRange !== undefined && ifRange !== tag) return 0;
  return Number(/^bytes=(\d{1,15})-$/.exec(range ?? '')?.[1] ?? 0);
}
