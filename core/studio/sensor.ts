import { linearTable } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';

/** What the stand-in camera's sensor reads when it is set to raw: one number a pixel behind a mosaic of filters. */

export interface Raw {
  /** The light through red, green and blue filters, row by row: red first, then green; below green, then blue. */
  width: number;
  height: number;
  data: Uint16Array;
  black: number;
  white: number;
  /** From the light's X, Y, Z to what the filters pass, row by row. */
  colourMatrix: number[];
  /** What the filters pass of a neutral thing in this light. */
  neutral: [number, number, number];
}

/** A plain sensor: its filters pass what the primaries of sRGB are, red and blue less than green. */
const FILTERS: [number, number, number] = [0.52, 1, 0.66];
const XYZ_TO_RGB = [
  3.2404542, -1.5371385, -0.4985314, -0.969266, 1.8760108, 0.041556, 0.0556434, -0.2040259, 1.0572252,
];
const BLACK = 512;
const WHITE = 15_871;

/** What the sensor reads of a picture. @param frame sRGB; white is at the sensor's limit in green. */
export function sensorReading(frame: EncodedRaster): Raw {
  const { width, height, channels, data } = frame;
  const linear = linearTable(data);
  const out = new Uint16Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const channel = (y & 1) + (x & 1);
      const light = linear[data[(y * width + x) * channels + channel]] * FILTERS[channel];
      out[y * width + x] = Math.round(BLACK + light * (WHITE - BLACK));
    }
  return {
    width,
    height,
    data: out,
    black: BLACK,
    white: WHITE,
    colourMatrix: XYZ_TO_RGB.map((v, n) => v * FILTERS[Math.floor(n / 3)]),
    neutral: FILTERS,
  };
}
