import type { EncodedRaster } from '../../core/image/raster.ts';

/**
 * A picture as its pixels stand in the file, 8 bit; what it has of transparency is left out.
 * @param width that it is brought to, its own if left out.
 * @throws Error if it cannot be fetched or decoded.
 */
export async function fetchPicture(address: string, width?: number): Promise<EncodedRaster> {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`the picture could not be fetched (${response.status})`);
  const options: ImageBitmapOptions = {
    colorSpaceConversion: 'none',
    premultiplyAlpha: 'none',
    ...(width ? { resizeWidth: width, resizeQuality: 'high' } : {}),
  };
  const bitmap = await createImageBitmap(await response.blob(), options);
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('the browser gives no canvas to decode with');
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  const out = new Uint8Array(bitmap.width * bitmap.height * 3);
  for (let i = 0, o = 0; o < out.length; i += 4, o += 3) {
    out[o] = data[i];
    out[o + 1] = data[i + 1];
    out[o + 2] = data[i + 2];
  }
  return { width: bitmap.width, height: bitmap.height, channels: 3, data: out };
}
