import type { Order } from '../../../core/cut/index.ts';
import { compareOrders, type Compared } from '../../../core/cut/trial.ts';
import { keptPersons } from '../../persons/keptPersons.ts';
import { workingRaster } from '../../pictures/views.ts';
import type { Store } from '../../store/store.ts';
import type { Bench } from '../../threads/bench.ts';
import { ownMatteOf } from './ownMatte.ts';
import { readPaths } from './paths.ts';
import '../../kernels.ts';

/** Frames by their photographs' hashes, each with the order that holds and the one that is tried. */
export interface TrialInput {
  frames: { frameId: number; photograph: string; width: number; height: number; before: Order; after: Order }[];
}
export type TrialOutput = (Compared & { frameId: number })[];

/** Pixels of the copy that is cut, and on how many it is sorted: enough to tell better from worse. */
const PIXELS = 500_000;
const CELLS = 100_000;

/** Cuts each frame by both orders, small, and compares. A frame that cannot be cut is left out and stops no other. */
export async function trial({ frames }: TrialInput, { store, tell }: Bench): Promise<TrialOutput> {
  const compared: TrialOutput = [];
  for (const [n, frame] of frames.entries()) {
    tell(n / frames.length);
    const one = await comparedOf(frame, store).catch((error: Error) => {
      console.error('A frame could not be compared and is left out:', error.message);
    });
    if (one) compared.push({ frameId: frame.frameId, ...one });
  }
  return compared;
}

async function comparedOf(
  { photograph, before, after, ...size }: TrialInput['frames'][number],
  store: Store,
): Promise<Compared | undefined> {
  const small = async (hash: string, what: 'this photograph' | 'the plate') =>
    workingRaster(await store.need(hash, what), size, PIXELS);
  return compareOrders(
    await small(photograph, 'this photograph'),
    {
      plate: before.plate ? await small(before.plate, 'the plate') : undefined,
      persons: await keptPersons(store, photograph),
      own: await ownMatteOf(store, before.guidance),
    },
    [before, after],
    await readPaths(store, before.guidance.touches),
    size.width,
    CELLS,
  );
}
