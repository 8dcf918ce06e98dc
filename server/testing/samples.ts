import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp, { type Sharp } from 'sharp';

/** Sample pictures for tests: a person-like disc on a green screen, and files that are broken in known ways. */

export interface SampleOptions {
  width?: number;
  height?: number;
  /** A level 0–255 mixed into the disc, so that samples differ in content. */
  shade?: number;
}

/** RGB values of the sample scene. */
export function samplePixels({ width = 120, height = 160, shade = 0 }: SampleOptions = {}): Uint8Array {
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const inside = Math.hypot(x - width / 2, y - height * 0.6) < width * 0.3;
      data.set(inside ? [190, 130 - (shade % 60), 110] : [80, 176, 88], (y * width + x) * 3);
    }
  }
  return data;
}

export function sampleImage(options: SampleOptions = {}): Sharp {
  const { width = 120, height = 160 } = options;
  return sharp(samplePixels(options), { raw: { width, height, channels: 3 } });
}

/** Writes one file of every kind that the application must take or refuse. @returns the paths by name. */
export async function writeSamples(folder: string): Promise<Record<SampleName, string>> {
  const jpeg = await sampleImage().jpeg({ quality: 92 }).toBuffer();
  const alphaOf = (alpha: number) => sampleImage().ensureAlpha(alpha).png().toBuffer();
  const wide = Uint16Array.from(samplePixels(), (v) => v * 257);
  const animated = await sharp({ create: { width: 20, height: 20, channels: 3, background: '#50b058' } })
    .gif()
    .toBuffer();
  const contents: Record<SampleName, Buffer> = {
    'good.jpg': jpeg,
    'turned.jpg': await sampleImage().withMetadata({ orientation: 6 }).jpeg().toBuffer(),
    'dated.jpg': await sampleImage({ shade: 7 })
      .withExif({ IFD2: { DateTimeOriginal: '2026:06:13 11:04:07' } })
      .jpeg()
      .toBuffer(),
    'good.png': await sampleImage({ shade: 1 }).png().toBuffer(),
    'good.tif': await sampleImage({ shade: 2 }).tiff({ compression: 'deflate' }).toBuffer(),
    'sixteen.png': await sharp(wide, { raw: { width: 120, height: 160, channels: 3 } })
      .toColourspace('rgb16')
      .png()
      .toBuffer(),
    'sixteen.tif': await sharp(wide, { raw: { width: 120, height: 160, channels: 3 } })
      .toColourspace('rgb16')
      .tiff({ compression: 'deflate' })
      .toBuffer(),
    'opaque.png': await alphaOf(1),
    'transparent.png': await alphaOf(0.5),
    'grey.jpg': await sampleImage().greyscale().toColourspace('b-w').jpeg().toBuffer(),
    'cmyk.jpg': await sampleImage().toColourspace('cmyk').jpeg().toBuffer(),
    'empty.jpg': Buffer.alloc(0),
    'truncated.jpg': jpeg.subarray(0, Math.floor(jpeg.length * 0.6)),
    'truncated.png': (await sampleImage().png().toBuffer()).subarray(0, 300),
    'text.jpg': Buffer.from('This is no picture at all.'),
    'moving.gif': animated,
    'tiny.png': await sharp({ create: { width: 4, height: 4, channels: 3, background: '#50b058' } })
      .png()
      .toBuffer(),
    'huge.png': hugeHeader(await sampleImage().png().toBuffer()),
    'no-screen.jpg': await sharp({ create: { width: 120, height: 90, channels: 3, background: '#b0a090' } })
      .jpeg()
      .toBuffer(),
    'ünï code & 100% (1).jpg': await sampleImage({ shade: 3 }).jpeg().toBuffer(),
  };
  const paths = {} as Record<SampleName, string>;
  for (const [name, content] of Object.entries(contents) as [SampleName, Buffer][]) {
    paths[name] = join(folder, name);
    await writeFile(paths[name], content);
  }
  return paths;
}

/** A PNG whose header claims 20000×20000 pixels, with a matching checksum. */
function hugeHeader(png: Buffer): Buffer {
  const huge = Buffer.from(png);
  huge.writeUInt32BE(20000, 16);
  huge.writeUInt32BE(20000, 20);
  huge.writeInt32BE(crc32(huge.subarray(12, 29)), 29);
  return huge;
}

function crc32(bytes: Buffer): number {
  let crc = -1;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit++) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
  }
  return ~crc;
}

export type SampleName =
  | 'good.jpg'
  | 'turned.jpg'
  | 'dated.jpg'
  | 'good.png'
  | 'good.tif'
  | 'sixteen.png'
  | 'sixteen.tif'
  | 'opaque.png'
  | 'transparent.png'
  | 'grey.jpg'
  | 'cmyk.jpg'
  | 'empty.jpg'
  | 'truncated.jpg'
  | 'truncated.png'
  | 'text.jpg'
  | 'moving.gif'
  | 'tiny.png'
  | 'huge.png'
  | 'no-screen.jpg'
  | 'ünï code & 100% (1).jpg';
