import type { EncodedRaster } from '../../../core/image/raster.ts';
import { tonesOf, type Tones } from '../../../core/place/index.ts';
import { decodePicture } from '../../pictures/decode.ts';
import { decodeCutout } from '../../pictures/views.ts';
import type { Store } from '../../store/store.ts';
import type { Bench } from '../../threads/bench.ts';

/** A background, or a cut with its depth. */
export type Measurable = { background: string } | { cut: string; depth: 8 | 16 };

/** What is measured of a stored picture; once, then kept beside it, so that pages and files are matched alike. */
export async function storedTones(picture: Measurable, store: Store): Promise<Tones | null> {
  const [hash, what] =
    'cut' in picture ? ([picture.cut, 'this cut'] as const) : ([picture.background, 'the background'] as const);
  const kept = await store.derived(hash, 'tones', what, async (path) => {
    const pixels = 'cut' in picture ? await decodeCutout(path, picture.depth) : await decodePicture(path, 'background');
    return measuredText(pixels);
  });
  return JSON.parse(kept.toString()) as Tones | null;
}

/** Keeps what is measured of a cut that was just made. */
export async function keepTones(hash: string, cutout: EncodedRaster, store: Store): Promise<void> {
  await store.keepDerived(hash, 'tones', measuredText(cutout));
}

function measuredText(pixels: EncodedRaster): Buffer {
  return Buffer.from(JSON.stringify(tonesOf(pixels) ?? null));
}

/** The same in a worker thread. */
export async function measureTones(picture: Measurable, { store }: Bench): Promise<{ tones: Tones | null }> {
  return { tones: await storedTones(picture, store) };
}
