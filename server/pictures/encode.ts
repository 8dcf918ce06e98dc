import sharp, { type Sharp } from 'sharp';
import type { EncodedRaster } from '../../core/image/raster.ts';

/** How a cut-out or finished picture is written. */
export type PictureFormat = 'png' | 'png16' | 'tiff16' | 'jpeg';

export const extensions: Record<PictureFormat, string> = { png: 'png', png16: 'png', tiff16: 'tif', jpeg: 'jpg' };

/**
 * Encodes a picture in sRGB with its profile embedded; alpha stays straight. 16-bit formats keep or widen
 * the depth, 8-bit formats round.
 */
export function encodePicture(picture: EncodedRaster, format: PictureFormat, quality = 92): Promise<Buffer> {
  const wide = format === 'png16' || format === 'tiff16';
  const image = fromRaster(picture).toColourspace(wide ? 'rgb16' : 'srgb');
  switch (format) {
    case 'png':
    case 'png16':
      return image.png({ compressionLevel: 5 }).withIccProfile('srgb', { attach: true }).toBuffer();
    case 'tiff16':
      return image.tiff({ compression: 'deflate', predictor: 'horizontal' }).withIccProfile('srgb').toBuffer();
    case 'jpeg':
      return image.flatten({ background: '#808080' }).jpeg({ quality, chromaSubsampling: '4:4:4' }).withIccProfile('srgb').toBuffer();
  }
}

export function fromRaster(picture: EncodedRaster): Sharp {
  const { width, height, channels, data } = picture;
  return sharp(data, { raw: { width, height, channels }, limitInputPixels: false });
}
