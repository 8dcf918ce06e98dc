import sharp, { type Sharp } from 'sharp';
import type { OwnCoverage } from '../../core/cut/ownMatte.ts';

/** The transparency of a picture as a grey one of 16 bits, upright; undefined if all of it is opaque. */
export async function transparencyOf(path: string): Promise<Sharp | undefined> {
  const source = (): Sharp => sharp(path, { limitInputPixels: false }).autoOrient();
  const { hasAlpha } = await source().metadata();
  if (!hasAlpha || (await source().stats()).isOpaque) return undefined;
  return source().toColourspace('rgb16').extractChannel(3).toColourspace('grey16');
}

/** A picture of one channel as coverage, 0–65535. */
export async function coverageIn(grey: Sharp): Promise<Omit<OwnCoverage, 'use'>> {
  const { data, info } = await grey
    .toColourspace('grey16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  const words = new Uint16Array(data.buffer.slice(data.byteOffset, data.byteOffset + data.length));
  return { width: info.width, height: info.height, data: words };
}
