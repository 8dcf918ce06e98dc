import { luminance } from '../colour/luminance.ts';
import { encoderFor, linearTable } from '../colour/transfer.ts';
import { gaussianBlur } from '../image/boxBlur.ts';
import { createPlane, sameDepth, whiteLevel, type EncodedRaster } from '../image/raster.ts';

/** Ways to look at a finished picture that show one side of it at a time. */
export const placedViews = {
  finished: 'Finished',
  before: 'Before',
  brightness: 'Brightness',
  saturation: 'Saturation',
  squint: 'Squint',
} as const;
export type PlacedView = keyof typeof placedViews;

/** What is left when the eyes are half shut, as a share of the height. */
const SQUINT = 0.014;

/** A finished picture in a view; the inputs are not changed. */
export function shownPlaced(picture: EncodedRaster & { channels: 3 }, view: PlacedView): EncodedRaster {
  if (view === 'finished' || view === 'before') return picture;
  const { width, height, data } = picture;
  const table = linearTable(data);
  const out = sameDepth(data, data.length);
  const encode = encoderFor(out);
  if (view === 'squint') {
    for (let c = 0; c < 3; c++) {
      const plane = createPlane(width, height);
      for (let p = 0; p < plane.data.length; p++) plane.data[p] = table[data[p * 3 + c]];
      const soft = gaussianBlur(plane, SQUINT * height).data;
      for (let p = 0; p < soft.length; p++) out[p * 3 + c] = encode(soft[p]);
    }
    return { width, height, channels: 3, data: out };
  }
  const white = whiteLevel(picture);
  for (let i = 0; i < data.length; i += 3) {
    const [r, g, b] = [data[i], data[i + 1], data[i + 2]];
    const most = Math.max(r, g, b);
    const grey =
      view === 'brightness'
        ? encode(luminance(table[r], table[g], table[b]))
        : most > 0
          ? Math.round((white * (most - Math.min(r, g, b))) / most)
          : 0;
    out[i] = out[i + 1] = out[i + 2] = grey;
  }
  return { width, height, channels: 3, data: out };
}
