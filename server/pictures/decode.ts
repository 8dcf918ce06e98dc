import { open } from 'node:fs/promises';
import { Semaphore } from 'async-mutex';
import exifReader from 'exif-reader';
import sharp, { type Metadata, type Sharp } from 'sharp';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { noCamera, type Camera } from '../../core/gather/camera.ts';
import { isCameraRaw } from './rawFile.ts';

/** One picture is decoded by one thread; the batch has a worker for every core. */
sharp.concurrency(1);
sharp.cache(false);

/** The largest picture that is taken in. */
export const MAX_PIXELS = 60_000_000;
const MIN_SIDE = 16;

/** Why a file cannot be used, in words for the photographer. */
export class PictureError extends Error {
  override name = 'PictureError';
  constructor(
    readonly reason: string,
    readonly remedy: string,
  ) {
    super(`${reason}. ${remedy}`);
  }
}

export interface PictureFacts {
  format: 'jpeg' | 'png' | 'tiff' | 'webp' | 'heif';
  /** Upright size in pixels. */
  width: number;
  height: number;
  depth: 8 | 16;
  /** Local time without zone as the camera wrote it, ISO 8601, if it did. */
  takenAt?: string;
  camera: Camera;
  /** Focal length as on 36 × 24 mm, millimetres, if it is written. */
  focal35?: number;
}

/**
 * What a picture is used for decides what is accepted: a photograph must have colour and no holes, a frame colour; what
 * is open in it is its matte.
 */
export type PictureUse = 'frame' | 'photograph' | 'background';

/**
 * Reads the header of a picture and checks that it can be used, without decoding its pixels.
 * @throws PictureError with reason and remedy.
 */
export async function inspectPicture(path: string, use: PictureUse): Promise<PictureFacts> {
  if (await isCameraRaw(path))
    throw new PictureError(
      'it is a camera’s raw file, of which only a small preview could be read',
      'Develop it to 16-bit TIFF or to JPEG of high quality, with the camera’s white balance, and bring that in.',
    );
  await checkSignature(path);
  let metadata: Metadata;
  try {
    metadata = await sharp(path, { limitInputPixels: false, failOn: 'error' }).metadata();
  } catch {
    throw new PictureError(
      'its header cannot be read; the file is damaged or incomplete',
      'Copy it from the card again.',
    );
  }
  const { format, width, height } = metadata;
  if (!isTaken(format)) throw wrongType();
  if (width * height > MAX_PIXELS) {
    throw new PictureError(
      `it has ${Math.round((width * height) / 1e6)} megapixels, more than ${MAX_PIXELS / 1e6}`,
      'Export it at a smaller size.',
    );
  }
  if (Math.min(width, height) < MIN_SIDE)
    throw new PictureError(
      `it is only ${width}×${height} pixels`,
      `Use a picture of at least ${MIN_SIDE} pixels on each side.`,
    );
  if (metadata.space === 'cmyk')
    throw new PictureError(
      'it is in CMYK, a print colour space that has no screen green',
      'Export it as RGB, best from the camera’s original.',
    );
  const grey = metadata.space === 'b-w' || metadata.space === 'grey16';
  if (grey && use !== 'background')
    throw new PictureError(
      'it is a grey picture, and without colour there is no screen to remove',
      'Use the colour original.',
    );
  const turned = (metadata.orientation ?? 1) >= 5;
  return {
    format,
    width: turned ? height : width,
    height: turned ? width : height,
    depth: metadata.depth === 'ushort' ? 16 : 8,
    ...writtenBy(metadata),
  };
}

async function checkSignature(path: string): Promise<void> {
  const file = await open(path);
  const head = Buffer.alloc(16);
  const { bytesRead } = await file.read(head, 0, 16, 0).finally(() => file.close());
  if (bytesRead === 0) throw new PictureError('the file is empty (0 bytes)', 'Copy it from the card again.');
  const jpeg = head[0] === 0xff && head[1] === 0xd8;
  const png = head.readUInt32BE(0) === 0x89504e47;
  const tiff = head.readUInt32BE(0) === 0x49492a00 || head.readUInt32BE(0) === 0x4d4d002a;
  const webp = head.toString('latin1', 0, 4) === 'RIFF' && head.toString('latin1', 8, 12) === 'WEBP';
  const avif = /^ftypavi[fs]$/.test(head.toString('latin1', 4, 12));
  if (!jpeg && !png && !tiff && !webp && !avif) throw wrongType();
}

function wrongType(): PictureError {
  return new PictureError('it is not a JPEG, PNG, TIFF, WebP, AVIF or HEIC picture', 'Export it as JPEG, PNG or TIFF.');
}

function isTaken(format: string): format is PictureFacts['format'] {
  return ['jpeg', 'png', 'tiff', 'webp', 'heif'].includes(format);
}

/** What the camera wrote, as far as it can be read. */
export function writtenBy({
  exif,
  icc,
}: Pick<Metadata, 'exif' | 'icc'>): Pick<PictureFacts, 'takenAt' | 'camera' | 'focal35'> {
  const profile = icc ? profileName(icc) : '';
  if (!exif) return { camera: { ...noCamera, profile } };
  try {
    const { Image: image = {}, Photo: photo = {} } = exifReader(exif);
    const text = (value: unknown): string =>
      typeof value === 'string'
        ? value
            .replace(/[\u0000-\u001f]+/g, ' ')
            .trim()
            .slice(0, 80)
        : '';
    const positive = (value: unknown): number | null => {
      const number = Number(Array.isArray(value) ? value[0] : value);
      return Number.isFinite(number) && number > 0 ? number : null;
    };
    const [maker, model] = [text(image.Make), text(image.Model)];
    const named = model.toLowerCase().startsWith(maker.toLowerCase()) ? model : `${maker} ${model}`.trim();
    const date = photo.DateTimeOriginal ?? image.DateTime;
    return {
      takenAt: date instanceof Date && !Number.isNaN(date.getTime()) ? date.toISOString().slice(0, 19) : undefined,
      focal35: positive(photo.FocalLengthIn35mmFilm) ?? undefined,
      camera: {
        body: [named, text(photo.BodySerialNumber)].filter(Boolean).join(', '),
        lens: text(photo.LensModel),
        focal: positive(photo.FocalLength),
        aperture: positive(photo.FNumber),
        shutter: positive(photo.ExposureTime),
        iso: positive(photo.ISOSpeedRatings ?? photo.PhotographicSensitivity),
        profile,
      },
    };
  } catch {
    return { camera: { ...noCamera, profile } };
  }
}

/** The description that a colour profile carries, in one or two bytes a letter; empty if it has none. */
function profileName(icc: Buffer): string {
  const count = icc.length >= 132 ? icc.readUInt32BE(128) : 0;
  for (let n = 0; n < Math.min(count, 100) && 144 + 12 * n <= icc.length; n++) {
    const at = 132 + 12 * n;
    if (icc.toString('latin1', at, at + 4) !== 'desc') continue;
    const [from, size] = [icc.readUInt32BE(at + 4), icc.readUInt32BE(at + 8)];
    const tag = icc.subarray(from, Math.min(icc.length, from + size));
    const kind = tag.toString('latin1', 0, 4);
    const letters =
      kind === 'mluc' && tag.length >= 28
        ? tag
            .subarray(tag.readUInt32BE(24), tag.readUInt32BE(24) + tag.readUInt32BE(20))
            .toString('latin1')
            .replace(/\0/g, '')
        : tag.subarray(12).toString('latin1').split('\0')[0];
    return letters
      .replace(/[^\x20-\x7e]/g, '')
      .trim()
      .slice(0, 80);
  }
  return '';
}

/** How many pictures are read through at once. */
const checking = new Semaphore(2);

/**
 * Reads a picture through to its end, strip by strip, without ever holding it whole.
 * @returns a small picture of it, since all of it has been read: a JPEG of `height` pixels on the neutral grey of the
 * interface.
 * @throws PictureError if it is damaged, or a photograph has transparent areas.
 */
export async function checkWhole(path: string, use: PictureUse, height: number): Promise<Buffer> {
  return checking.runExclusive(async () => {
    await refuseHoles(path, use);
    try {
      return await smallPicture(
        sharp(path, { limitInputPixels: false, failOn: 'error', sequentialRead: true }),
        height,
      );
    } catch (error) {
      throw faultOfDisk(error) ?? damaged();
    }
  });
}

/** A small JPEG on the neutral grey of the interface, for lists. */
export function smallPicture(source: Sharp, height: number): Promise<Buffer> {
  return source
    .autoOrient()
    .resize({ height, withoutEnlargement: true })
    .flatten({ background: '#767676' })
    .toColourspace('srgb')
    .jpeg({ quality: 82 })
    .toBuffer();
}

function damaged(): PictureError {
  return new PictureError(
    'its picture data is damaged or cut short',
    'Copy it from the card again; if that fails, use another frame of the same pose.',
  );
}

/** A failure of the machine is not one of the picture. */
function faultOfDisk(error: unknown): Error | undefined {
  return error instanceof Error &&
    /No space left|out of memory|unable to allocate|too many open files/i.test(error.message)
    ? error
    : undefined;
}

async function refuseHoles(path: string, use: PictureUse): Promise<void> {
  if (use !== 'photograph') return;
  try {
    const { hasAlpha } = await sharp(path, { limitInputPixels: false }).metadata();
    if (!hasAlpha || (await sharp(path, { limitInputPixels: false, failOn: 'error' }).stats()).isOpaque) return;
  } catch (error) {
    throw faultOfDisk(error) ?? damaged();
  }
  throw new PictureError(
    'it has transparent areas, so it is no photograph straight from a camera',
    'Use the original with its screen.',
  );
}

/**
 * Decodes a picture upright, in sRGB (embedded profiles converted), 3 channels, at its own depth.
 * @throws PictureError with reason and remedy.
 */
export async function decodePicture(path: string, use: PictureUse): Promise<EncodedRaster & { channels: 3 }> {
  const facts = await inspectPicture(path, use);
  const wide = facts.depth === 16;
  await refuseHoles(path, use);
  try {
    const { hasAlpha, icc } = await sharp(path, { limitInputPixels: false }).metadata();
    // A profile that is sRGB already needs no conversion, and at 16 bits the library's detour would change values.
    const source = sharp(path, {
      limitInputPixels: false,
      failOn: 'error',
      ignoreIcc: icc !== undefined && isSrgb(icc),
    }).autoOrient();
    const flat = hasAlpha
      ? use === 'background'
        ? source.flatten({ background: '#808080' })
        : source.removeAlpha()
      : source;
    const converted = wide
      ? (icc ? flat.withIccProfile('srgb') : flat).toColourspace('rgb16').raw({ depth: 'ushort' })
      : flat.toColourspace('srgb').raw();
    const { data, info } = await converted.toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, channels: 3, data: wide ? wordsOf(data) : bytesOf(data) };
  } catch (error) {
    if (error instanceof PictureError) throw error;
    throw faultOfDisk(error) ?? damaged();
  }
}

/** Whether a profile's own description says sRGB, in one or two bytes a letter. */
function isSrgb(icc: Buffer): boolean {
  return icc.includes('sRGB') || icc.includes('s\0R\0G\0B');
}

function bytesOf(buffer: Buffer): Uint8Array {
  return new Uint8Array(buffer.buffer, buffer.byteOffset, buffer.length);
}

function wordsOf(buffer: Buffer): Uint16Array {
  if (buffer.byteOffset % 2 === 0) return new Uint16Array(buffer.buffer, buffer.byteOffset, buffer.length / 2);
  return new Uint16Array(buffer.buffer.slice(buffer.byteOffset, buffer.byteOffset + buffer.length));
}
