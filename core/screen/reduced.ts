import type { EncodedRaster, LinearRaster } from '../image/raster.ts';
import { reduceToLinear, reductionFactor } from '../image/reduce.ts';

/** A check is made on about this many pixels; noise and edges are read at full size. */
const CHECK_PIXELS = 195_000;

export interface Reduced {
  picture: LinearRaster;
  /** Full-size pixels per reduced pixel, along each side. */
  factor: number;
}

export function reducedForCheck(source: EncodedRaster): Reduced {
  const factor = reductionFactor(source.width, source.height, CHECK_PIXELS);
  return { picture: reduceToLinear(source, factor), factor };
}
