import type { Request } from 'express';
import type { Job } from '../../../contract/index.ts';
import { Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startJob } from '../../jobs/startJob.ts';

/** Largest bundle, bytes. */
const MOST_BYTES = 200e9;

/** Takes the request’s body as an exported shoot; a job looks at it and takes it in. */
export async function receiveBundle(context: Context, name: string, request: Request): Promise<Job> {
  const { store } = context;
  const upload = await store.receive(request, MOST_BYTES);
  if ('tooLarge' in upload)
    throw new Refusal(400, {
      reason: `“${name}” is larger than ${MOST_BYTES / 1e9} GB`,
      remedy: 'Export it without its hand-overs.',
    });
  try {
    await store.adopt(upload.temporary, upload.hash);
  } finally {
    await store.discard(upload.temporary);
  }
  return startJob(context, { kind: 'import', shootId: null, payload: { bundle: upload.hash, name } });
}
