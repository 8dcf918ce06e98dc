import { open, readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import sharp from 'sharp';
import { MAX_PIXELS, PictureError, writtenBy, type PictureFacts } from './decode.ts';
import { srgbProfile, tagTiff } from './tagSrgb.ts';

/** HEIC, as phones write it, is read by its library’s WebAssembly build, in which a hostile file can harm nothing. */

/** What is used of the library: pointers are numbers in its memory. */
interface HeifLibrary {
  HEAPU8: Uint8Array;
  HeifDecoder: new () => { decode(content: Uint8Array): HeifImage[] };
  _malloc(bytes: number): number;
  _free(pointer: number): void;
  _heif_image_handle_get_raw_color_profile_size(handle: number): number;
  _heif_image_handle_get_raw_color_profile(error: number, handle: number, out: number): void;
  _heif_image_handle_get_list_of_metadata_block_IDs(handle: number, filter: number, ids: number, count: number): number;
  _heif_image_handle_get_metadata_type(handle: number, id: number): number;
  _heif_image_handle_get_metadata_size(handle: number, id: number): number;
  _heif_image_handle_get_metadata(error: number, handle: number, id: number, out: number): void;
}
interface HeifImage {
  handle: { $$: { ptr: number } };
  get_width(): number;
  get_height(): number;
  display(out: { data: Uint8ClampedArray; width: number; height: number }, done: (shown: object | null) => void): void;
  free(): void;
}
/** Bytes of what the library returns errors in. */
const ERROR_BYTES = 16;
/** The largest profile or EXIF that is read, bytes. */
const MOST_BESIDE = 4_000_000;
const MOST_BLOCKS = 8;

/** Brands of the main box by which a file of this family is told from AVIF. */
const brands = ['heic', 'heix', 'hevc', 'hevx', 'heim', 'heis', 'mif1', 'msf1'];

export async function isHeic(path: string): Promise<boolean> {
  const file = await open(path);
  const head = Buffer.alloc(32);
  const { bytesRead } = await file.read(head, 0, 32, 0).finally(() => file.close());
  if (bytesRead < 16 || head.toString('latin1', 4, 8) !== 'ftyp') return false;
  const compatible = head.toString('latin1', 16, 32);
  return brands.includes(head.toString('latin1', 8, 12)) && !compatible.includes('avif');
}

export interface FromHeic {
  /** TIFF of 8 bits with the picture’s own profile. */
  content: Buffer;
  facts: Omit<PictureFacts, 'format'>;
}

/** Reads the main picture of a HEIC file, upright. @throws PictureError if it cannot be read. */
export async function readHeic(path: string): Promise<FromHeic> {
  const require = createRequire(import.meta.url);
  // A library of its own for each file: its memory grows to that of the largest and would stay.
  const make = require('libheif-js/libheif-wasm/libheif-bundle.js') as () => HeifLibrary;
  const library = make();
  const image = decoded(library, await readFile(path));
  const [width, height] = [image.get_width(), image.get_height()];
  if (width * height > MAX_PIXELS)
    throw new PictureError(
      `it has ${Math.round((width * height) / 1e6)} megapixels, more than ${MAX_PIXELS / 1e6}`,
      'Export it at a smaller size.',
    );
  const out = { data: new Uint8ClampedArray(width * height * 4), width, height };
  const shown = await new Promise<object | null>((resolve) => image.display(out, resolve));
  if (!shown) throw damaged();
  const { ptr } = image.handle.$$;
  const icc = profileOf(library, ptr);
  const exif = exifOf(library, ptr);
  image.free();
  const tiff = await sharp(out.data, { raw: { width, height, channels: 4 }, limitInputPixels: false })
    .removeAlpha()
    .tiff({ compression: 'deflate', predictor: 'horizontal' })
    .toBuffer();
  const content = tagTiff(tiff, icc ?? (await srgbProfile()));
  return { content, facts: { width, height, depth: 8, ...writtenBy({ exif, icc }) } };
}

function damaged(): PictureError {
  return new PictureError(
    'its picture data is damaged or cut short',
    'Copy it from the phone again, or export it there as JPEG.',
  );
}

function decoded({ HeifDecoder }: HeifLibrary, content: Uint8Array): HeifImage {
  let images: HeifImage[];
  try {
    images = new HeifDecoder().decode(content);
  } catch {
    throw damaged();
  }
  if (!images.length) throw damaged();
  return images[0];
}

/** Bytes that the library writes to a place of its own memory. */
function written(library: HeifLibrary, bytes: number, write: (error: number, out: number) => void): Buffer | undefined {
  if (bytes <= 0 || bytes > MOST_BESIDE) return undefined;
  const [error, out] = [library._malloc(ERROR_BYTES), library._malloc(bytes)];
  try {
    write(error, out);
    return Buffer.from(library.HEAPU8.slice(out, out + bytes));
  } finally {
    library._free(out);
    library._free(error);
  }
}

function profileOf(library: HeifLibrary, handle: number): Buffer | undefined {
  return written(library, library._heif_image_handle_get_raw_color_profile_size(handle), (error, out) =>
    library._heif_image_handle_get_raw_color_profile(error, handle, out),
  );
}

/** The picture’s EXIF as a TIFF structure; the block begins with how far from there that is. */
function exifOf(library: HeifLibrary, handle: number): Buffer | undefined {
  const ids = library._malloc(4 * MOST_BLOCKS);
  try {
    const count = library._heif_image_handle_get_list_of_metadata_block_IDs(handle, 0, ids, MOST_BLOCKS);
    for (let n = 0; n < Math.min(count, MOST_BLOCKS); n++) {
      const id = Buffer.from(library.HEAPU8.slice(ids + 4 * n, ids + 4 * n + 4)).readUInt32LE();
      const type = library._heif_image_handle_get_metadata_type(handle, id);
      if (Buffer.from(library.HEAPU8.slice(type, type + 4)).toString('latin1') !== 'Exif') continue;
      const block = written(library, library._heif_image_handle_get_metadata_size(handle, id), (error, out) =>
        library._heif_image_handle_get_metadata(error, handle, id, out),
      );
      if (block && block.length > 8) return block.subarray(4 + block.readUInt32BE(0));
    }
    return undefined;
  } finally {
    library._free(ids);
  }
}
