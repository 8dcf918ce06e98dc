import { performance } from 'node:perf_hooks';
import { cutFrame, type CutAlso, type Guidance, type Quality, type Recipe } from '../../core/cut/index.ts';
import { whiteLevel, type EncodedRaster } from '../../core/image/raster.ts';
import { compositeOnBackground, surroundingsOf, type Placement } from '../../core/place/index.ts';
import { decodePicture, PictureError } from '../pictures/decode.ts';
import { decodeCutout } from '../pictures/views.ts';
import { encodePicture, extensions, toSixteen, type PictureFormat } from '../pictures/encode.ts';
import { keptPersons } from '../persons/keptPersons.ts';
import { Store } from '../store/store.ts';
import '../kernels.ts';

/** What a worker thread can be asked, and what it answers. Expected failures are answers, not exceptions. */
export interface CutTask {
  kind: 'cut';
  store: string;
  /** Hash of the photograph. */
  photograph: string;
  recipe: Recipe;
  guidance: Guidance;
  /** Hash of the plate. */
  plate: string | null;
  litBy: Background | null;
}
/** A chosen background by its hash, and where the cut stands on it. */
export interface Background {
  background: string;
  placement: Placement;
}
export interface DeliverTask {
  kind: 'deliver';
  store: string;
  photograph: string;
  recipe: Recipe;
  guidance: Guidance;
  plate: string | null;
  litBy: Background | null;
  cut: { file: string; depth: 8 | 16 };
  cutout: 'png' | 'png16' | null;
  finished: ({ format: 'jpeg' | 'png'; quality: number } & Background) | null;
}
export type Task = CutTask | DeliverTask;

export interface CutAnswer {
  ok: true;
  file: string;
  depth: 8 | 16;
  quality: Quality;
  milliseconds: number;
}
export interface DeliveredFile {
  kind: 'cutout' | 'finished';
  extension: string;
  file: string;
  bytes: number;
  width: number;
  height: number;
}
export interface DeliverAnswer {
  ok: true;
  files: DeliveredFile[];
  milliseconds: number;
}
export type Answer = CutAnswer | DeliverAnswer | { ok: false; reason: string; remedy: string };

/** The entry point of a worker thread. */
export default async function run(task: Task): Promise<Answer> {
  try {
    return task.kind === 'cut' ? await cut(task) : await deliver(task);
  } catch (error) {
    if (error instanceof PictureError) return { ok: false, reason: error.reason, remedy: error.remedy };
    throw error;
  }
}

async function cut(task: CutTask): Promise<Answer> {
  const start = performance.now();
  const store = new Store(task.store);
  const photograph = await decodePicture(store.need(task.photograph, 'this photograph'), 'frame');
  const result = cutFrame(photograph, task.recipe, task.guidance, await alsoOf(task, photograph, store));
  if (!result.ok) return result;
  const depth = whiteLevel(photograph) === 255 ? 8 : 16;
  const file = await store.put(await encodePicture(result.cutout, depth === 8 ? 'png' : 'png16'));
  return { ok: true, file, depth, quality: result.quality, milliseconds: Math.round(performance.now() - start) };
}

/** Where persons are, plate and light of the background for a cut, decoded. */
async function alsoOf(
  { photograph: hash, plate, litBy }: Pick<CutTask, 'photograph' | 'plate' | 'litBy'>,
  photograph: EncodedRaster,
  store: Store,
): Promise<CutAlso> {
  return {
    persons: await keptPersons(store, hash, photograph),
    plate: plate ? await decodePicture(store.need(plate, 'the plate'), 'frame') : undefined,
    surroundings: litBy
      ? surroundingsOf(
          await decodePicture(store.need(litBy.background, 'the background'), 'background'),
          photograph,
          litBy.placement,
        )
      : undefined,
  };
}

async function deliver(task: DeliverTask): Promise<Answer> {
  const start = performance.now();
  const store = new Store(task.store);
  const files: DeliveredFile[] = [];
  const write = async (
    kind: DeliveredFile['kind'],
    picture: EncodedRaster,
    format: PictureFormat,
    quality?: number,
  ): Promise<void> => {
    const content = await encodePicture(picture, format, quality);
    files.push({
      kind,
      extension: extensions[format],
      file: await store.put(content),
      bytes: content.length,
      width: picture.width,
      height: picture.height,
    });
  };
  const stored = await decodeCutout(store.need(task.cut.file, 'this cut'), task.cut.depth);
  if (task.cutout) {
    const wider = task.cutout === 'png16' && task.cut.depth === 8;
    const picture = wider ? await cutAtSixteen(task, store) : stored;
    if (!('data' in picture)) return picture;
    await write('cutout', picture, task.cutout);
  }
  if (task.finished) {
    const background = await decodePicture(store.need(task.finished.background, 'the background'), 'background');
    await write(
      'finished',
      compositeOnBackground(stored, background, task.finished.placement),
      task.finished.format,
      task.finished.quality,
    );
  }
  return { ok: true, files, milliseconds: Math.round(performance.now() - start) };
}

/** An 8-bit photograph cut again with 16 bits of coverage and colour, so that the wider file really holds more. */
async function cutAtSixteen(
  task: DeliverTask,
  store: Store,
): Promise<EncodedRaster | { ok: false; reason: string; remedy: string }> {
  const photograph = await decodePicture(store.need(task.photograph, 'this photograph'), 'frame');
  const result = cutFrame(toSixteen(photograph), task.recipe, task.guidance, await alsoOf(task, photograph, store));
  return result.ok ? result.cutout : result;
}
