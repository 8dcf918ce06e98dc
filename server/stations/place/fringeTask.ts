import { fringeOn, fringeSamples, type FringeSamples } from '../../../core/place/fringe.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import type { Placement, Size } from '../../../core/place/index.ts';
import { colourDifference } from '../../pictures/colourDifference.ts';
import { decodeCutout, workingRaster } from '../../pictures/views.ts';
import type { Store } from '../../store/store.ts';
import type { Bench } from '../../threads/bench.ts';

/** A cut and the backgrounds that it might stand on. */
export interface FringeInput {
  cut: { file: string; depth: 8 | 16 } & Size;
  /** Luminance of the screen behind the person, linear. */
  screen: number;
  on: ({ file: string; placement: Placement; mirrored: boolean } & Size)[];
}

/** Of a background, to take single tones from. */
const PIXELS = 60_000;

/** Keeps the outline's samples of a cut that was just made. */
export async function keepFringe(hash: string, cutout: EncodedRaster, store: Store): Promise<void> {
  await store.keepDerived(hash, 'fringes', samplesText(cutout));
}

/** What will be seen of a cut's fringe on each background. */
export async function fringe({ cut, screen, on }: FringeInput, { store }: Bench): Promise<{ seen: number[] }> {
  const kept = await store.derived(cut.file, 'fringes', 'this cut', async (path) =>
    samplesText(await decodeCutout(path, cut.depth)),
  );
  const samples = JSON.parse(kept.toString()) as FringeSamples;
  const seen: number[] = [];
  for (const { file, placement, mirrored, ...size } of on) {
    const background = await workingRaster(await store.need(file, 'the background'), size, PIXELS);
    seen.push(fringeOn(samples, screen, cut, background, size, placement, colourDifference, mirrored));
  }
  return { seen };
}

function samplesText(cutout: EncodedRaster): Buffer {
  return Buffer.from(JSON.stringify(fringeSamples(cutout)));
}
