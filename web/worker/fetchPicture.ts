import { LRUCache } from 'lru-cache';
import type { EncodedRaster } from '../../core/image/raster.ts';
import type { PersonMap } from '../../core/persons/personMap.ts';
import { readCube, type Cube } from '../../core/place/index.ts';

export type Cutout = EncodedRaster & { channels: 4 };

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

/** A grey picture as a map; none if there is none to be had, as the batch does then. */
export async function fetchPersons(address: string): Promise<PersonMap | undefined> {
  const picture = await fetchPicture(address).catch(() => undefined);
  return (
    picture && {
      width: picture.width,
      height: picture.height,
      data: Float32Array.from({ length: picture.width * picture.height }, (_, p) => picture.data[p * 3] / 255),
    }
  );
}

/** A stored cut: colour above, coverage below in one opaque picture. */
export async function fetchCutout(address: string): Promise<Cutout> {
  const stacked = await fetchPicture(address);
  const height = stacked.height / 2;
  const data = new Uint8Array(stacked.width * height * 4);
  const below = stacked.width * height * 3;
  for (let i = 0, o = 0; o < data.length; i += 3, o += 4) {
    data[o] = stacked.data[i];
    data[o + 1] = stacked.data[i + 1];
    data[o + 2] = stacked.data[i + 2];
    data[o + 3] = stacked.data[below + i];
  }
  return { width: stacked.width, height, channels: 4, data };
}

/** A look-up table. @throws Error if it cannot be had or read. */
export async function fetchCube(address: string): Promise<Cube> {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`the look-up table could not be fetched (${response.status})`);
  const read = readCube(await response.text());
  if (!read.ok) throw new Error(`the look-up table could not be read: ${read.reason}`);
  return read.cube;
}

/** Pictures and tables of extras that were fetched lately. */
const fetched = new LRUCache<string, Promise<Cutout | Cube>>({ max: 12 });

export function once<T extends Cutout | Cube>(address: string, get: (address: string) => Promise<T>): Promise<T> {
  const there = fetched.get(address) as Promise<T> | undefined;
  if (there) return there;
  const getting = get(address);
  fetched.set(address, getting);
  getting.catch(() => fetched.delete(address));
  return getting;
}
