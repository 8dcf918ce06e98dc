import type { Lawn } from './lawn.ts';
import { medianOf } from './statistics.ts';

/**
 * What the screen mirrors of a lamp at its worst place: stops that it adds there, and where, in shares of the frame.
 */
export interface Mirrored {
  stops: number;
  x: number;
  y: number;
}

/** Above this the screen's channel is bent by the camera, and its colour with it. */
const NEARLY_CLIPPED = 0.88;

/**
 * Light that the screen mirrors instead of taking on its colour. Light that falls on a matt screen changes its level,
 * and with the lamp's colour one of the other channels up and the other down; a mirrored lamp is added on top and lifts
 * both against the screen's own. Of all places the third worst counts, so that a speck does not.
 */
export function mirroredOn({ colour, columns, rows }: Lawn, channel: 1 | 2): Mirrored | undefined {
  const others = [0, 1, 2].filter((c) => c !== channel);
  const shares: { at: number; share: [number, number] }[] = [];
  for (let o = 0; o < columns * rows; o++) {
    const own = colour[o * 3 + channel];
    if (!(own > 0.01) || own > NEARLY_CLIPPED) continue;
    shares.push({ at: o, share: others.map((c) => colour[o * 3 + c] / own) as [number, number] });
  }
  if (shares.length < 12) return undefined;
  // Most of a screen mirrors nothing.
  const usual = [0, 1].map((k) => medianOf(shares.map(({ share }) => share[k])));
  const added = shares
    // With light w on top of the screen's own: share = (usual + w) / (1 + w).
    .map(({ at, share }) => ({ at, light: Math.min(...share.map((s, k) => (s - usual[k]) / Math.max(0.05, 1 - s))) }))
    .sort((a, b) => b.light - a.light);
  const { at, light } = added[2];
  return {
    stops: Math.log2(1 + Math.max(0, light)),
    x: ((at % columns) + 0.5) / columns,
    y: (Math.floor(at / columns) + 0.5) / rows,
  };
}
