import { nearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { movedBy, softened } from '../image/outlineMoves.ts';
import { createMask } from '../image/raster.ts';
import { eachIn, stampsOf, type Stamp } from './stamp.ts';
import { strokesAbout, touchKinds, type Stroke } from './touch.ts';

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
  strand: () => 1,
  hardEdge: (a) => Math.min(1, Math.max(0, 0.5 + STEEP * (a - 0.5))),
};

function ofGreys(coverage: number, bend: (grey: number) => number): number {
  const grey = (coverage - CLEAR) / (SOLID - CLEAR);
  return grey <= 0 || grey >= 1 ? coverage : CLEAR + (SOLID - CLEAR) * bend(grey);
}

/** What the kinds that look at a pixel's surroundings make of a coverage, moved by so many pixels. */
const moves: Partial<
  Record<
    Stroke['kind'],
    (alpha: Uint16Array, width: number, height: number, pixels: number, thin: number) => Uint16Array
  >
> = {
  edgeOut: movedBy,
  edgeIn: (alpha, width, height, pixels) => movedBy(alpha, width, height, -pixels),
  softer: softened,
  trim: trimmed,
};

/**
 * Lays touches on a coverage, one after the other.
 * @param alpha 0–65535, changed.
 * @param scale pixels of it to one of the file.
 */
export function touchMatte(
  strokes: readonly Stroke[],
  alpha: Uint16Array,
  width: number,
  height: number,
  scale = 1,
): void {
  for (const stroke of strokesAbout(strokes, 'matte')) {
    const effect = effects[stroke.kind];
    for (const { stamp } of stampsOf(stroke, width, height)) {
      if (!effect) {
        moveIn(stamp, stroke, alpha, width, height, scale);
        continue;
      }
      eachIn(stamp, width, (p, share) => {
        const a = alpha[p] / 65535;
        alpha[p] = Math.round(65535 * (a + share * stroke.strength * (effect(a) - a)));
      });
    }
  }
}

/** Moves the outline where a stamp reaches. */
function moveIn(
  stamp: Stamp,
  { kind, strength }: Stroke,
  alpha: Uint16Array,
  width: number,
  height: number,
  scale: number,
): void {
  const { [kind]: move } = moves;
  const facts = touchKinds[kind];
  if (!move || !('pixels' in facts)) return;
  const pixels = strength * facts.pixels * scale;
  // With so much around it that what lies beyond has its say.
  const thin = THIN * height;
  const margin = Math.ceil(2 * pixels + thin) + 2;
  const left = Math.max(0, stamp.left - margin);
  const top = Math.max(0, stamp.top - margin);
  const across = Math.min(width, stamp.left + stamp.width + margin) - left;
  const down = Math.min(height, stamp.top + stamp.height + margin) - top;
  const part = new Uint16Array(across * down);
  for (let y = 0; y < down; y++) {
    const from = (top + y) * width + left;
    part.set(alpha.subarray(from, from + across), y * across);
  }
  const moved = move(part, across, down, pixels, thin);
  eachIn(stamp, width, (p, share) => {
    const to = moved[(((p / width) | 0) - top) * across + (p % width) - left];
    alpha[p] = Math.round(alpha[p] + share * (to - alpha[p]));
  });
}

/** Coverage from which a pixel is solid for trimming, of 65535; solid things are thicker than this share of the height. */
const TRIM_SOLID = 0.9 * 65535;
const THIN = 0.005;
/** Over this share of its length what is left of thin hair fades. */
const FADE = 0.3;

/** Thin things go that reach further than so many pixels from what is solid and no hair; towards there they fade. */
function trimmed(alpha: Uint16Array, width: number, height: number, pixels: number, thin: number): Uint16Array {
  const solid = createMask(width, height);
  for (let p = 0; p < alpha.length; p++) if (alpha[p] >= TRIM_SOLID) solid.data[p] = 1;
  const half = Math.max(1, Math.round(thin / 2));
  const { distance } = nearestFeature(growMask(growMask(solid, -half), half));
  const fade = Math.max(1, FADE * pixels);
  return alpha.map((a, p) => Math.round(a * Math.min(1, Math.max(0, (pixels - distance[p]) / fade))));
}
