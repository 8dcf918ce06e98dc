import {
  isPlain,
  placedPeople,
  type Look,
  type Measured,
  type Placement,
  type Size,
} from '../../../core/place/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { fromRaster } from '../../pictures/encode.ts';
import { cutoutOfHeight, workingRaster } from '../../pictures/views.ts';
import type { Store } from '../../store/store.ts';
import type { Bench } from '../../threads/bench.ts';
import { alsoOf, type FiledExtras } from './extras.ts';
import { peopleOf, type FiledOther } from './filedOthers.ts';
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
  others: FiledOther[];
}

/** What both are matched by; undefined if nothing is to be matched, or nothing solid is there. */
export async function measuredOf(
  { cut, background, light, look }: Pick<Finished, 'cut' | 'background' | 'light' | 'look'>,
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
  const { cut, background, placement, look, extras, others } = finished;
  const behind = await workingRaster(await store.need(background.file, 'the background'), background, most);
  const open = async (of: Finished['cut'], share: number): Promise<EncodedRaster> => {
    const height = Math.max(1, Math.min(of.height, Math.round(share * behind.height)));
    return cutoutOfHeight(await store.need(of.file, 'this cut'), height);
  };
  const cutout = await open(cut, placement.height);
  const measured = await measuredOf(finished, store);
  const also = await alsoOf(extras, behind, store);
  const main = { cutout, placement, mirrored: look.mirrorPerson, turn: look.turn, measured };
  const people = await peopleOf(main, others, background, open, store);
  const picture = placedPeople(people, behind, look, also);
  return { picture: await fromRaster(picture).jpeg({ quality: 86 }).toBuffer() };
}
