import { expect, test } from 'vitest';
import type { RibbonSheet } from '../../../contract/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { ribbonOf } from '../../../core/touch/ribbon.ts';
import { placeOnFrame, rowAt } from './ribbonPlaces.ts';

/** From the unrolled outline back to the frame. */

const size = { width: 200, height: 160 };
const centre = { x: 100, y: 80 };
const RADIUS = 50;
function disc(): EncodedRaster & { channels: 4 } {
  const data = new Uint8Array(size.width * size.height * 4);
  for (let p = 0; p < size.width * size.height; p++) {
    const [x, y] = [(p % size.width) + 0.5, Math.floor(p / size.width) + 0.5];
    data[p * 4 + 3] = 255 * Math.min(1, Math.max(0, RADIUS - Math.hypot(x - centre.x, y - centre.y) + 0.5));
  }
  return { ...size, channels: 4, data };
}
const [outside, inside, step, width] = [20, 12, 8, 100];
const { outline, strip } = ribbonOf(disc(), { outside, inside, over: 1 });
const places: number[] = [];
for (let n = 0; n < strip.width; n += step) places.push(outline[2 * n] / size.width, outline[2 * n + 1] / size.height);
const row = outside + inside + 1 + 4;
const sheet: RibbonSheet = {
  ...{ width, row, outside, step, places, picture: '' },
  length: strip.width,
  height: Math.ceil(strip.width / width) * row,
};
const fromCentre = ({ x, y }: { x: number; y: number }): number =>
  Math.hypot(x * size.width - centre.x, y * size.height - centre.y);

test('every column leads to its pixel of the outline, and heights across it, outside above', () => {
  for (let column = 0; column < strip.width - 2 * step; column++) {
    const at = { x: column % width, y: Math.floor(column / width) * row + outside };
    const line = Math.floor(column / width);
    const on = placeOnFrame(sheet, at, line, size);
    const off = Math.hypot(on.x * size.width - outline[2 * column], on.y * size.height - outline[2 * column + 1]);
    expect(off).toBeLessThan(1);
    expect(fromCentre(placeOnFrame(sheet, { ...at, y: at.y - 15 }, line, size))).toBeCloseTo(RADIUS + 15, -0.5);
    expect(fromCentre(placeOnFrame(sheet, { ...at, y: at.y + 10 }, line, size))).toBeCloseTo(RADIUS - 10, -0.5);
  }
});

test('a stroke stays in the row that it began in', () => {
  expect([rowAt(sheet, 0), rowAt(sheet, row + 1), rowAt(sheet, 1e6), rowAt(sheet, -5)]).toEqual([0, 1, 3, 0]);
  const low = placeOnFrame(sheet, { x: 30, y: 5 * row }, 0, size);
  expect(low).toEqual(placeOnFrame(sheet, { x: 30, y: row }, 0, size));
  expect(placeOnFrame(sheet, { x: -40, y: 10 }, 1, size)).toEqual(placeOnFrame(sheet, { x: 0, y: row }, 1, size));
});

test('between two lines of an outline nothing is painted across the frame', () => {
  const jumping = { ...sheet, places: [0.1, 0.1, 0.104, 0.1, 0.9, 0.9, 0.904, 0.9], length: 32 };
  const { x, y } = placeOnFrame(jumping, { x: 12, y: 0 }, 0, size);
  expect([x, y]).toEqual([expect.closeTo(0.104), expect.closeTo(0.1)]);
});
