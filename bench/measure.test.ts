import { describe, expect, test } from 'vitest';
import { linearToSrgb } from '../core/colour/transfer.ts';
import { createLinear, createPlane, type EncodedRaster } from '../core/image/raster.ts';
import { measure, type Truth } from './measure.ts';

const SIZE = 120;
const screen = [0.08, 0.42, 0.1] as const;
const skin = [0.5, 0.3, 0.22];
const lime = [0.1, 0.4, 0.1];

/**
 * A disc with a soft rim and a round hole in it, of one colour; the green patch is a part of it near the screen's
 * colour.
 */
function truth(own: (x: number, y: number) => readonly number[] = () => skin): Truth {
  const matte = createPlane(SIZE, SIZE);
  const foreground = createLinear(SIZE, SIZE, 4);
  const frame: EncodedRaster = { width: SIZE, height: SIZE, channels: 3, data: new Uint8Array(SIZE * SIZE * 3) };
  for (let p = 0; p < SIZE * SIZE; p++) {
    const x = p % SIZE;
    const y = (p / SIZE) | 0;
    const from = Math.hypot(x - 60, y - 60);
    const hole = Math.hypot(x - 60, y - 60) - 10;
    const a = Math.max(0, Math.min(1, (45 - from) / 6, hole / 6));
    matte.data[p] = a;
    const colour = own(x, y);
    for (let c = 0; c < 3; c++) {
      foreground.data[p * 4 + c] = a * colour[c];
      frame.data[p * 3 + c] = Math.round(255 * linearToSrgb(a * colour[c] + (1 - a) * screen[c]));
    }
    foreground.data[p * 4 + 3] = a;
  }
  return { frame, matte, foreground, clean: foreground, screen, channel: 1 };
}

/** The cut that the truth asks for, changed at will. */
function cutOf(
  { matte, foreground }: Truth,
  coverage: (a: number, p: number) => number = (a) => a,
  colour: (linear: number, c: number) => number = (v) => v,
): EncodedRaster {
  const data = new Uint16Array(SIZE * SIZE * 4);
  for (let p = 0; p < SIZE * SIZE; p++) {
    const a = matte.data[p];
    for (let c = 0; c < 3; c++)
      data[p * 4 + c] = a > 0 ? Math.round(65535 * linearToSrgb(colour(foreground.data[p * 4 + c] / a, c))) : 0;
    data[p * 4 + 3] = Math.round(65535 * coverage(a, p));
  }
  return { width: SIZE, height: SIZE, channels: 4, data };
}

describe('measure', () => {
  test('the true cut has no error of any kind', () => {
    const figures = measure(cutOf(truth()), truth());
    expect(figures.mse).toBeCloseTo(0, 6);
    expect(figures.sad).toBeCloseTo(0, 3);
    expect(figures.gradient).toBeCloseTo(0, 6);
    expect(figures.holes).toBe(0);
    expect(figures.residue).toBe(0);
    expect(figures.gaps).toBe(0);
    expect(figures.fringe).toBeLessThan(0.01);
    // Its noise is that of the frame's 8 bits, which the cut has not.
    expect(Math.abs(figures.body)).toBeLessThan(0.2);
    expect(figures.excess).toBeLessThan(0.01);
    expect(figures.kept, 'nothing here is near the screen’s colour').toBeNaN();
  });

  test('coverage that is a tenth too low everywhere on the person', () => {
    const scene = truth();
    const figures = measure(
      cutOf(scene, (a) => 0.9 * a),
      scene,
    );
    expect(figures.holes).toBe(100);
    expect(figures.residue).toBe(0);
    expect(figures.mse).toBeGreaterThan(0);
    expect(figures.mse).toBeLessThan(1000 * 0.1 ** 2);
    expect(figures.fringe).toBeGreaterThan(0.3);
  });

  test('screen left at a known share of the clear places is that much residue', () => {
    const scene = truth();
    const figures = measure(
      cutOf(scene, (a, p) => (a === 0 && p % 4 === 0 ? 0.1 : a)),
      scene,
    );
    expect(figures.residue).toBeGreaterThan(24);
    expect(figures.residue).toBeLessThan(26);
    expect(figures.gaps).toBeGreaterThan(0.015);
    expect(figures.gaps).toBeLessThan(0.035);
    expect(figures.holes).toBe(0);
  });

  test('a gap that stays closed', () => {
    const scene = truth();
    const closed = measure(
      cutOf(scene, (a, p) => (Math.hypot((p % SIZE) - 60, ((p / SIZE) | 0) - 60) < 20 ? 1 : a)),
      scene,
    );
    expect(closed.gaps).toBe(1);
  });

  test('green that stays in part; and what its colour loses', () => {
    const scene = truth((x) => (x < 60 ? lime : skin));
    expect(measure(cutOf(scene), scene).kept).toBeCloseTo(1, 4);
    expect(measure(cutOf(scene), scene).keptColour).toBeLessThan(0.05);
    const half = measure(
      cutOf(scene, (a, p) => (p % SIZE < 60 && (p / SIZE) % 2 < 1 ? 0 : a)),
      scene,
    );
    expect(half.kept).toBeGreaterThan(0.45);
    expect(half.kept).toBeLessThan(0.55);
    const grey = measure(
      cutOf(
        scene,
        (a) => a,
        () => 0.2,
      ),
      scene,
    );
    expect(grey.keptColour).toBeGreaterThan(10);
  });

  test('a green rim is excess and fringe error, and not less on red than on grey', () => {
    const scene = truth();
    const rim = measure(
      cutOf(
        scene,
        (a) => a,
        (v, c) => (c === 1 ? Math.min(1, v + 0.25) : v),
      ),
      scene,
    );
    expect(rim.excess).toBeGreaterThan(3);
    expect(rim.fringe).toBeGreaterThan(3);
    expect(rim.fringeRed).toBeGreaterThan(2);
    const pink = measure(
      cutOf(
        scene,
        (a) => a,
        (v, c) => (c === 1 ? 0.6 * v : v),
      ),
      scene,
    );
    expect(pink.excess, 'too little green is no excess').toBeLessThan(0.01);
    expect(pink.fringe).toBeGreaterThan(1);
  });

  test('8 and 16 bit cuts are read alike', () => {
    const scene = truth();
    const wide = cutOf(scene, (a) => a ** 1.3);
    const narrow: EncodedRaster = { ...wide, data: Uint8Array.from(wide.data, (v) => Math.round(v / 257)) };
    const [a, b] = [measure(wide, scene), measure(narrow, scene)];
    expect(b.mse).toBeCloseTo(a.mse, 1);
    expect(b.holes).toBeCloseTo(a.holes, 0);
  });
});
