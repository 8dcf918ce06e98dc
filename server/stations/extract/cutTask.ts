import { cutFrame, type CutAlso, type Order, type Quality } from '../../../core/cut/index.ts';
import { idleTouches } from '../../../core/cut/idleTouches.ts';
import { draftOf, StagedCut } from '../../../core/cut/stagedCut.ts';
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
  const known = await knownOf(photograph, hash, order, store);
  const result = cutWith(photograph, order, known);
  const depth = whiteLevel(photograph) === 255 ? 8 : 16;
  const file = await store.put(await encodePicture(result.cutout, depth === 8 ? 'png' : 'png16'));
  await keepTones(file, result.cutout, store);
  await keepFringe(file, result.cutout, store);
  const faces = await findFaces(photograph);
  const idle = idleIn(photograph, order, known);
  const quality = idle.length ? { ...result.quality, idle } : result.quality;
  return { file, depth, quality, faces, hands: handsIn(result.cutout, faces) };
}

/**
 * @param photograph to cut, maybe at another depth than the stored one that `hash` names.
 * @throws PictureError if there is nothing to cut.
 */
export async function cutByOrder(photograph: EncodedRaster, hash: string, order: Order, store: Store) {
  return cutWith(photograph, order, await knownOf(photograph, hash, order, store));
}

function cutWith(photograph: EncodedRaster, { recipe, guidance }: Order, known: CutAlso) {
  const result = cutFrame(photograph, recipe, guidance, known);
  if (!result.ok) throw new PictureError(result.reason, result.remedy);
  return result;
}

/** All that a cut is made with beside its order. */
async function knownOf(
  photograph: EncodedRaster,
  hash: string,
  { plate, guidance }: Order,
  store: Store,
): Promise<CutAlso> {
  return {
    paths: await readPaths(store, guidance.touches),
    persons: await keptPersons(store, hash, photograph),
    own: await ownMatteOf(store, guidance),
    plate: plate ? await decodePicture(await store.need(plate, 'the plate'), 'frame') : undefined,
  };
}

/** Touches that the cut no longer needs, looked at on a smaller copy. */
function idleIn(photograph: EncodedRaster, { recipe, guidance }: Order, { paths = new Map(), ...known }: CutAlso) {
  if (!guidance.touches.length) return [];
  const staged = draftOf(photograph, known, 1) ?? new StagedCut(photograph, known, 1);
  return idleTouches(staged, recipe, guidance, paths);
}
