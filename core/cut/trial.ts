import type { EncodedRaster } from '../image/raster.ts';
import type { Path } from '../touch/touch.ts';
import type { Order } from './order.ts';
import type { KnownBefore } from './prepare.ts';
import { StagedCut } from './stagedCut.ts';

/** What another order makes of a frame, told on a smaller copy. */

/** How a frame's cut by one order compares with that by another. */
export interface Compared {
  /** Minutes by hand, by the one and by the other. */
  before: number;
  after: number;
  /** Share of the person's pixels whose coverage or colour is another, 0–1. */
  changed: number;
}

/** Coverage and colours nearer than this to each other look the same, of 255. */
const SAME = 6;

/**
 * Cuts a frame twice.
 * @param fileWidth pixels of the frame itself.
 * @param cells most reduced pixels that it is sorted on.
 * @returns undefined if the picture shows no green or blue screen and a hand points at none.
 */
export function compareOrders(
  frame: EncodedRaster & { data: Uint8Array },
  known: KnownBefore,
  [before, after]: readonly [Order, Order],
  paths: ReadonlyMap<string, Path>,
  fileWidth: number,
  cells?: number,
): Compared | undefined {
  const staged = new StagedCut(frame, known, frame.width / fileWidth, cells);
  const made = [before, after].map(({ recipe, guidance }) => ({
    data: staged.cut(recipe, guidance, paths)?.data,
    minutes: staged.judge()?.quality.minutes ?? 0,
  }));
  const [one, other] = made.map(({ data }) => data);
  if (!one || !other) return undefined;
  let [person, changed] = [0, 0];
  for (let i = 0; i < one.length; i += 4) {
    const cover = Math.max(one[i + 3], other[i + 3]);
    if (cover === 0) continue;
    person++;
    let apart = Math.abs(one[i + 3] - other[i + 3]);
    for (let c = 0; c < 3; c++)
      apart = Math.max(apart, (Math.min(one[i + 3], other[i + 3]) / 255) * Math.abs(one[i + c] - other[i + c]));
    if (apart > SAME) changed++;
  }
  return { before: made[0].minutes, after: made[1].minutes, changed: person ? changed / person : 0 };
}
