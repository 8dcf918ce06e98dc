import sharp from 'sharp';
import type { Plan } from '../../core/plan/index.ts';
import type { TakenFrame } from '../../core/studio/index.ts';
import { encodePicture, fromRaster } from '../pictures/encode.ts';

/** The photograph as the plan's camera writes it: JPEG with halved chroma, or 16-bit TIFF. */
export async function encodeShot(taken: TakenFrame, file: Plan['camera']['file'], takenAt: string): Promise<Buffer> {
  if (file === '16-bit') return encodePicture(taken.frame, 'tiff16');
  return fromRaster(taken.frame)
    .toColourspace('srgb')
    .jpeg({ quality: 90, chromaSubsampling: '4:2:0' })
    .withExif({ IFD2: { DateTimeOriginal: takenAt } })
    .toBuffer();
}

/** True coverage as a 16-bit grey PNG. */
export async function encodeMatte({ matte }: TakenFrame): Promise<Buffer> {
  const truth = Uint16Array.from(matte.data, (a) => Math.round(a * 65535));
  return sharp(truth, { raw: { width: matte.width, height: matte.height, channels: 1 } })
    .toColourspace('grey16')
    .png()
    .toBuffer();
}
