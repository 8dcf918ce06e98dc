import { expect, test } from 'vitest';
import { seededRandom } from '../random.ts';
import type { EncodedRaster } from '../image/raster.ts';
import { skinAtEyes } from './eyes.ts';

const face = { x: 0.2, y: 0.2, width: 0.6, height: 0.6, eyesX: 0.5, eyesY: 0.4, sure: 1 };

/** A face of noisy skin with dark eyes; hair covers the picture from the left as far as `hair`. */
function portrait(hair: number, light = 1): EncodedRaster {
  const side = 200;
  const random = seededRandom(7);
  const data = new Uint8Array(side * side * 3);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const eye = [-1, 1].some((of) => Math.hypot((x - 100 - of * 25) / 9, (y - 82) / 5) < 1);
      const colour = x / side < hair ? [88, 70, 30] : eye ? [40, 34, 34] : [196, 140, 112];
      for (let k = 0; k < 3; k++) data[(y * side + x) * 3 + k] = light * (colour[k] + 8 * (random() - 0.5));
    }
  return { width: side, height: side, channels: 3, data };
}

test('skin around the eyes is seen in any light; hair over one eye takes nearly all of it', () => {
  const open = skinAtEyes(portrait(0), face) as number;
  expect(open).toBeGreaterThan(0.6);
  expect(skinAtEyes(portrait(0, 0.5), face)).toBeCloseTo(open, 1);
  expect(skinAtEyes(portrait(0.44), face)).toBeLessThan(0.4 * open);
});
