/**
 * Rasters: width, height, channels and one typed array, rows top to bottom, channels interleaved. The type says what
 * the values mean, so that no function has to guess.
 */

/**
 * sRGB-encoded picture as it stands in files: Uint8Array 0–255 or Uint16Array 0–65535; 1, 3 or 4 channels. Alpha is
 * straight.
 */
export interface EncodedRaster {
  width: number;
  height: number;
  channels: 1 | 3 | 4;
  data: Uint8Array | Uint16Array;
}

/** Linear light, 0–1 (may exceed 1 in the simulator); 3 channels unless a function says otherwise. */
export interface LinearRaster {
  width: number;
  height: number;
  channels: number;
  data: Float32Array;
}

/** One value per pixel, meaning given by the function that returns it. */
export interface Plane {
  width: number;
  height: number;
  data: Float32Array;
}

/** One small class number or 0/1 flag per pixel. */
export interface Mask {
  width: number;
  height: number;
  data: Uint8Array;
}

/** Thrown on misuse: a raster whose array does not fit its stated size. */
export class RasterError extends Error {
  override name = 'RasterError';
}

export function createPlane(width: number, height: number): Plane {
  return { width, height, data: new Float32Array(width * height) };
}

export function createMask(width: number, height: number): Mask {
  return { width, height, data: new Uint8Array(width * height) };
}

export function createLinear(width: number, height: number, channels = 3): LinearRaster {
  return { width, height, channels, data: new Float32Array(width * height * channels) };
}

/** Largest encoded value of a raster: 255 for 8 bit, 65535 for 16 bit. */
export function whiteLevel(raster: EncodedRaster): 255 | 65535 {
  return raster.data instanceof Uint16Array ? 65535 : 255;
}

/** An empty array of the same depth as `like`, `length` long. */
export function sameDepth(like: Uint8Array | Uint16Array, length: number): Uint8Array | Uint16Array {
  return like instanceof Uint16Array ? new Uint16Array(length) : new Uint8Array(length);
}

/**
 * Checks that the array has width × height × channels values and that the size is at least 1×1.
 * @throws RasterError naming expected and received values.
 */
export function checkRaster(raster: EncodedRaster): void {
  const { width, height, channels, data } = raster;
  if (!Number.isInteger(width) || !Number.isInteger(height) || width < 1 || height < 1) {
    throw new RasterError(`size: expected whole numbers from 1, received ${width}×${height}`);
  }
  const expected = width * height * channels;
  if (data.length !== expected) {
    throw new RasterError(
      `data: expected ${expected} values for ${width}×${height}×${channels}, received ${data.length}`,
    );
  }
}
