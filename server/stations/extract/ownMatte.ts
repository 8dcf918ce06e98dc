import sharp from 'sharp';
import type { Guidance, OwnCoverage } from '../../../core/cut/index.ts';
import { coverageIn } from '../../pictures/transparency.ts';
import type { Store } from '../../store/store.ts';

/** The matte that a frame is cut with, if there is one. @throws PictureError if it is gone. */
export async function ownMatteOf(store: Store, { matte }: Guidance): Promise<OwnCoverage | undefined> {
  if (!matte) return undefined;
  const grey = sharp(await store.need(matte.file, 'the matte'), { limitInputPixels: false }).extractChannel(0);
  return { ...(await coverageIn(grey)), use: matte.use };
}
