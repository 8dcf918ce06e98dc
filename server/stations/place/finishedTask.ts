import {
  isPlain,
  placedPicture,
  type Look,
  type Measured,
  type Placement,
  type Size,
} from '../../../core/place/index.ts';
import { fromRaster } from '../../pictures/encode.ts';
import { cutoutOfHeight, workingRaster } from '../../pictures/views.ts';
import type { Store } from '../../store/store.ts';
import type { Bench } from '../../threads/bench.ts';
import { alsoOf, type FiledExtras } from './extras.ts';
import type { KnownLight } from './knownLight.ts';
import { storedTones } from './tones.ts';

/** A stored cut on a stored background, each with the size of its file. */
export interface Finished {
  cut: { file: string; depth: 8 | 16 } & Size;
  background: { file: string } & Size;
  light: KnownLight;
  placement: Placement;
  look: Look;
  extras?: FiledExtras;
}

/** What both are matched by; undefined if nothing is to be matched, or nothing solid is there. */
export async function measuredOf(
  { cut, background, light, look }: Finished,
  store: Store,
): Promise<Measured | undefined> {
  if (isPlain(look)) return undefined;
  const person = await storedTones({ cut: cut.file, depth: cut.depth }, store);
  const scene = await storedTones({ background: background.file }, store);
  return person && scene ? { person, scene, cut, background, ...light } : undefined;
}

/** The finished picture small, as JPEG. */
export async function smallFinished(
  { most, ...finished }: Finished & { most: number },
  { store }: Bench,
): Promise<{ picture: Uint8Array }> {
  const { cut, background, placement, look, extras } = finished;
  const behind = await workingRaster(await store.need(background.file, 'the background'), background, most);
  const height = Math.max(1, Math.min(cut.height, Math.round(placement.height * behind.height)));
  const cutout = await cutoutOfHeight(await store.need(cut.file, 'this cut'), height);
  const measured = await measuredOf(finished, store);
  const also = await alsoOf(extras, behind, store);
  const picture = placedPicture(cutout, behind, placement, look, measured, also);
  return { picture: await fromRaster(picture).jpeg({ quality: 86 }).toBuffer() };
}
