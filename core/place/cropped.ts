import { sameDepth, type EncodedRaster } from '../image/raster.ts';
import { placedRectangle, type Placement } from './placement.ts';

/** A part of a picture in pixels. */
export interface Crop {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** The pixels of a part, which lies within the picture. */
export function cropped<R extends EncodedRaster>(picture: R, { left, top, width, height }: Crop): R {
  const { channels, data } = picture;
  const out = sameDepth(data, width * height * channels);
  for (let y = 0; y < height; y++) {
    const from = ((top + y) * picture.width + left) * channels;
    out.set(data.subarray(from, from + width * channels), y * width * channels);
  }
  return { ...picture, width, height, data: out };
}

/**
 * What of a background lies under a part of a placed cut, at the cut's scale; the background's edge goes on beyond it.
 * @param cut size of the whole cut.
 */
export function underCrop(
  background: EncodedRaster,
  cut: { width: number; height: number },
  placement: Placement,
  crop: Crop,
): EncodedRaster {
  const placed = placedRectangle(cut, background, placement);
  const scale = placed.width / cut.width;
  const { channels, data } = background;
  const out = sameDepth(data, crop.width * crop.height * channels);
  const across = steps(placed.left + (crop.left + 0.5) * scale, scale, crop.width, background.width);
  const down = steps(placed.top + (crop.top + 0.5) * scale, scale, crop.height, background.height);
  for (let y = 0, o = 0; y < crop.height; y++) {
    const [above, below] = [down.at[y], down.next[y]].map((row) => row * background.width);
    for (let x = 0; x < crop.width; x++)
      for (let c = 0; c < channels; c++, o++) {
        const along = (row: number): number =>
          data[(row + across.at[x]) * channels + c] * (1 - across.part[x]) +
          data[(row + across.next[x]) * channels + c] * across.part[x];
        out[o] = Math.round(along(above) * (1 - down.part[y]) + along(below) * down.part[y]);
      }
  }
  return { ...background, width: crop.width, height: crop.height, data: out };
}

/** Between which pixels of a row samples lie, and how far towards the second; the row's ends go on. */
function steps(from: number, step: number, count: number, size: number) {
  const at = new Int32Array(count);
  const next = new Int32Array(count);
  const part = new Float32Array(count);
  for (let n = 0; n < count; n++) {
    const place = Math.min(size - 1, Math.max(0, from + n * step - 0.5));
    at[n] = Math.floor(place);
    next[n] = Math.min(size - 1, at[n] + 1);
    part[n] = place - at[n];
  }
  return { at, next, part };
}

/** Least sides of what is shown around a place, pixels, and how much wider than the place it is. */
const LEAST = { width: 300, height: 240 };
const AROUND = 1.5;

/** The part of a frame that shows a place with what is around it. */
export function cropAround(
  place: { x: number; y: number; width: number; height: number },
  { width, height }: { width: number; height: number },
): Crop {
  const across = Math.round(Math.min(width, Math.max(LEAST.width, AROUND * place.width * width)));
  const down = Math.round(Math.min(height, Math.max(LEAST.height, AROUND * place.height * height)));
  const start = (middle: number, side: number, most: number): number =>
    Math.round(Math.min(most - side, Math.max(0, middle - side / 2)));
  return {
    left: start((place.x + place.width / 2) * width, across, width),
    top: start((place.y + place.height / 2) * height, down, height),
    width: across,
    height: down,
  };
}
