import { components } from '../image/components.ts';
import { growMask } from '../image/growMask.ts';
import { both, without } from '../image/masks.ts';
import { createMask, type LinearRaster, type Mask } from '../image/raster.ts';
import { quantileOf } from '../screen/statistics.ts';
import { apartAtOwnLevel } from './mostScreen.ts';
import type { Sorted } from './sorter/sortFrame.ts';

/** Found on the bench's tuning frames; see docs/accuracy.md. */
export const bounds = {
  /** Distance from the screen's chromaticity, at its own level, of a pixel and of the middle pixel of a place. */
  pixelApart: 0.022,
  apart: 0.013,
  /** Level of a place, relative to the lit screen, from which it is no deep shadow. */
  level: 0.85,
  /** Part of the deepest shadow that is seen beside the persons down to which another is believed. */
  deeper: 0.6,
  /** Likelihood from which the screen is seen, and from which on a place is not asked. */
  seen: 0.9,
  open: 0.5,
  /** Half the width of a place, reduced pixels, and its least share of the frame. */
  opening: 2,
  share: 0.00015,
  /** Share of what is seen of the screen that may be darker by chance. */
  chance: 0.002,
};

/**
 * Places among what is taken for the person that are the screen in a shadow which is seen elsewhere too: between an
 * arm and the body, where the map of persons sees a person all over. Cloth of the screen's very chromaticity may be as
 * dark, but where no such shadow falls on the screen there is none between persons either.
 * @param lit the screen without shadow, and `screen` as it is known.
 */
export function shadowedGaps(frame: LinearRaster, lit: LinearRaster, screen: LinearRaster, { clear }: Sorted): Mask {
  const { width, height, data: f } = frame;
  const levelOf = (p: number): number =>
    (f[p * 3] + f[p * 3 + 1] + f[p * 3 + 2]) / (lit.data[p * 3] + lit.data[p * 3 + 1] + lit.data[p * 3 + 2] + 1e-6);
  const apartOf = (p: number): number => apartAtOwnLevel(f, screen.data, p * 3, 0, 2);
  const found = createMask(width, height);
  const seen: number[] = [];
  for (let p = 0; p < clear.data.length; p += 7) if (clear.data[p] > bounds.seen) seen.push(levelOf(p));
  const deepest = bounds.deeper * quantileOf(seen, bounds.chance);
  if (!(deepest < bounds.level)) return found;
  for (let p = 0; p < clear.data.length; p++) {
    const level = levelOf(p);
    if (clear.data[p] < bounds.open && level > deepest && level < bounds.level && apartOf(p) < bounds.pixelApart)
      found.data[p] = 1;
  }
  const opened = both(growMask(growMask(found, -bounds.opening), bounds.opening), found);
  for (const { pixels } of components(opened)) {
    const is =
      pixels.length >= bounds.share * clear.data.length &&
      quantileOf(Array.from(pixels, apartOf), 0.5) < bounds.apart &&
      quantileOf(Array.from(pixels, levelOf), 0.5) > deepest;
    if (!is) for (const p of pixels) opened.data[p] = 0;
  }
  return opened;
}

/** Says of gaps that they are the screen alone, and of their outlines that they are mixtures. Changes `sorted`. */
export function openGaps({ clear, solid, coverage }: Sorted, gaps: Mask): void {
  const rim = without(growMask(gaps, bounds.opening), gaps);
  for (let p = 0; p < gaps.data.length; p++) {
    if (gaps.data[p]) [clear.data[p], solid.data[p], coverage.data[p]] = [1, 0, 0];
    else if (rim.data[p]) {
      clear.data[p] = Math.min(clear.data[p], 0.3);
      solid.data[p] = Math.min(solid.data[p], 0.3);
    }
  }
}
