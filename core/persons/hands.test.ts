import { expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { handsIn } from './hands.ts';
import type { Face } from './faces.ts';

const size = { width: 300, height: 400 };
const face: Face = { x: 0.4, y: 0.1, width: 0.2, height: 0.15, eyesX: 0.5, eyesY: 0.15, sure: 1 };
type Box = [left: number, top: number, right: number, bottom: number];
const [skin, cloth, clear] = [
  [180, 120, 95, 255],
  [60, 70, 140, 255],
  [0, 0, 0, 0],
];

/** A clothed body with a face, and parts of other colours. */
function cut(...parts: [Box, number[]][]): EncodedRaster & { channels: 4 } {
  const data = new Uint8Array(size.width * size.height * 4);
  const paint = ([left, top, right, bottom]: Box, colour: number[]): void => {
    for (let y = top; y < bottom; y++)
      for (let x = left; x < right; x++) for (let k = 0; k < 4; k++) data[(y * size.width + x) * 4 + k] = colour[k];
  };
  paint([80, 130, 220, 400], cloth);
  paint([115, 30, 185, 130], skin);
  for (const [box, colour] of parts) paint(box, colour);
  return { ...size, channels: 4, data };
}
const inPixels = (found: ReturnType<typeof handsIn>): number[][] =>
  found.map(({ x, y, width, height }) =>
    [x * size.width, y * size.height, (x + width) * size.width, (y + height) * size.height].map(Math.round),
  );

test('a hand is a patch of the face’s skin away from it, on cloth or beside the body', () => {
  const found = inPixels(handsIn(cut([[100, 240, 130, 280], skin], [[230, 300, 260, 340], skin]), [face]));
  expect(found).toHaveLength(2);
  for (const [n, box] of [
    [100, 240, 130, 280],
    [230, 300, 260, 340],
  ].entries())
    for (const [k, edge] of box.entries()) expect(Math.abs(found[n][k] - edge)).toBeLessThanOrEqual(3);
});

test('of a bare arm the end is the hand; what the frame cuts off, a leg too far and other colours are none', () => {
  const [[left, top, right, bottom]] = inPixels(handsIn(cut([[226, 140, 256, 330], skin]), [face]));
  expect([left, right, bottom].map((v, k) => Math.abs(v - [226, 256, 330][k]) <= 3)).toEqual([true, true, true]);
  expect(top).toBeGreaterThan(250);
  expect(handsIn(cut([[100, 370, 130, 400], skin]), [face]), 'cut off by the frame').toEqual([]);
  expect(
    handsIn(
      cut([
        [100, 240, 130, 280],
        [200, 190, 40, 255],
      ]),
      [face],
    ),
    'a yellow bag',
  ).toEqual([]);
  expect(handsIn(cut([[100, 240, 130, 280], clear]), [face]), 'a gap').toEqual([]);
  expect(handsIn(cut([[100, 240, 130, 280], skin]), []), 'nobody’s face').toEqual([]);
});
