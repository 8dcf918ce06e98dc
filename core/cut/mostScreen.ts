import type { Channel } from '../colour/channels.ts';

/** Stray light that every channel may have. */
export const chromaFlare = 0.012;

/**
 * How far a place is from the screen's colour at the place's own level: next to nothing in its shadow, whatever stray
 * light there is. @param i index of its red. @param one and @param second channels that are looked at. @returns a distance in
 * chromaticity, which counts less where there is next to no light.
 */
export function apartAtOwnLevel(f: Float32Array, b: Float32Array, i: number, one: Channel, second: Channel): number {
  const light = f[i] + f[i + 1] + f[i + 2];
  const level = light / Math.max(1e-4, b[i] + b[i + 1] + b[i + 2]);
  const first = f[i + one] - level * b[i + one];
  const other = f[i + second] - level * b[i + second];
  return Math.sqrt(first * first + other * other) / (light + 3 * chromaFlare);
}

/** Largest share of screen that any foreground could hide in a pixel, 0–1. */
export function mostScreenIn(f: Float32Array, b: Float32Array, p: number): number {
  const i = p * 3;
  // The dim channels of a screen say little: a little stray light changes their ratio at will.
  return Math.min(
    1,
    (f[i] + chromaFlare) / (b[i] + chromaFlare),
    (f[i + 1] + chromaFlare) / (b[i + 1] + chromaFlare),
    (f[i + 2] + chromaFlare) / (b[i + 2] + chromaFlare),
  );
}
