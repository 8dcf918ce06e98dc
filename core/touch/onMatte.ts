import { eachIn, stampOf } from './stamp.ts';
import { strokesAbout, type Stroke } from './touch.ts';

/** How much a full touch bends the greys: coverage to this power, or what is lacking of it. */
const BEND = 3;
/** What counts as clear and as solid by the usual settings is no grey: skin in noise is left whole. */
const CLEAR = 0.04;
const SOLID = 0.97;
/** How much steeper a hard edge is. */
const STEEP = 6;

/** What each kind of touch makes of a coverage, both 0–1, at full strength. */
const effects: Partial<Record<Stroke['kind'], (coverage: number) => number>> = {
  add: () => 1,
  take: () => 0,
  greysUp: (a) => ofGreys(a, (grey) => 1 - (1 - grey) ** BEND),
  greysDown: (a) => ofGreys(a, (grey) => grey ** BEND),
  hardEdge: (a) => Math.min(1, Math.max(0, 0.5 + STEEP * (a - 0.5))),
};

function ofGreys(coverage: number, bend: (grey: number) => number): number {
  const grey = (coverage - CLEAR) / (SOLID - CLEAR);
  return grey <= 0 || grey >= 1 ? coverage : CLEAR + (SOLID - CLEAR) * bend(grey);
}

/**
 * Lays touches on a coverage, one after the other.
 * @param alpha 0–65535, changed.
 */
export function touchMatte(strokes: readonly Stroke[], alpha: Uint16Array, width: number, height: number): void {
  for (const stroke of strokesAbout(strokes, 'matte')) {
    const effect = effects[stroke.kind];
    const stamp = effect && stampOf(stroke, width, height);
    if (!stamp) continue;
    eachIn(stamp, width, (p, share) => {
      const a = alpha[p] / 65535;
      alpha[p] = Math.round(65535 * (a + share * stroke.strength * (effect(a) - a)));
    });
  }
}
