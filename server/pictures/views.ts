import sharp, { type Sharp } from 'sharp';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { mattePicture, type Size } from '../../core/place/index.ts';
import { smallPicture } from './decode.ts';
import { fromRaster } from './encode.ts';

/** Reads a stored cut-out (our own PNG): RGBA, straight alpha, at its depth. */
export async function decodeCutout(path: string, depth: 8 | 16): Promise<EncodedRaster & { channels: 4 }> {
  const image = sharp(path, { limitInputPixels: false, ignoreIcc: true }).ensureAlpha();
  const { data, info } =
    depth === 16
      ? await image.toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true })
      : await image.toColourspace('srgb').raw().toBuffer({ resolveWithObject: true });
  const pixels =
    depth === 16
      ? new Uint16Array(data.buffer.slice(data.byteOffset, data.byteOffset + data.length))
      : new Uint8Array(data.buffer, data.byteOffset, data.length);
  return { width: info.width, height: info.height, channels: 4, data: pixels };
}

/** A picture's pixels with their transparency, 8 bit. */
export async function rgbaOf(image: Sharp): Promise<EncodedRaster & { channels: 4 }> {
  const { data, info } = await image.raw({ depth: 'uchar' }).toBuffer({ resolveWithObject: true });
  return {
    width: info.width,
    height: info.height,
    channels: 4,
    data: new Uint8Array(data.buffer, data.byteOffset, data.length),
  };
}

/** A rectangle of a stored cut-out, 8 bit. */
export async function cutoutRegion(
  path: string,
  region: { left: number; top: number; width: number; height: number },
): Promise<EncodedRaster & { channels: 4 }> {
  return rgbaOf(sharp(path, { limitInputPixels: false }).extract(region).ensureAlpha().toColourspace('srgb'));
}

/** A picture that is laid over another: upright, sRGB, 8 bit with its transparency, filling that one's size. */
export async function decodeLayer(path: string, size: Size): Promise<EncodedRaster & { channels: 4 }> {
  return rgbaOf(
    sharp(path, { limitInputPixels: false })
      .autoOrient()
      .resize({ ...size, fit: 'cover' })
      .toColourspace('srgb')
      .ensureAlpha(),
  );
}

/** The same in its own form, of a height; never larger than it is. */
export async function layerOfHeight(path: string, height: number): Promise<EncodedRaster & { channels: 4 }> {
  return rgbaOf(
    sharp(path, { limitInputPixels: false })
      .autoOrient()
      .resize({ height, withoutEnlargement: true })
      .toColourspace('srgb')
      .ensureAlpha(),
  );
}

/** A stored cut-out reduced to a height, 8 bit. */
export async function cutoutOfHeight(path: string, height: number): Promise<EncodedRaster & { channels: 4 }> {
  return rgbaOf(sharp(path, { limitInputPixels: false }).resize({ height }).ensureAlpha().toColourspace('srgb'));
}

/**
 * A cut-out reduced to at most `maxPixels`, as one opaque PNG of double height: colour above, coverage below. Browsers
 * premultiply a picture with alpha when they decode it, which would spoil the colour of hair.
 */
export async function stackedPreview(path: string, maxPixels: number): Promise<Buffer> {
  const { width, height } = await sharp(path, { limitInputPixels: false }).metadata();
  const scale = Math.min(1, Math.sqrt(maxPixels / (width * height)));
  return stacked(await cutoutOfHeight(path, Math.max(1, Math.round(height * scale))));
}

/** The same of a picture with alpha. */
export function stacked(cutout: EncodedRaster & { channels: 4 }): Promise<Buffer> {
  const matte = mattePicture(cutout);
  const both = new Uint8Array(matte.data.length * 2);
  for (let i = 0, o = 0; i < cutout.data.length; i += 4, o += 3) {
    both[o] = cutout.data[i];
    both[o + 1] = cutout.data[i + 1];
    both[o + 2] = cutout.data[i + 2];
  }
  both.set(matte.data, matte.data.length);
  return fromRaster({ width: cutout.width, height: cutout.height * 2, channels: 3, data: both })
    .png({ compressionLevel: 2 })
    .toBuffer();
}

/** A picture upright, sRGB, reduced to at most `maxPixels`, losslessly: what the browser cuts for its preview. */
export function workingCopy(path: string, upright: Size, maxPixels: number): Promise<Buffer> {
  return reduced(path, upright, maxPixels).png({ compressionLevel: 2 }).toBuffer();
}

/** The same as pixels. */
export async function workingRaster(
  path: string,
  upright: Size,
  maxPixels: number,
): Promise<EncodedRaster & { data: Uint8Array }> {
  const { data, info } = await reduced(path, upright, maxPixels)
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  return {
    width: info.width,
    height: info.height,
    channels: 3,
    data: new Uint8Array(data.buffer, data.byteOffset, data.length),
  };
}

function reduced(path: string, upright: Size, maxPixels: number): Sharp {
  const scale = Math.min(1, Math.sqrt(maxPixels / (upright.width * upright.height)));
  const image = sharp(path, { limitInputPixels: false }).autoOrient().toColourspace('srgb').removeAlpha();
  return scale < 1
    ? image.resize({
        width: Math.round(upright.width * scale),
        height: Math.round(upright.height * scale),
        fit: 'fill',
        kernel: 'mitchell',
      })
    : image;
}

/** Coverage of a stored cut at a small size, as a grey picture. */
export function figure(path: string, height: number): Promise<Buffer> {
  return sharp(path, { limitInputPixels: false })
    .ensureAlpha()
    .extractChannel('alpha')
    .toColourspace('b-w')
    .resize({ height })
    .png()
    .toBuffer();
}

/** A small picture of a stored file. */
export function thumbnail(path: string, height: number): Promise<Buffer> {
  return smallPicture(sharp(path, { limitInputPixels: false }), height);
}
