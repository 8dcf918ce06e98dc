import sharp, { type Sharp } from 'sharp';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { iptcOf, MM_PER_INCH, xmpOf, type WrittenFacts } from '../../core/handOver/index.ts';
import { withIptc, withProfile } from './jpegSegments.ts';
import { exifOf } from './exif.ts';
import { srgbProfile, tagPng, tagTiff } from './tagSrgb.ts';

/** How a cut-out or finished picture is written. */
export type PictureFormat = 'png' | 'png16' | 'tiff16' | 'jpeg' | 'webp' | 'avif';

/** What is written beside the pixels. */
export interface Written {
  /** Of lossy formats, 1–100. */
  quality?: number;
  /** Pixels for each inch. */
  resolution?: number;
  facts?: WrittenFacts;
  /**
   * The profile that the picture’s values are by, of prints; sRGB without. With one, four channels are inks, and a
   * TIFF holds them.
   */
  profile?: Buffer;
}

/**
 * Encodes a picture, in sRGB unless a profile is given (JPEG and TIFF), and says so in the file; alpha stays straight. 16-bit formats keep or widen the depth,
 * 8-bit formats round. 16-bit files are tagged by hand: the codec library would convert them by way of another
 * colour space while attaching a profile, which changes dark saturated values.
 */
export async function encodePicture(
  picture: EncodedRaster,
  format: PictureFormat,
  written: Written = {},
): Promise<Buffer> {
  const { quality = 92, resolution, facts, profile } = written;
  const dots = resolution ? { xres: resolution / MM_PER_INCH, yres: resolution / MM_PER_INCH } : {};
  const eight = (): Sharp => withFacts(fromRaster(toEight(picture)), facts);
  switch (format) {
    case 'png':
      return tagPng(await eight().png({ compressionLevel: 5 }).toBuffer());
    case 'png16':
      return tagPng(await sixteen(picture, facts).png({ compressionLevel: 5 }).toBuffer());
    case 'tiff16':
      return tagTiff(
        await sixteen(picture, facts)
          .tiff({ compression: 'deflate', predictor: 'horizontal', ...dots })
          .toBuffer(),
        profile ?? (await srgbProfile()),
        facts,
        profile !== undefined && picture.channels === 4,
      );
    case 'jpeg': {
      const jpeg = eight().flatten({ background: '#808080' }).jpeg({ quality, chromaSubsampling: '4:4:4' });
      const tagged = resolution ? jpeg.withMetadata({ density: resolution }) : jpeg.withIccProfile('srgb');
      const named = facts ? withIptc(await tagged.toBuffer(), iptcOf(facts)) : await tagged.toBuffer();
      return profile ? withProfile(named, profile) : named;
    }
    case 'webp':
      return eight().webp({ quality, smartSubsample: true }).withIccProfile('srgb').toBuffer();
    case 'avif':
      return eight().avif({ quality, chromaSubsampling: '4:4:4', effort: 3 }).withIccProfile('srgb').toBuffer();
  }
}

function sixteen(picture: EncodedRaster, facts: WrittenFacts | undefined): Sharp {
  const deep = withFacts(fromRaster(toSixteen(picture)), facts);
  return deep.toColourspace(picture.channels === 1 ? 'grey16' : 'rgb16');
}

function withFacts(picture: Sharp, facts: WrittenFacts | undefined): Sharp {
  return facts ? picture.withExif(exifOf(facts)).withXmp(xmpOf(facts)) : picture;
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
