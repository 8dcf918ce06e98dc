import { differenceCiede2000, type Rgb } from 'culori';
import { linearToSrgb } from '../../core/colour/transfer.ts';
import type { ColourDifference } from '../../core/place/fringe.ts';

const difference = differenceCiede2000();

/** CIEDE2000 of two linear sRGB colours. */
export const colourDifference: ColourDifference = (a, b) => difference(encoded(a), encoded(b));

function encoded(rgb: ArrayLike<number>): Rgb {
  const [r, g, b] = Array.from(rgb, (v) => linearToSrgb(Math.max(0, Math.min(1, v))));
  return { mode: 'rgb', r, g, b };
}
