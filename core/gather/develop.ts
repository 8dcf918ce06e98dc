import { encoderFor } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';

/** How a camera's raw data becomes a picture, beside the camera's own white balance. */
export interface Developing {
  /** Steps of light; above 0 brighter. */
  exposure: number;
  /** Steps of red against blue; above 0 warmer. */
  warmth: number;
}

export const asTaken: Developing = { exposure: 0, warmth: 0 };

export const developingFacts: Record<keyof Developing, { label: string; min: number; max: number; step: number }> = {
  exposure: { label: 'Exposure, steps', min: -3, max: 3, step: 0.1 },
  warmth: { label: 'Warmth, steps', min: -1.5, max: 1.5, step: 0.05 },
};

/**
 * A picture of 16 bits from what the sensor saw, by the plain sRGB curve.
 * @param light linear, three values a pixel, white at 65535; width × height × 3.
 */
export function developed(
  light: Uint16Array,
  width: number,
  height: number,
  { exposure, warmth }: Developing,
): EncodedRaster & { channels: 3; data: Uint16Array } {
  const data = new Uint16Array(light.length);
  const encode = encoderFor(data);
  const gains = [exposure + warmth / 2, exposure, exposure - warmth / 2].map((steps) => 2 ** steps / 65535);
  for (let i = 0; i < light.length; i++) data[i] = encode(light[i] * gains[i % 3]);
  return { width, height, channels: 3, data };
}
