import type { EncodedRaster } from '../image/raster.ts';
import { seededRandom } from '../random.ts';

/** A background that is painted: plain, or from one tone to the other. */
export interface Paint {
  /** sRGB as #rrggbb. */
  from: string;
  to: string;
  way: PaintWay;
}
export const paintWays = ['plain', 'down', 'across', 'round'] as const;
export type PaintWay = (typeof paintWays)[number];
export const paintWayNames: Record<PaintWay, string> = {
  plain: 'One tone',
  down: 'From above to below',
  across: 'From left to right',
  round: 'From the middle outwards',
};
export const hexColour = /^#[0-9a-f]{6}$/i;

/** Where the middle of a round gradient lies, as a share of the height: behind a head. */
const MIDDLE = 0.42;
/** Noise that keeps a gradient from banding, in steps of 8 bits. */
const DITHER = 1.5;

/** Paints it, 8-bit sRGB; tones between are even to the eye. */
export function painted({ from, to, way }: Paint, width: number, height: number): EncodedRaster & { channels: 3 } {
  const data = new Uint8Array(width * height * 3);
  const first = channelsOf(from);
  const last = channelsOf(way === 'plain' ? from : to);
  const random = seededRandom(1);
  const far = Math.hypot(0.5, Math.max(MIDDLE, 1 - MIDDLE));
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 3) {
      const u = (x + 0.5) / width;
      const v = (y + 0.5) / height;
      const t = way === 'across' ? u : way === 'round' ? Math.hypot(u - 0.5, v - MIDDLE) / far : v;
      const dither = way === 'plain' ? 0 : DITHER * (random() - 0.5);
      for (let c = 0; c < 3; c++)
        data[i + c] = Math.max(0, Math.min(255, first[c] + t * (last[c] - first[c]) + dither + 0.5));
    }
  return { width, height, channels: 3, data };
}

function channelsOf(hex: string): [number, number, number] {
  return [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)) as [number, number, number];
}
