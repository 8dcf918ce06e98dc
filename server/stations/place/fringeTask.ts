import { LRUCache } from 'lru-cache';
import { fringeOn, fringeSamples, type FringeSamples } from '../../../core/place/fringe.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { handStep, matchByHand, matchOf } from '../../../core/place/match.ts';
import { reframed } from '../../../core/place/reframed.ts';
import { colourDifference } from '../../pictures/colourDifference.ts';
import { decodeCutout, workingRaster } from '../../pictures/views.ts';
import type { Store } from '../../store/store.ts';
import { measuredOf, type Finished } from './finishedTask.ts';
import type { Bench } from '../../threads/bench.ts';

/** A cut and the backgrounds that it might stand on, and how. */
export interface FringeInput {
  cut: Finished['cut'];
  /** Luminance of the screen behind the person, linear. */
  screen: number;
  on: Pick<Finished, 'background' | 'placement' | 'look' | 'light'>[];
}

/** Of a background, to take single tones from. */
const PIXELS = 60_000;

/** Backgrounds by their files, small. */
const small = new LRUCache<string, EncodedRaster>({ max: 40 });

async function smallOf(background: Finished['background'], store: Store): Promise<EncodedRaster> {
  const there = small.get(background.file);
  if (there) return there;
  const made = await workingRaster(await store.need(background.file, 'the background'), background, PIXELS);
  small.set(background.file, made);
  return made;
}

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
  for (const one of on) {
    const { background: file, placement, look } = one;
    const background = reframed(await smallOf(file, store), look);
    const measured = await measuredOf({ ...one, cut }, store);
    const scene = {
      ...{ screen, cut, background, on: file, placement },
      ...{ mirrored: look.mirrorPerson, mirrorBackground: look.mirrorBackground },
      person: (measured ? matchOf(measured, look, placement) : matchByHand(look)).step,
      behind: handStep(look.behindExposure, look.behindWarmth, look.behindSaturation),
    };
    seen.push(fringeOn(samples, scene, colourDifference));
  }
  return { seen };
}

function samplesText(cutout: EncodedRaster): Buffer {
  return Buffer.from(JSON.stringify(fringeSamples(cutout)));
}
