import type { EncodedRaster } from '../../core/image/raster.ts';

/** A picture as the browser draws it. */
export function bitmapOf(picture: EncodedRaster): Promise<ImageBitmap> {
  return createImageBitmap(toImageData(picture));
}

/** Pixels as a canvas takes them; three channels become opaque. */
export function toImageData({ width, height, channels, data }: EncodedRaster): ImageData {
  if (channels === 4)
    return new ImageData(
      new Uint8ClampedArray(data.buffer as ArrayBuffer, data.byteOffset, data.length),
      width,
      height,
    );
  const pixels = new ImageData(width, height);
  for (let i = 0, o = 0; i < data.length; i += 3, o += 4) {
    pixels.data[o] = data[i];
    pixels.data[o + 1] = data[i + 1];
    pixels.data[o + 2] = data[i + 2];
    pixels.data[o + 3] = 255;
  }
  return pixels;
}
