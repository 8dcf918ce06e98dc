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
 * 1 where a place has the screen's chromaticity, is darker and smooth: the screen in shadow looks like that, and
 * something dark and thin over it too.
 * @param rough unevenness between neighbours.
 * @param chromaNoise standard deviation of the plain screen's chromaticity.
 */
export function shadedIn(
  { width, height, data: f }: LinearRaster,
  { data: b }: LinearRaster,
  rough: Float32Array,
  chromaNoise: number,
): Mask {
  const out = createMask(width, height);
  for (let p = 0, i = 0; p < out.data.length; p++, i += 3) {
    const sumF = f[i] + f[i + 1] + f[i + 2] + 3 * chromaFlare;
    const sumB = b[i] + b[i + 1] + b[i + 2] + 3 * chromaFlare;
    if (rough[p] > bounds.smooth || sumF > sumB || sumF - 3 * chromaFlare < bounds.darkest * (sumB - 3 * chromaFlare))
      continue;
    const bound = Math.max(
      bounds.least,
      bounds.noises * chromaNoise * Math.sqrt((sumB + bounds.dark) / (sumF + bounds.dark)),
    );
    if (apartAtOwnLevel(f, b, i, 2) < bound) out.data[p] = 1;
  }
  return out;
}
