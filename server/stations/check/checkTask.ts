import type { MessagePort } from 'node:worker_threads';
import { readFile } from 'node:fs/promises';
import type { MarksGiven, PictureKind } from '../../../contract/index.ts';
import { jpegFacts } from '../../../core/image/jpegFacts.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import type { Plan } from '../../../core/plan/index.ts';
import { checkSetup, plainReport, recogniseKind, type PlainReport, type TargetKind } from '../../../core/screen/index.ts';
import { rehearse, shotsOf, takeFrame } from '../../../core/studio/index.ts';
import { decodePicture, PictureError } from '../../pictures/decode.ts';
import { gatherScreen } from '../gather/gatherScreen.ts';
import { encodeShot } from '../../standIn/encodeShot.ts';
import { Store } from '../../store/store.ts';

/** What the checking thread can be asked: to read the photographs of a round, to tell what one shows, to hide faults in a set. */
export interface ReadTask {
  kind: 'read';
  store: string;
  /** Hash of each photograph. */
  pictures: Partial<Record<PictureKind, string>>;
  marks: MarksGiven;
  plan?: Plan;
}
export interface RecogniseTask {
  kind: 'recognise';
  store: string;
  path: string;
}
export interface RehearseTask {
  kind: 'rehearse';
  store: string;
  level: number;
  seed: number;
}
export interface GatherTask {
  kind: 'gather';
  store: string;
  /** Hashes of the frames. */
  files: string[];
  /** Told how many frames have been read. */
  progress: MessagePort;
}
export type CheckTask = ReadTask | RecogniseTask | RehearseTask | GatherTask;

/** The screen of a setup, gathered from its frames and kept in the store; or why it could not be. */
export type GatheredPlate =
  | { file: string; bytes: number; width: number; height: number; used: number; seen: number }
  | { reason: string; remedy: string };

export interface Rehearsed {
  causes: string[];
  pictures: { kind: TargetKind; file: string; width: number; height: number }[];
  report: PlainReport;
}

/** Pixels across of rehearsed frames. */
const REHEARSAL_WIDTH = 900;

/** The entry point of the thread. */
export default async function run(
  task: CheckTask,
): Promise<PlainReport | { recognised: TargetKind | null } | Rehearsed | GatheredPlate> {
  const store = new Store(task.store);
  if (task.kind === 'recognise') return { recognised: recogniseKind(await decodePicture(task.path, 'frame')) ?? null };
  if (task.kind === 'read') return read(task, store);
  if (task.kind === 'gather') return gather(task, store);
  const { set, causes } = rehearse(task.level, task.seed, REHEARSAL_WIDTH);
  const shots = shotsOf(set, task.seed, REHEARSAL_WIDTH);
  const pictures: Rehearsed['pictures'] = [];
  for (const kind of ['people', 'plate', 'ball', 'grey card'] as const) {
    const content = await encodeShot(takeFrame(set.plan, shots[kind]), 'jpeg', '2026:06:13 12:00:00');
    pictures.push({ kind, file: await store.put(content), width: shots[kind].width, height: shots[kind].height });
  }
  const report = await read(
    {
      kind: 'read',
      store: task.store,
      pictures: Object.fromEntries(pictures.map(({ kind, file }) => [kind, file])),
      marks: {},
    },
    store,
  );
  return { causes, pictures, report };
}

async function gather({ files, progress }: GatherTask, store: Store): Promise<GatheredPlate> {
  try {
    const { content, width, height, used, seen } = await gatherScreen(
      files.filter((file) => store.has(file)).map((file) => store.path(file)),
      (done) => progress.postMessage(done),
    );
    return { file: await store.put(content), bytes: content.length, width, height, used, seen };
  } catch (error) {
    if (error instanceof PictureError) return { reason: error.reason, remedy: error.remedy };
    throw error;
  } finally {
    progress.close();
  }
}

async function read({ pictures, marks, plan }: ReadTask, store: Store): Promise<PlainReport> {
  const open = async (kind: PictureKind): Promise<EncodedRaster | undefined> => {
    const file = pictures[kind];
    return file
      ? decodePicture(store.need(file, 'this test frame'), kind === 'background' ? 'background' : 'frame')
      : undefined;
  };
  const [frame, plate, ball, card, chart, background] = [
    await open('people'),
    await open('plate'),
    await open('ball'),
    await open('grey card'),
    await open('colour chart'),
    await open('background'),
  ];
  const lead = pictures.plate ?? pictures.people;
  const jpeg = lead ? jpegFacts(await readFile(store.path(lead))) : undefined;
  return plainReport(checkSetup({ frame, plate, ball, card, chart, background, marks, jpeg, plan }));
}
