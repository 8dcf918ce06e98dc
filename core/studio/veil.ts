import type { LinearRaster } from '../image/raster.ts';
import { fractalNoise } from '../random.ts';
import type { Colour } from './figure.ts';
import { over } from './kite.ts';
import type { Lights } from './lights.ts';
import type { View } from './march.ts';

/** A veil of thin cloth over head and shoulders: a single layer stops this share of the light, its folds more. */
const LAYER = 0.26;
const CLOTH: Colour = [0.78, 0.77, 0.74];

/** Lays the veil over a painted person, premultiplied linear RGBA, with its true partial coverage. */
export function drawVeil(target: LinearRaster, seed: number, { scale, originX, originY }: View, lights: Lights): void {
  const { width, height, data } = target;
  const level =
    0.62 * lights.key.colour[1] +
    0.5 * lights.ambient[1] +
    lights.others.reduce((sum, beam) => sum + 0.2 * beam.colour[1], 0);
  const left = Math.max(0, Math.floor(originX - 0.3 * scale));
  const right = Math.min(width, Math.ceil(originX + 0.3 * scale));
  const top = Math.max(0, Math.floor(originY - 0.2 * scale));
  const bottom = Math.min(height, Math.ceil(originY + 0.46 * scale));
  for (let py = top; py < bottom; py++) {
    const y = (originY - py - 0.5) / scale;
    for (let px = left; px < right; px++) {
      const x = (px + 0.5 - originX) / scale;
      const edge = outlineAt(x, y, seed) * scale;
      if (edge < -0.5) continue;
      const fold = Math.sin(x * 46 + 3 * fractalNoise(x * 7, y * 3, seed, 2) + (y < 0 ? y * 6 : 0));
      const hem = edge < 0.005 * scale ? 0.3 : 0;
      const a =
        Math.min(1, edge + 0.5) *
        Math.min(0.9, LAYER + hem + 0.1 * fold * fold + 0.05 * fractalNoise(x * 30, y * 30, seed + 1, 2));
      over(data, (py * width + px) * 4, CLOTH, level * (0.86 + 0.14 * fold), a);
    }
  }
}

/** Signed distance to the veil's edge, metres, inside above 0: round over the head, wider towards the shoulders. */
function outlineAt(x: number, y: number, seed: number): number {
  if (y > 0.02) return 0.135 - Math.hypot(x, (y - 0.02) * 0.92);
  const half = 0.135 + Math.min(0.11, (0.02 - y) * 0.34) + 0.006 * Math.sin(y * 60 + seed);
  return Math.min(half - Math.abs(x), y + 0.4 + 0.02 * Math.sin(x * 40));
}
