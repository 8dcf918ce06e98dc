import { components } from '../image/components.ts';
import { growMask } from '../image/growMask.ts';
import { without } from '../image/masks.ts';
import { createMask, type LinearRaster, type Mask } from '../image/raster.ts';
import { medianOf, quantileOf } from './statistics.ts';

/** What hides the screen: all larger pieces of what is not clear, from the largest down to a tenth of it. */
export function personIn(clear: Mask, where: Mask): Mask | undefined {
  const hidden = without(where, clear);
  const found = components(growMask(growMask(hidden, -1), 1)).filter(
    ({ pixels }) => pixels.length > 0.01 * clear.data.length,
  );
  if (!found.length) return undefined;
  const largest = found.reduce((most, { pixels }) => Math.max(most, pixels.length), 0);
  const mask = createMask(clear.width, clear.height);
  for (const { pixels } of found)
    if (pixels.length > 0.1 * largest) for (const p of pixels) mask.data[p] = hidden.data[p];
  return mask;
}

/** The person's shadow on the screen: stops, on each side of the person; the darkest place in shares of the frame. */
export interface CastShadow {
  depth: number;
  left: number;
  right: number;
  x: number;
  y: number;
}

const GRID = 20;

/**
 * How much darker the screen is beside the person than without anybody: on each side the second darkest place of some
 * size.
 */
export function castShadow(
  frame: LinearRaster,
  empty: LinearRaster,
  seen: Mask,
  person: Mask,
  channel: number,
): CastShadow {
  const { width, height } = frame;
  // Hair and soft outlines darken the pixels next to the person.
  const far = growMask(person, Math.max(3, Math.round(width / 70)));
  const columns = GRID;
  const rows = Math.max(1, Math.round((GRID * height) / width));
  const found: { stops: number; x: number; y: number }[] = [];
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const values: number[] = [];
      for (let y = Math.floor((row * height) / rows); y < Math.floor(((row + 1) * height) / rows); y++) {
        for (let x = Math.floor((column * width) / columns); x < Math.floor(((column + 1) * width) / columns); x++) {
          const p = y * width + x;
          if (seen.data[p] && !far.data[p])
            values.push(
              Math.log2(Math.max(1e-5, frame.data[p * 3 + channel]) / Math.max(1e-5, empty.data[p * 3 + channel])),
            );
        }
      }
      if (values.length >= 12)
        found.push({ stops: medianOf(values), x: (column + 0.5) / columns, y: (row + 0.5) / rows });
    }
  }
  if (found.length < 8) return { depth: 0, left: 0, right: 0, x: 0, y: 0 };
  const lit = quantileOf(
    found.map(({ stops }) => stops),
    0.85,
  );
  const middle = middleOf(person);
  const darkest = [...found].sort((a, b) => a.stops - b.stops);
  const on = (side: (x: number) => boolean): number => {
    const there = darkest.filter(({ x }) => side(x));
    return there.length < 3 ? 0 : Math.max(0, lit - there[1].stops);
  };
  const left = on((x) => x < middle);
  const right = on((x) => x >= middle);
  return { depth: Math.max(left, right), left, right, x: darkest[0].x, y: darkest[0].y };
}

/** Mean place across, share of the width. */
function middleOf(mask: Mask): number {
  let sum = 0;
  let count = 0;
  for (let p = 0; p < mask.data.length; p++) {
    if (!mask.data[p]) continue;
    sum += p % mask.width;
    count++;
  }
  return count ? sum / count / mask.width : 0.5;
}
