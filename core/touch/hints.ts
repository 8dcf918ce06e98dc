import { createMask, type Mask } from '../image/raster.ts';
import { eachIn, stampOf } from './stamp.ts';
import { strokesAbout, type Stroke } from './touch.ts';

/** What a hand says that a place is, so that it is solved anew with that knowledge. */
export const Hint = { none: 0, screen: 1, person: 2, hair: 3, sheer: 4 } as const;

/** The hints of strokes, the latest where several meet; where a stroke has faded by half it says nothing. */
export function hintsOf(strokes: readonly Stroke[], width: number, height: number): Mask {
  const hints = createMask(width, height);
  for (const stroke of strokesAbout(strokes, 'solving')) {
    const stamp = stampOf(stroke, width, height);
    const value = Hint[stroke.kind as keyof typeof Hint];
    if (stamp) eachIn(stamp, width, (p, share) => share >= 0.5 && (hints.data[p] = value));
  }
  return hints;
}
