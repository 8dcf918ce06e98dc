import { gaussianBlur } from '../image/boxBlur.ts';
import { fillUnknown } from '../image/fillUnknown.ts';
import { createLinear, createMask, createPlane, type Plane } from '../image/raster.ts';
import { inflated, INSIDE } from './inflated.ts';

/** How much flatter people are than something round of their outline. */
const FLATTER = 0.6;
/** Deviation that takes the steps of the grid from the surface, as a share of the height. */
const EVENED = 0.004;
/** How far a place may seem to face aside: the outline's own rim faces the camera no more. */
const MOST_ASIDE = 0.95;

export interface Facings {
  /** −1 to 1, to the right and upwards, of a vector of length 1. */
  right: Plane;
  up: Plane;
}

/**
 * Which way places of the person seem to face: a guess, for want of any depth, by something round of their outline. What
 * is outside of that, as loose hair, faces as the nearest inside does.
 */
export function facingsOf(alpha: Plane): Facings {
  const { width, height } = alpha;
  const { data } = gaussianBlur(inflated(alpha), EVENED * height);
  const facing = createLinear(width, height);
  const inside = createMask(width, height);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      if (alpha.data[p] < INSIDE) continue;
      inside.data[p] = 1;
      // Of the root of what is given squared.
      const steep = FLATTER / (4 * Math.sqrt(Math.max(1, data[p])));
      const across = steep * (data[x > 0 ? p - 1 : p] - data[x < width - 1 ? p + 1 : p]);
      const above = steep * (data[y < height - 1 ? p + width : p] - data[y > 0 ? p - width : p]);
      const aside = Math.hypot(across, above);
      const length = Math.max(Math.sqrt(1 + aside * aside), aside / MOST_ASIDE);
      facing.data[3 * p] = across / length;
      facing.data[3 * p + 1] = above / length;
    }
  const filled = fillUnknown(facing, inside).data;
  const [right, up] = [0, 1].map((c) => {
    const plane = createPlane(width, height);
    for (let p = 0; p < plane.data.length; p++) plane.data[p] = filled[3 * p + c];
    return plane;
  });
  return { right, up };
}
