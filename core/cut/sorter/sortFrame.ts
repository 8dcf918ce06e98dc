import type { Plane } from '../../image/raster.ts';
import { runNetwork, OUTPUTS } from './network.ts';
import { readHalves } from './readWeights.ts';
import { sorterWeights } from './weights.ts';

/** What each reduced pixel is likely to be, 0–1; what is neither clear nor solid is mixed. */
export interface Sorted {
  /** Likelihood that it shows the screen alone, the person alone. */
  clear: Plane;
  solid: Plane;
  /** Coverage to expect, where the picture itself does not tell. */
  coverage: Plane;
}

let weights: Float32Array | undefined;

/** Sorts a frame by its evidence planes (see evidence.ts). */
export function sortFrame(evidence: Float32Array, width: number, height: number): Sorted {
  const logits = runNetwork(evidence, width, height, (weights ??= readHalves(sorterWeights)));
  const count = width * height;
  const [clear, mixed, solid, coverage] = Array.from({ length: OUTPUTS }, (_, n) =>
    logits.subarray(n * count, (n + 1) * count),
  );
  for (let p = 0; p < count; p++) {
    const most = Math.max(clear[p], mixed[p], solid[p]);
    const c = Math.exp(clear[p] - most);
    const s = Math.exp(solid[p] - most);
    const all = c + s + Math.exp(mixed[p] - most);
    clear[p] = c / all;
    solid[p] = s / all;
    coverage[p] = 1 / (1 + Math.exp(-coverage[p]));
  }
  return {
    clear: { width, height, data: clear },
    solid: { width, height, data: solid },
    coverage: { width, height, data: coverage },
  };
}
