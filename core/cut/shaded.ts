import { createMask, type LinearRaster, type Mask } from '../image/raster.ts';
import { apartAtOwnLevel, chromaFlare } from './mostScreen.ts';

export const bounds = {
  /**
   * Distance from the screen's chromaticity up to which a place is the screen at another level: in units of the
   * noise, and at least.
   */
  noises: 3.5,
  least: 0.012,
  /**
   * Unevenness from which it is no shadow, which is smooth, but strands or an outline; and least level of a shadow,
   * relative to the lit screen.
   */
  smooth: 0.03,
  darkest: 0.08,
  /** Light that the noise of dark places is no less at. */
  dark: 0.03,
};

/**
 * Where a place has the screen's chromaticity and is darker: the screen in shadow looks like that, and something dark
 * and thin over it too.
 * @param rough unevenness between neighbours, and `grain` what of it noise alone gives on the lit screen.
 * @param chromaNoise standard deviation of the plain screen's chromaticity.
 * @returns 1 in `dark` for all of it, in `smooth` where it is no more uneven than a shadow.
 */
export function shadedIn(
  { width, height, data: f }: LinearRaster,
  { data: b }: LinearRaster,
  rough: Float32Array,
  grain: number,
  chromaNoise: number,
): { dark: Mask; smooth: Mask } {
  const dark = createMask(width, height);
  const smooth = createMask(width, height);
  for (let p = 0, i = 0; p < dark.data.length; p++, i += 3) {
    const sumF = f[i] + f[i + 1] + f[i + 2] + 3 * chromaFlare;
    const sumB = b[i] + b[i + 1] + b[i + 2] + 3 * chromaFlare;
    if (sumF > sumB || sumF - 3 * chromaFlare < bounds.darkest * (sumB - 3 * chromaFlare)) continue;
    // Noise weighs more the darker a place is.
    const noisier = (sumB + bounds.dark) / (sumF + bounds.dark);
    const bound = Math.max(bounds.least, bounds.noises * chromaNoise * Math.sqrt(noisier));
    if (apartAtOwnLevel(f, b, i, 0, 2) >= bound) continue;
    dark.data[p] = 1;
    if (rough[p] * rough[p] - grain * grain * noisier <= bounds.smooth * bounds.smooth) smooth.data[p] = 1;
  }
  return { dark, smooth };
}
