import { LRUCache } from 'lru-cache';
import { noScreen, type Order } from '../../../core/cut/index.ts';
import { StagedCut } from '../../../core/cut/stagedCut.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { cropped, type Crop } from '../../../core/place/index.ts';
import { keptPersons } from '../../persons/keptPersons.ts';
import { decodePicture, PictureError } from '../../pictures/decode.ts';
import type { Store } from '../../store/store.ts';
import type { Bench } from '../../threads/bench.ts';
import { ownMatteOf } from './ownMatte.ts';
import { readPaths } from './paths.ts';
import '../../kernels.ts';

/** A photograph by its hash, what it is to be cut with, and which of its pixels are looked at. */
export interface LookInput {
  photograph: string;
  order: Order;
  region: Crop;
}
/** RGBA of the region, 8 bit. */
export interface LookOutput {
  width: number;
  height: number;
  channels: 4;
  data: Uint8Array;
}

/** Photographs whose cut is at hand, with all that a next look needs; some hundred megabytes each. */
const looked = new LRUCache<string, StagedCut>({ max: 1 });

/**
 * Full-size pixels of a cut that is not made yet: the first look at a photograph cuts it, what follows only redoes what
 * changed, and finishes only the rows that are looked at. The very pixels that the batch would give.
 */
export async function look({ photograph, order, region }: LookInput, { store }: Bench): Promise<LookOutput> {
  const { recipe, guidance } = order;
  const staged = await stagedOf(photograph, order, store);
  const paths = await readPaths(store, guidance.touches);
  const { top, height } = region;
  const part = staged.rows(recipe, guidance, paths, [top, top + height]);
  if (!part) throw new PictureError(noScreen.reason, noScreen.remedy);
  return inBytes(cropped(part, { ...region, top: 0 }));
}

/** The whole of such a cut, 8 bit. */
export async function orderedCut(
  { photograph, order }: Pick<LookInput, 'photograph' | 'order'>,
  store: Store,
): Promise<LookOutput> {
  const staged = await stagedOf(photograph, order, store);
  const made = staged.cut(order.recipe, order.guidance, await readPaths(store, order.guidance.touches));
  if (!made) throw new PictureError(noScreen.reason, noScreen.remedy);
  return inBytes(made);
}

function inBytes({ width, height, data }: EncodedRaster): LookOutput {
  return { width, height, channels: 4, data: data instanceof Uint8Array ? data : Uint8Array.from(data, (v) => v >> 8) };
}

async function stagedOf(photograph: string, { plate, guidance }: Order, store: Store): Promise<StagedCut> {
  const name = JSON.stringify([photograph, plate, guidance.matte]);
  const known = looked.get(name);
  if (known) return known;
  looked.clear();
  const frame = await decodePicture(await store.need(photograph, 'this photograph'), 'frame');
  const staged = new StagedCut(
    frame,
    {
      persons: await keptPersons(store, photograph, frame),
      own: await ownMatteOf(store, guidance),
      plate: plate ? await decodePicture(await store.need(plate, 'the plate'), 'frame') : undefined,
    },
    1,
  );
  looked.set(name, staged);
  return staged;
}
