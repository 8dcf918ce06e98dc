/** Stray light that every channel may have. */
export const chromaFlare = 0.012;

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
