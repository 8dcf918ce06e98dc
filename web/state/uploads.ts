import { create } from 'zustand';
import type { ImportResult } from '../../contract/index.ts';
import { api, RequestError, untilAnswered } from './api.ts';
import { takeItems } from './store.ts';

/** A file on its way into a setup, or what came of it. */
export interface Upload {
  key: string;
  shootId: number;
  name: string;
  bytes: number;
  /** Share of it that has been sent, 0–1. */
  sent: number;
  result: ImportResult | null;
}

/** Files go up this many at a time: enough to keep the disk busy, few enough to see each finish. */
const AT_ONCE = 3;

/** Uploads belong to the application and not to a station: they go on, and are seen, wherever one looks. */
export const useUploads = create<{ uploads: Upload[] }>(() => ({ uploads: [] }));

const queue: { file: File; setupId: number; upload: Upload }[] = [];
let sending = 0;
let count = 0;

/** Sends files into a setup; what is refused is listed and stops no other. */
export function startUploads(shootId: number, setupId: number, files: readonly File[]): void {
  const fresh = files.map((file) => ({
    file,
    setupId,
    upload: { key: `${count++}`, shootId, name: file.name, bytes: file.size, sent: 0, result: null } as Upload,
  }));
  useUploads.setState(({ uploads }) => ({
    uploads: [
      ...uploads.filter(
        ({ result }) => !result || result.outcome === 'refused' || (result.outcome === 'stored' && result.question),
      ),
      ...fresh.map(({ upload }) => upload),
    ],
  }));
  queue.push(...fresh);
  while (sending < AT_ONCE && queue.length) void send();
}

/** Puts the list of a shoot's finished uploads away. */
export function clearUploads(shootId: number): void {
  useUploads.setState(({ uploads }) => ({
    uploads: uploads.filter((upload) => upload.shootId !== shootId || !upload.result),
  }));
}

async function send(): Promise<void> {
  sending++;
  for (let item = queue.shift(); item; item = queue.shift()) {
    const {
      file,
      setupId,
      upload: { key, name, shootId },
    } = item;
    const change = (part: Partial<Upload>): void =>
      useUploads.setState(({ uploads }) => ({
        uploads: uploads.map((upload) => (upload.key === key ? { ...upload, ...part } : upload)),
      }));
    // A file whose upload broke off is sent anew when the server is back; if it had arrived after all, it is found to
    // be here.
    const result = await untilAnswered(() => api.uploadFrame(setupId, file, (sent) => change({ sent }))).catch(
      (error: Error): ImportResult => ({ outcome: 'refused', name, ...problemOf(error) }),
    );
    if (result.outcome === 'stored') takeItems(shootId, { frames: [result.frame] });
    change({ sent: 1, result });
  }
  sending--;
}

function problemOf(error: Error): { reason: string; remedy: string } {
  return error instanceof RequestError ? error.problem : { reason: error.message, remedy: 'Choose the file again.' };
}
