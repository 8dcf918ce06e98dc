import sharp from 'sharp';
import { NETWORK_SIDE, type PersonMap } from '../../core/persons/personMap.ts';
import { createPlane, type EncodedRaster } from '../../core/image/raster.ts';
import { decodePicture } from '../pictures/decode.ts';
import type { Store } from '../store/store.ts';
import { findPersons } from './findPersons.ts';

/** A map as a grey PNG of 8 bits. */
export function encodePersons({ width, height, data }: PersonMap): Promise<Buffer> {
  const bytes = new Uint8Array(data.length);
  for (let p = 0; p < data.length; p++) bytes[p] = Math.round(255 * data[p]);
  return sharp(bytes, { raw: { width, height, channels: 1 } })
    .toColourspace('b-w')
    .png()
    .toBuffer();
}

export async function decodePersons(file: Buffer): Promise<PersonMap> {
  const { data, info } = await sharp(file)
    .toColourspace('b-w')
    .extractChannel(0)
    .raw()
    .toBuffer({ resolveWithObject: true });
  const map = createPlane(info.width, info.height);
  for (let p = 0; p < map.data.length; p++) map.data[p] = data[p] / 255;
  return map;
}

/**
 * The map of a stored photograph as a file, made if it is not there.
 * @param photograph of it, if it has been decoded already.
 */
export function personsFile(store: Store, hash: string, photograph?: EncodedRaster): Promise<Buffer> {
  return store.derived(hash, 'persons', 'this photograph', async (path) =>
    encodePersons(await findPersons(photograph ?? (await decodePicture(path, 'frame')))),
  );
}

/**
 * The map of a stored photograph; undefined, and said on the console, where the network cannot run: the cut does
 * without.
 */
export async function keptPersons(
  store: Store,
  hash: string,
  photograph?: EncodedRaster,
): Promise<PersonMap | undefined> {
  try {
    const map = await decodePersons(await personsFile(store, hash, photograph));
    return map.width === NETWORK_SIDE ? map : undefined;
  } catch (error) {
    console.error('Where persons are could not be found, the frame is cut without:', (error as Error).message);
    return undefined;
  }
}
