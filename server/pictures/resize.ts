import type { EncodedRaster } from '../../core/image/raster.ts';
import type { Size } from '../../core/place/index.ts';
import { fromRaster } from './encode.ts';

/** An RGB picture of another size and the same depth, resampled in linear light (Lanczos, three lobes). */
export async function resizedInLight(
  picture: EncodedRaster & { channels: 3 },
  { width, height }: Size,
): Promise<EncodedRaster & { channels: 3 }> {
  if (picture.width === width && picture.height === height) return picture;
  const deep = picture.data instanceof Uint16Array;
  const space = deep ? 'rgb16' : 'srgb';
  const content = await fromRaster(picture)
    .toColourspace(space)
    .pipelineColourspace('scrgb')
    .resize(width, height, { fit: 'fill', kernel: 'lanczos3' })
    .toColourspace(space)
    .raw({ depth: deep ? 'ushort' : 'uchar' })
    .toBuffer();
  return { width, height, channels: 3, data: valuesOf(content, deep) };
}

/** Makes edges of lightness steeper. @param radius half-width in pixels; @param strength of the least to be seen, 0–1. */
export async function sharpened(
  picture: EncodedRaster & { channels: 3 },
  radius: number,
  strength: number,
): Promise<EncodedRaster & { channels: 3 }> {
  if (strength === 0) return picture;
  const deep = picture.data instanceof Uint16Array;
  const content = await fromRaster(picture)
    .toColourspace(deep ? 'rgb16' : 'srgb')
    .sharpen({ sigma: Math.max(0.5, Math.min(10, radius)), m1: strength / 2, m2: strength * 2 })
    .toColourspace(deep ? 'rgb16' : 'srgb')
    .raw({ depth: deep ? 'ushort' : 'uchar' })
    .toBuffer();
  return { ...picture, data: valuesOf(content, deep) };
}

function valuesOf(content: Buffer, deep: boolean): Uint8Array | Uint16Array {
  return deep
    ? new Uint16Array(content.buffer.slice(content.byteOffset, content.byteOffset + content.length))
    : new Uint8Array(content.buffer, content.byteOffset, content.length);
}
