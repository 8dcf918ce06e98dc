import { linearTable } from '../colour/transfer.ts';
import { createLinear, type EncodedRaster, type LinearRaster } from './raster.ts';

/** The whole factor by which a picture is reduced so that it has at most `maxPixels` pixels; at least 1. */
export function reductionFactor(width: number, height: number, maxPixels: number): number {
  return Math.max(1, Math.ceil(Math.sqrt((width * height) / maxPixels)));
}

/** From this factor on blocks are large. */
const LARGE = 7;

/**
 * Reduces an encoded picture by a whole factor, averaging linear light over each block; the last row and
 * column of blocks may be smaller. Of large blocks every second or third pixel each way is averaged, which is still many. Alpha, if
 * there is any, is left out.
 */
export function reduceToLinear(source: EncodedRaster, factor: number): LinearRaster {
  const { width, height, channels, data } = source;
  const table = linearTable(data);
  const outWidth = Math.ceil(width / factor);
  const outHeight = Math.ceil(height / factor);
  const out = createLinear(outWidth, outHeight);
  const green = channels === 1 ? 0 : 1;
  const blue = channels === 1 ? 0 : 2;
  const step = factor >= LARGE ? Math.round(factor / 4) : 1;
  for (let oy = 0; oy < outHeight; oy++) {
    const yEnd = Math.min(height, (oy + 1) * factor);
    for (let ox = 0; ox < outWidth; ox++) {
      const xStart = ox * factor;
      const xEnd = Math.min(width, xStart + factor);
      let r = 0;
      let g = 0;
      let b = 0;
      for (let y = oy * factor; y < yEnd; y += step) {
        let i = (y * width + xStart) * channels;
        for (let x = xStart; x < xEnd; x += step, i += channels * step) {
          r += table[data[i]];
          g += table[data[i + green]];
          b += table[data[i + blue]];
        }
      }
      const scale = 1 / (Math.ceil((xEnd - xStart) / step) * Math.ceil((yEnd - oy * factor) / step));
      const o = (oy * outWidth + ox) * 3;
      out.data[o] = r * scale;
      out.data[o + 1] = g * scale;
      out.data[o + 2] = b * scale;
    }
  }
  return out;
}
