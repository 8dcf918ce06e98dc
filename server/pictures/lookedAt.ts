import { LRUCache } from 'lru-cache';
import type { Sharp } from 'sharp';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { decodePicture } from './decode.ts';
import { fromRaster } from './encode.ts';

/** Bytes of decoded photographs kept, and for how long after the last look, ms. */
const MOST_BYTES = 400_000_000;
const KEPT = 60_000;

/** Photographs looked at at full size: decoded once, not for every tile that comes into sight. */
export class LookedAt {
  private readonly kept = new LRUCache<string, EncodedRaster>({
    maxSize: MOST_BYTES,
    sizeCalculation: ({ data }) => data.byteLength,
    ttl: KEPT,
    ttlAutopurge: true,
    updateAgeOnGet: true,
    fetchMethod: (path) => decodePicture(path, 'frame'),
  });

  /** @throws PictureError. */
  async raster(path: string): Promise<EncodedRaster> {
    // Too large to keep is decoded all the same.
    return (await this.kept.fetch(path)) ?? (await decodePicture(path, 'frame'));
  }

  /** @throws PictureError. */
  async open(path: string): Promise<Sharp> {
    return fromRaster(await this.raster(path));
  }
}
