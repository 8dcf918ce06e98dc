import { z } from 'zod';
import { create } from 'zustand';
import type { ImportResult } from '../../contract/index.ts';
import { api } from './api.ts';
import { RequestError } from './request.ts';
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

/**
 * What was chosen and how much of it has been answered, kept by the browser: a page that is left in the middle knows it
 * when it is opened again. A browser gives no page a file back, so the hand chooses the same files once more.
 */
const leftSchema = z.object({
  shootId: z.number(),
  setupId: z.number(),
  /** By name, size and time. */
  files: z.record(z.string(), z.boolean()),
});
export type Left = z.infer<typeof leftSchema>;
const LEFT = 'silent-lawn arriving';
/** Held by a window while it sends. */
const SENDING = 'silent-lawn sending';
const keyOf = ({ name, size, lastModified }: File): string => `${name}|${size}|${lastModified}`;

/** Uploads belong to the application and not to a station: they go on, and are seen, wherever one looks. */
export const useUploads = create<{ uploads: Upload[]; left: Left | null }>(() => ({ uploads: [], left: null }));

const queue: { file: File; setupId: number; upload: Upload }[] = [];
let sending = 0;
let count = 0;

/** Looks whether files were on their way when the page was left; another window that is still sending them is none. */
export async function lookForLeft(): Promise<void> {
  const held = (await navigator.locks?.query())?.held ?? [];
  if (sending || held.some(({ name }) => name === SENDING)) return;
  useUploads.setState({ left: readLeft() });
}

export function forgetLeft(): void {
  localStorage.removeItem(LEFT);
  useUploads.setState({ left: null });
}

function readLeft(): Left | null {
  try {
    return leftSchema.safeParse(JSON.parse(localStorage.getItem(LEFT) ?? 'null')).data ?? null;
  } catch {
    return null;
  }
}

function noteLeft(shootId: number, setupId: number, files: Record<string, boolean>): void {
  const before = readLeft();
  const same = before?.shootId === shootId && before.setupId === setupId;
  const left: Left = { shootId, setupId, files: { ...(same ? before.files : {}), ...files } };
  try {
    if (Object.values(left.files).every(Boolean)) localStorage.removeItem(LEFT);
    else localStorage.setItem(LEFT, JSON.stringify(left));
  } catch {
    // A browser that keeps nothing goes without.
  }
}

/** Sends files into a setup; what is refused is listed and stops no other. What had arrived before is passed over. */
export function startUploads(shootId: number, setupId: number, files: readonly File[]): void {
  const before = useUploads.getState().left;
  const arrived = before?.setupId === setupId ? before.files : {};
  const fresh = files.map((file) => ({
    file,
    setupId,
    upload: {
      ...{ key: `${count++}`, shootId, name: file.name, bytes: file.size, sent: 0 },
      result: arrived[keyOf(file)] ? { outcome: 'duplicate', name: file.name, of: file.name } : null,
    } as Upload,
  }));
  useUploads.setState(({ uploads }) => ({
    left: null,
    uploads: [
      ...uploads.filter(
        ({ result }) => !result || result.outcome === 'refused' || (result.outcome === 'stored' && result.question),
      ),
      ...fresh.map(({ upload }) => upload),
    ],
  }));
  noteLeft(
    shootId,
    setupId,
    Object.fromEntries(fresh.map(({ file, upload }) => [keyOf(file), upload.result !== null])),
  );
  queue.push(...fresh.filter(({ upload }) => !upload.result));
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
  const { locks } = navigator;
  await (locks ? locks.request(SENDING, { mode: 'shared' }, sendAll) : sendAll());
  sending--;
}

async function sendAll(): Promise<void> {
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
    const result = await api
      .uploadFrame(setupId, file, (sent) => change({ sent }))
      .catch((error: Error): ImportResult => ({ outcome: 'refused', name, ...problemOf(error) }));
    if (result.outcome === 'stored') takeItems(shootId, { frames: [result.frame] });
    change({ sent: 1, result });
    noteLeft(shootId, setupId, { [keyOf(file)]: true });
  }
}

function problemOf(error: Error): { reason: string; remedy: string } {
  return error instanceof RequestError ? error.problem : { reason: error.message, remedy: 'Choose the file again.' };
}
