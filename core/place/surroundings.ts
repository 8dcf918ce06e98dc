import { boxBlur } from '../image/boxBlur.ts';
import { createLinear, createPlane, type EncodedRaster, type LinearRaster } from '../image/raster.ts';
import { reduceToLinear } from '../image/reduce.ts';
import { placedRectangle, type Placement, type Size } from './placement.ts';

/**
 * Places along the frame's longer side at which the light is given, and reduced pixels of the background along its own.
 */
const PLACES = 24;
const REDUCED = 96;
/** Over how much of the background's longer side light gathers from around a place. */
const GATHERED = 0.12;

/**
 * The light that a background throws on a person placed before it, which comes from all around a place: the background,
 * blurred, as a small raster to be stretched over the cut's frame. Beyond the background it goes on as at its edge.
 */
export function surroundingsOf(background: EncodedRaster, cut: Size, placement: Placement): LinearRaster {
  const reduced = reduceToLinear(
    background,
    Math.max(1, Math.ceil(Math.max(background.width, background.height) / REDUCED)),
  );
  const radius = Math.max(1, Math.round(GATHERED * Math.max(reduced.width, reduced.height)));
  const planes = [0, 1, 2].map((c) => {
    const plane = createPlane(reduced.width, reduced.height);
    for (let p = 0; p < plane.data.length; p++) plane.data[p] = reduced.data[p * 3 + c];
    return boxBlur(boxBlur(plane, radius), radius).data;
  });
  const scale = PLACES / Math.max(cut.width, cut.height);
  const out = createLinear(Math.max(1, Math.round(cut.width * scale)), Math.max(1, Math.round(cut.height * scale)));
  const rectangle = placedRectangle(cut, background, placement);
  const at = (offset: number, size: number, share: number, whole: number, steps: number): number =>
    Math.max(0, Math.min(steps - 1, Math.floor(((offset + share * size) / whole) * steps)));
  for (let y = 0, o = 0; y < out.height; y++) {
    const sy = at(rectangle.top, rectangle.height, (y + 0.5) / out.height, background.height, reduced.height);
    for (let x = 0; x < out.width; x++, o += 3) {
      const sx = at(rectangle.left, rectangle.width, (x + 0.5) / out.width, background.width, reduced.width);
      planes.forEach((plane, c) => (out.data[o + c] = plane[sy * reduced.width + sx]));
    }
  }
  return out;
}
