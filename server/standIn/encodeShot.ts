import sharp from 'sharp';
import { noCamera, type Camera } from '../../core/gather/camera.ts';
import type { Plan } from '../../core/plan/index.ts';
import type { TakenFrame } from '../../core/studio/index.ts';
import { sensorReading } from '../../core/studio/sensor.ts';
import { encodeDng } from './encodeDng.ts';
import { encodePicture, fromRaster } from '../pictures/encode.ts';

/** What the stand-in camera writes of itself. */
export function writtenBy({ focal, aperture, shutter, iso }: Plan['camera']): Camera {
  return { ...noCamera, body: 'Stand-in Camera', focal: focal * 1000, aperture, shutter, iso };
}

/** The photograph as the plan's camera writes it: JPEG with halved chroma, 16-bit TIFF, or a raw file (DNG). */
export async function encodeShot(taken: TakenFrame, camera: Plan['camera'], takenAt: string): Promise<Buffer> {
  if (camera.file === 'raw') return encodeDng(sensorReading(taken.frame), writtenBy(camera), takenAt);
  if (camera.file === '16-bit') return encodePicture(taken.frame, 'tiff16');
  return fromRaster(taken.frame)
    .toColourspace('srgb')
    .jpeg({ quality: 90, chromaSubsampling: '4:2:0' })
    .withExif({
      IFD0: { Make: 'Stand-in', Model: 'Camera' },
      IFD2: {
        DateTimeOriginal: takenAt,
        FocalLength: `${Math.round(camera.focal * 10_000)}/10`,
        FNumber: `${Math.round(camera.aperture * 10)}/10`,
        ExposureTime: `${Math.round(camera.shutter * 1e6)}/1000000`,
        ISOSpeedRatings: `${Math.round(camera.iso)}`,
      },
    })
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
