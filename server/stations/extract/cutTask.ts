import { cutFrame, type CutAlso, type Order, type Quality } from '../../../core/cut/index.ts';
import { whiteLevel, type EncodedRaster } from '../../../core/image/raster.ts';
import type { Face } from '../../../core/persons/faces.ts';
import { handsIn } from '../../../core/persons/hands.ts';
import type { Extent } from '../../../core/place/index.ts';
import { decodePicture, PictureError } from '../../pictures/decode.ts';
import { encodePicture } from '../../pictures/encode.ts';
import { findFaces } from '../../persons/findFaces.ts';
import { keptPersons } from '../../persons/keptPersons.ts';
import type { Store } from '../../store/store.ts';
import { keepFringe } from '../place/fringeTask.ts';
import { keepTones } from '../place/tones.ts';
import { ownMatteOf } from './ownMatte.ts';
import { readPaths } from './paths.ts';
import type { Bench } from '../../threads/bench.ts';
import '../../kernels.ts';

/** A photograph by its hash, and what it is cut with; the order's pictures are hashes too. */
export interface CutInput {
  photograph: string;
  order: Order;
}
export interface CutOutput {
  file: string;
  depth: 8 | 16;
  quality: Quality;
  faces: Face[];
  hands: Extent[];
}

/** Cuts a photograph and keeps the cutout. @throws PictureError if there is nothing to cut. */
export async function cut({ photograph: hash, order }: CutInput, { store }: Bench): Promise<CutOutput> {
  const photograph = await decodePicture(await store.need(hash, 'this photograph'), 'frame');
  const result = await cutByOrder(photograph, hash, order, store);
  const depth = whiteLevel(photograph) === 255 ? 8 : 16;
  const file = await store.put(await encodePicture(result.cutout, depth === 8 ? 'png' : 'png16'));
  await keepTones(file, result.cutout, store);
  await keepFringe(file, result.cutout, store);
  const faces = await findFaces(photograph);
  return { file, depth, quality: result.quality, faces, hands: handsIn(result.cutout, faces) };
}

/**
 * @param photograph to cut, maybe at another depth than the stored one that `hash` names.
 * @throws PictureError if there is nothing to cut.
 */
export async function cutByOrder(photograph: EncodedRaster, hash: string, order: Order, store: Store) {
  const { plate } = order;
  const also: CutAlso = {
    paths: await readPaths(store, order.guidance.touches),
    persons: await keptPersons(store, hash, photograph),
    own: await ownMatteOf(store, order.guidance),
    plate: plate ? await decodePicture(await store.need(plate, 'the plate'), 'frame') : undefined,
  };
  const result = cutFrame(photograph, order.recipe, order.guidance, also);
  if (!result.ok) throw new PictureError(result.reason, result.remedy);
  return result;
}
