import { describe, expect, test } from 'vitest';
import { createLinear, createMask, type LinearRaster, type Mask } from '../image/raster.ts';
import { closeKept, growKept, keepBeside, leaveOutline } from './keptCloth.ts';
import type { GreenPatch } from './greenPatch.ts';
import { Region } from './region.ts';

type Rgb = [number, number, number];
const SIZE = 100;
const SCREEN: Rgb = [0.08, 0.42, 0.1];
const bottle: Rgb = [0.015, 0.075, 0.04];

function filled(colour: Rgb): LinearRaster {
  const frame = createLinear(SIZE, SIZE);
  for (let p = 0; p < SIZE * SIZE; p++) frame.data.set(colour, p * 3);
  return frame;
}

/** 1, or what is given, in the rectangle left, top, right, bottom. */
function box(left: number, top: number, right: number, bottom: number, value = 1): Mask {
  const mask = createMask(SIZE, SIZE);
  for (let y = top; y < bottom; y++) mask.data.fill(value, y * SIZE + left, y * SIZE + right);
  return mask;
}

const at = (x: number, y: number): number => y * SIZE + x;
const patch = { chroma: [bottle[0] / 0.13, bottle[2] / 0.13] } as GreenPatch;

describe('growKept', () => {
  /** Kept on the left; `beside` from column 40 to 60, then the screen. */
  const grown = (beside: Rgb, masses = createMask(SIZE, SIZE), rough = 0): Mask => {
    const frame = filled(SCREEN);
    for (let y = 0; y < SIZE; y++) for (let x = 0; x < 60; x++) frame.data.set(x < 40 ? bottle : beside, at(x, y) * 3);
    const kept = box(0, 0, 40, SIZE);
    growKept(
      frame,
      filled(SCREEN),
      kept,
      Uint16Array.from(kept.data),
      [patch],
      box(60, 0, SIZE, SIZE),
      masses,
      new Float32Array(SIZE * SIZE).fill(rough),
    );
    return kept;
  };
  test('goes on in its own colour, darker or lighter, up to the screen', () => {
    const kept = grown(bottle.map((v) => v * 1.4) as Rgb);
    expect(kept.data[at(55, 50)]).toBe(1);
    expect(kept.data[at(60, 50)]).toBe(0);
  });
  test('goes on in cloth so dark that stray light changes its colour', () => {
    const skirt: Rgb = [0.006, 0.016, 0.005];
    const frame = filled(SCREEN);
    for (let y = 0; y < SIZE; y++) for (let x = 0; x < 60; x++) frame.data.set(skirt, at(x, y) * 3);
    const kept = box(0, 0, 40, SIZE);
    const dark = { chroma: [skirt[0] / 0.027, skirt[2] / 0.027] } as GreenPatch;
    const none = createMask(SIZE, SIZE);
    const clear = box(60, 0, SIZE, SIZE);
    growKept(
      frame,
      filled(SCREEN),
      kept,
      Uint16Array.from(kept.data),
      [dark],
      clear,
      none,
      new Float32Array(SIZE * SIZE),
    );
    expect(kept.data[at(55, 50)]).toBe(1);
    expect(kept.data[at(60, 50)]).toBe(0);
  });
  test('does not go on into another colour, nor nearer to the screen’s', () => {
    expect(grown([0.3, 0.2, 0.15]).data[at(45, 50)]).toBe(0);
    expect(grown([0.04, 0.2, 0.06]).data[at(55, 50)]).toBe(0);
  });
  test('stops at uneven hair before it', () => {
    expect(grown(bottle, box(40, 0, 60, SIZE), 0.1).data[at(50, 50)]).toBe(0);
    expect(grown(bottle, box(40, 0, 60, SIZE), 0.01).data[at(50, 50)]).toBe(1);
  });
});

describe('closeKept', () => {
  const dent = (colour: Rgb, key: number): number => {
    const frame = filled(bottle);
    for (let y = 40; y < 60; y++) for (let x = 49; x < 51; x++) frame.data.set(colour, at(x, y) * 3);
    const kept = box(20, 20, 80, 80);
    for (let y = 40; y < 60; y++) kept.data.fill(0, at(49, y), at(51, y));
    const regions = createMask(SIZE, SIZE);
    regions.data.fill(Region.fringe);
    closeKept(frame, filled(SCREEN), kept, new Float32Array(SIZE * SIZE).fill(key), regions);
    return kept.data[at(50, 50)];
  };
  test('a fold too dark to be green by itself belongs to the cloth around it', () => {
    expect(dent([0.004, 0.012, 0.008], 0.98)).toBe(1);
  });
  test('what keys like another colour, or may be screen between hairs, does not', () => {
    expect(dent([0.3, 0.2, 0.15], 1.2)).toBe(0);
    expect(dent([0.1, 0.38, 0.1], 0.2)).toBe(0);
  });
});

test('leaveOutline frees what lies within an outline’s width of plain screen, and nothing without screen', () => {
  const kept = box(0, 0, 50, SIZE);
  leaveOutline(kept, box(50, 0, SIZE, SIZE), 3);
  expect([46, 47, 49].map((x) => kept.data[at(x, 50)])).toEqual([1, 0, 0]);
  const inner = box(0, 0, 50, SIZE);
  leaveOutline(inner, createMask(SIZE, SIZE), 3);
  expect(inner.data[at(49, 50)]).toBe(1);
});

describe('keepBeside', () => {
  const beside = (colour: Rgb, regions = box(0, 0, 80, SIZE, Region.core)): Mask => {
    const frame = filled(colour);
    const kept = box(0, 0, 40, SIZE);
    keepBeside(frame, kept, regions, 1);
    return kept;
  };

  test('a dark seam as green as the cloth is kept with it, within reach', () => {
    const kept = beside(bottle);
    expect(kept.data[at(45, 50)]).toBe(1);
    expect(kept.data[at(60, 50)]).toBe(0);
  });
  test('skin and white cloth beside it are not, nor what is not solid', () => {
    expect(beside([0.5, 0.3, 0.22]).data[at(45, 50)]).toBe(0);
    expect(beside([0.6, 0.66, 0.6]).data[at(45, 50)]).toBe(0);
    expect(beside(bottle, box(0, 0, 80, SIZE, Region.fringe)).data[at(45, 50)]).toBe(0);
  });
});
