import { boxBlur } from './boxBlur.ts';
import { createPlane, type LinearRaster } from './raster.ts';

/**
 * Root mean square of how far each place stands off the mean of its two neighbours, relative to level, over 7×7
 * places; a slope, as at a shadow's edge, does not count.
 */
export function roughness({ width, height, data }: LinearRaster, channel: number): Float32Array {
  const square = createPlane(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 1; x + 1 < width; x++) {
      const o = (y * width + x) * 3 + channel;
      const bend = data[o - 3] - 2 * data[o] + data[o + 3];
      // Three times the variance of a difference, so that noise counts as it does there.
      square.data[y * width + x] = (bend * bend) / 3 / (data[o] + 0.01) ** 2;
    }
  }
  const { data: mean } = boxBlur(square, 3);
  for (let p = 0; p < mean.length; p++) mean[p] = Math.sqrt(mean[p]);
  return mean;
}
