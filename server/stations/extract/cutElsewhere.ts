import type { Sharp } from 'sharp';
import { noGuidance, type Guidance } from '../../../core/cut/guidance.ts';
import { transparencyOf } from '../../pictures/transparency.ts';
import type { Store } from '../../store/store.ts';

/** Pictures that were cut out elsewhere and come in as frames. */

/** Keeps a grey picture as a matte. @returns its name. */
export function storedMatte(store: Store, grey: Sharp): Promise<string> {
  return grey
    .toColourspace('grey16')
    .png({ compressionLevel: 6 })
    .toBuffer()
    .then((file) => store.put(file));
}

/**
 * What is said of a picture that comes in as a frame and is cut out already: its transparency is its matte, and no
 * screen is looked for. Nothing of a photograph.
 */
export async function guidanceOfCutout(store: Store, path: string): Promise<Guidance> {
  const open = await transparencyOf(path);
  if (!open) return noGuidance;
  const matte = { file: await storedMatte(store, open), use: 'instead' as const };
  return { ...noGuidance, matte, departures: [{ id: 'method', to: 'whole' }] };
}
