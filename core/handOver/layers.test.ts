import { describe, expect, test } from 'vitest';
import { seededRandom } from '../random.ts';
import { layersOf, matteOf, placedLayer, trimmedTo } from './layers.ts';

const size = { width: 24, height: 16 };
const pixels = size.width * size.height;

/** What a program makes of the layers that lays them over each other in encoded values. */
function laidOver({ background, shadow, people }: ReturnType<typeof layersOf>): number[] {
  return Array.from(background.data, (value, i) => {
    const p = Math.floor(i / 3);
    const c = i % 3;
    let out: number = value;
    for (const layer of [shadow, people]) {
      const a = layer.data[p * 4 + 3] / 255;
      out = a * layer.data[p * 4 + c] + (1 - a) * out;
    }
    return out;
  });
}

describe('a picture taken apart', () => {
  test('is the picture again when its layers are laid over each other, whatever was done to it (seeded)', () => {
    const random = seededRandom(3);
    const empty = Uint8Array.from({ length: pixels * 3 }, () => Math.floor(256 * random()));
    const finished = Uint8Array.from({ length: pixels * 3 }, () => Math.floor(256 * random()));
    const coverage = Uint8Array.from({ length: pixels }, () => (random() < 0.5 ? 0 : Math.floor(256 * random())));
    const picture = (data: Uint8Array) => ({ ...size, channels: 3 as const, data });
    const layers = laidOver(layersOf(picture(finished), picture(empty), coverage));
    expect(Math.max(...layers.map((value, i) => Math.abs(value - finished[i])))).toBeLessThan(2.1);
  });

  test('has the shadow as a layer of its own, black and as dense as it darkens; far away there is nothing', () => {
    const empty = new Uint8Array(pixels * 3).fill(200);
    const finished = empty.slice();
    for (let p = 0; p < pixels / 2; p++) finished.fill(100, p * 3, p * 3 + 3);
    const { shadow, people } = layersOf(
      { ...size, channels: 3, data: finished },
      { ...size, channels: 3, data: empty },
      new Uint8Array(pixels),
    );
    expect([...shadow.data.subarray(0, 4)]).toEqual([0, 0, 0, 128]);
    expect(shadow.data.at(-1)).toBe(0);
    expect(Math.max(...people.data)).toBeLessThan(3);
  });
});

test('a layer stands where the cut stands; coverage is a picture of its own; clear rims are trimmed', () => {
  const data = new Uint8Array(8 * 8 * 4);
  for (const p of [27, 28, 35, 36]) data.set([255, 255, 255, 255], p * 4);
  const cutout = { width: 8, height: 8, channels: 4 as const, data };
  expect(trimmedTo(cutout)).toEqual({ left: 3, top: 3, width: 2, height: 2 });
  expect([...matteOf(cutout).data].filter((v) => v === 255)).toHaveLength(4);
  const placed = placedLayer(
    { cutout, placement: { x: 0.75, y: 1, height: 1 }, mirrored: false, turn: 0 },
    { width: 16, height: 8 },
    (v) => Math.round(v * 255),
  );
  const covered = [...placed.data].flatMap((v, i) => (i % 4 === 3 && v === 255 ? [(i - 3) / 4] : []));
  expect(covered).toEqual([59, 60, 75, 76]);
});
