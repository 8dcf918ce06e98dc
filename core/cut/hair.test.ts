import { describe, expect, test } from 'vitest';
import { createLinear, createMask, type LinearRaster, type Mask } from '../image/raster.ts';
import { roughness } from '../image/roughness.ts';
import { fillAmongDyed, hairyOf, strandMasses } from './hair.ts';
import { Region } from './region.ts';

type Rgb = [number, number, number];
const WIDTH = 200;
const HEIGHT = 300;
const SCREEN: Rgb = [0.08, 0.42, 0.1];
const fair: Rgb[] = [
  [0.5, 0.36, 0.16],
  [0.38, 0.27, 0.12],
  [0.44, 0.32, 0.14],
];

/** A screen, and in the rectangle left, top, right, bottom columns of the colours in turn. */
function columns(
  colours: Rgb[],
  [left, top, right, bottom]: [number, number, number, number],
): { frame: LinearRaster; clear: Mask } {
  const frame = createLinear(WIDTH, HEIGHT);
  const clear = createMask(WIDTH, HEIGHT);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const inside = x >= left && x < right && y >= top && y < bottom;
      clear.data[y * WIDTH + x] = inside ? 0 : 1;
      frame.data.set(inside ? colours[x % colours.length] : SCREEN, (y * WIDTH + x) * 3);
    }
  }
  return { frame, clear };
}

const at = (x: number, y: number): number => y * WIDTH + x;
const whole = (value: 0 | 1): Mask => ({
  width: WIDTH,
  height: HEIGHT,
  data: new Uint8Array(WIDTH * HEIGHT).fill(value),
});

describe('strandMasses', () => {
  test('strands over some width are a mass; smooth cloth is none, nor is the outline around it', () => {
    const hair = columns(fair, [40, 40, 120, 200]);
    expect(strandMasses(roughness(hair.frame, 1), hair.clear).data[at(80, 100)]).toBe(1);
    const cloth = columns([[0.5, 0.36, 0.16]], [40, 40, 120, 200]);
    expect(strandMasses(roughness(cloth.frame, 1), cloth.clear).data.includes(1)).toBe(false);
  });
  test('a thin pole, uneven only by its two outlines, is none', () => {
    const pole = columns([[0.5, 0.36, 0.2]], [90, 20, 95, 280]);
    expect(strandMasses(roughness(pole.frame, 1), pole.clear).data.includes(1)).toBe(false);
  });
});

describe('hairyOf', () => {
  const key = new Float32Array(WIDTH * HEIGHT).fill(1.3);
  for (let y = 0; y < HEIGHT; y++) for (let x = 40; x < 60; x++) key[at(x, y)] = 1.05;
  const { frame, clear } = columns(fair, [40, 40, 120, 200]);
  const coreLike: Mask = { width: WIDTH, height: HEIGHT, data: clear.data.map((v) => 1 - v) };
  const distance = Float32Array.from(
    { length: WIDTH * HEIGHT },
    (_, p) => Math.min(p % WIDTH, WIDTH - (p % WIDTH)) - 40,
  );
  const rough = roughness(frame, 1);
  test('strands near the screen that key less than deeper inside may let it shine through', () => {
    const hairy = hairyOf(frame, rough, whole(1), distance, key, coreLike, 0.96);
    expect(hairy.data[at(48, 120)]).toBe(2);
    expect(hairy.data[at(100, 120)]).toBe(0);
  });
  test('not outside the masses of hair: poles and folds are uneven too', () => {
    expect(hairyOf(frame, rough, whole(0), distance, key, coreLike, 0.96).data.some((v) => v > 0)).toBe(false);
  });
});

describe('fillAmongDyed', () => {
  /** Core all round a hole of 20 × 20, which is fringe but for so many clear pixels. */
  const holed = (clearPixels: number): { regions: Mask; dyed: Mask } => {
    const regions = createMask(WIDTH, HEIGHT);
    const dyed = createMask(WIDTH, HEIGHT);
    for (let y = 50; y < 150; y++) for (let x = 50; x < 150; x++) regions.data[at(x, y)] = Region.core;
    let left = clearPixels;
    for (let y = 90; y < 110; y++)
      for (let x = 90; x < 110; x++) regions.data[at(x, y)] = left-- > 0 ? Region.clear : Region.fringe;
    for (let y = 40; y < 160; y++) for (let x = 40; x < 160; x++) dyed.data[at(x, y)] = y < 60 ? 1 : 2;
    return { regions, dyed };
  };
  test('a gap among green strands with hardly any plain screen belongs to them', () => {
    const { regions, dyed } = holed(20);
    fillAmongDyed(regions, dyed);
    expect(regions.data[at(100, 100)]).toBe(Region.core);
  });
  test('a gap of plain screen stays one, and so does all that is not among green strands', () => {
    const open = holed(300);
    fillAmongDyed(open.regions, open.dyed);
    expect(open.regions.data[at(100, 100)]).not.toBe(Region.core);
    const elsewhere = holed(20);
    fillAmongDyed(elsewhere.regions, createMask(WIDTH, HEIGHT));
    expect(elsewhere.regions.data[at(100, 100)]).toBe(Region.fringe);
  });
});
