import sharp from 'sharp';
import type { Guidance, OwnCoverage } from '../../../core/cut/index.ts';
import type { Store } from '../../store/store.ts';

/** The matte that a frame is cut with, if there is one. @throws PictureError if it is gone. */
export async function ownMatteOf(store: Store, { matte }: Guidance): Promise<OwnCoverage | undefined> {
  if (!matte) return undefined;
  const { data, info } = await sharp(await store.need(matte.file, 'the matte'), { limitInputPixels: false })
    .toColourspace('grey16')
    .extractChannel(0)
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  const words = new Uint16Array(data.buffer.slice(data.byteOffset, data.byteOffset + data.length));
  return { width: info.width, height: info.height, data: words, use: matte.use };
}
