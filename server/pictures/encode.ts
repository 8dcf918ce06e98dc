import sharp, { type Sharp } from 'sharp';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { srgbProfile, tagPng, tagTiff } from './tagSrgb.ts';

/** How a cut-out or finished picture is written. */
export type PictureFormat = 'png' | 'png16' | 'tiff16' | 'jpeg';

export const extensions: Record<PictureFormat, string> = { png: 'png', png16: 'png', tiff16: 'tif', jpeg: 'jpg' };

/**
 * Encodes a picture in sRGB and says so in the file; alpha stays straight. 16-bit formats keep or widen the depth,
 * 8-bit formats round. 16-bit files are tagged by hand: the codec library would convert them by way of another
 * colour space while attaching a profile, which changes dark saturated values.
 */
export async function encodePicture(picture: EncodedRaster, format: PictureFormat, quality = 92): Promise<Buffer> {
  switch (format) {
    case 'png':
      return tagPng(await fromRaster(toEight(picture)).png({ compressionLevel: 5 }).toBuffer());
    case 'png16':
      return tagPng(
        await fromRaster(toSixteen(picture)).toColourspace('rgb16').png({ compressionLevel: 5 }).toBuffer(),
      );
    case 'tiff16':
      return tagTiff(
        await fromRaster(toSixteen(picture))
          .toColourspace('rgb16')
          .tiff({ compression: 'deflate', predictor: 'horizontal' })
          .toBuffer(),
        await srgbProfile(),
      );
    case 'jpeg':
      return fromRaster(toEight(picture))
        .flatten({ background: '#808080' })
        .jpeg({ quality, chromaSubsampling: '4:4:4' })
        .withIccProfile('srgb')
        .toBuffer();
  }
}

export function fromRaster(picture: EncodedRaster): Sharp {
  const { width, height, channels, data } = picture;
  return sharp(data, { raw: { width, height, channels }, limitInputPixels: false });
}

/** 16-bit values rounded to 8 bits; a picture that has them already is passed on. */
export function toEight(picture: EncodedRaster): EncodedRaster {
  if (picture.data instanceof Uint8Array) return picture;
  const data = new Uint8Array(picture.data.length);
  for (let i = 0; i < data.length; i++) data[i] = Math.round(picture.data[i] / 257);
  return { ...picture, data };
}

/** 8-bit values spread over 16 bits; a picture that has them already is passed on. */
export function toSixteen(picture: EncodedRaster): EncodedRaster {
  if (picture.data instanceof Uint16Array) return picture;
  const data = new Uint16Array(picture.data.length);
  for (let i = 0; i < data.length; i++) data[i] = picture.data[i] * 257;
  return { ...picture, data };
}
