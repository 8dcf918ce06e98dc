import { describe, expect, test } from 'vitest';
import { encoderFor, linearTable } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import type { Path, Touch, TouchKind } from '../touch/touch.ts';
import { cutFrame, defaultRecipe, noGuidance, type Guidance } from './index.ts';

/** What touches about solving and colour do to a cut. */

const SIZE = 240;
const B = [0.08, 0.42, 0.1];
const SKIN = [0.5, 0.3, 0.22];
/** Cloth of nearly the screen's colour. */
const CLOTH = [0.07, 0.34, 0.085];

type Colour = readonly number[];

/** Coverage of a disc of 70 pixels with a soft edge. */
const covered = (p: number): number =>
  Math.max(0, Math.min(1, (70 - Math.hypot((p % SIZE) - 120, Math.floor(p / SIZE) - 120)) / 5));
/** A disc on green, 16 bit; what `inside` names has that colour instead of skin. */
function frameOf(inside: (x: number, y: number) => Colour | undefined = () => undefined): EncodedRaster {
  const data = new Uint16Array(SIZE * SIZE * 3);
  const encode = encoderFor(data);
  for (let p = 0; p < SIZE * SIZE; p++) {
    const a = covered(p);
    const colour = inside(p % SIZE, Math.floor(p / SIZE)) ?? SKIN;
    for (let c = 0; c < 3; c++) data[p * 3 + c] = encode(a * colour[c] + (1 - a) * B[c]);
  }
  return { width: SIZE, height: SIZE, channels: 3, data };
}

const touch = (kind: TouchKind, part: Partial<Touch> = {}): Touch => ({
  id: kind,
  at: 1,
  kind,
  on: true,
  size: 0.15,
  softness: 0.3,
  strength: 1,
  path: 'p',
  ...part,
});
const along = (...points: [number, number][]): Path => ({
  closed: false,
  points: points.map(([x, y]) => ({ x: x / SIZE, y: y / SIZE, pressure: 1 })),
});

function cutOf(frame: EncodedRaster, line: Path, ...touches: Touch[]): EncodedRaster {
  const guidance: Guidance = { ...noGuidance, touches };
  const result = cutFrame(frame, defaultRecipe, guidance, { paths: new Map([['p', line]]) });
  if (!result.ok) throw new Error(result.reason);
  return result.cutout;
}
const alphaAt = ({ data }: EncodedRaster, x: number, y: number): number => data[(y * SIZE + x) * 4 + 3] / 65535;
const errorOf = ({ data }: EncodedRaster): number => {
  let sum = 0;
  for (let p = 0; p < SIZE * SIZE; p++) sum += (data[p * 4 + 3] / 65535 - covered(p)) ** 2;
  return sum;
};

describe('coverage raised by a touch', () => {
  test('greys that become fuller keep the colour they were solved with, and none of the screen’s; what is made solid is as photographed', () => {
    const frame = frameOf();
    const line = along([187, 90], [187, 150]);
    const table = linearTable(frame.data);
    const colourAt = ({ data }: EncodedRaster): number[] =>
      [0, 1, 2].map((c) => table[data[(120 * SIZE + 187) * 4 + c]]);
    const plain = cutOf(frame, line);
    const fuller = cutOf(frame, line, touch('greysUp', { strength: 0.8 }));
    expect(alphaAt(plain, 187, 120)).toBeGreaterThan(0.3);
    expect(alphaAt(fuller, 187, 120)).toBeGreaterThan(alphaAt(plain, 187, 120) + 0.1);
    expect(alphaAt(fuller, 187, 120)).toBeLessThan(1);
    colourAt(fuller).forEach((v, c) => expect(v).toBeCloseTo(colourAt(plain)[c], 3));
    const [r, g] = colourAt(cutOf(frame, line, touch('add')));
    expect(g / r).toBeGreaterThan(colourAt(plain)[1] / colourAt(plain)[0]);
  });
});

describe('solved anew with a hint', () => {
  test('along an edge with a wide stroke it keeps the edge, where a plain brush takes or fills it', () => {
    // Down the right side, over edge, person and screen.
    const line = along([186, 80], [190, 120], [186, 160]);
    const frame = frameOf();
    const untouched = errorOf(cutOf(frame, line));
    for (const [hint, plain] of [
      ['screen', 'take'],
      ['hair', 'add'],
      ['person', 'add'],
    ] as const) {
      const solved = errorOf(cutOf(frame, line, touch(hint)));
      const brushed = errorOf(cutOf(frame, line, touch(plain)));
      expect(solved, hint).toBeLessThan(0.3 * brushed);
      expect(solved, hint).toBeLessThan(untouched + 60);
    }
  });

  test('a place called screen opens, though its green was kept as cloth; one called person closes', () => {
    const strip = (x: number, y: number): Colour | undefined =>
      Math.abs(x - 120) < 12 && Math.abs(y - 120) < 30 ? CLOTH : undefined;
    const line = along([120, 95], [120, 145]);
    const frame = frameOf(strip);
    const asPerson = cutOf(frame, line, touch('person'));
    expect(alphaAt(asPerson, 120, 120)).toBeGreaterThan(0.97);
    const asScreen = cutOf(frame, line, touch('screen'));
    expect(alphaAt(asScreen, 120, 120)).toBeLessThan(0.4);
    // The skin beside it stays whole, though the stroke goes over it.
    expect(alphaAt(asScreen, 140, 120)).toBeGreaterThan(0.9);
    // Kept cloth keeps its green.
    const table = linearTable(asPerson.data);
    const o = (120 * SIZE + 120) * 4;
    expect(table[asPerson.data[o + 1]] - table[asPerson.data[o]]).toBeGreaterThan(0.15);
  });
});

test('what a hand takes away keeps its colour to the end of its soft border', () => {
  const frame = frameOf();
  const line = along([100, 120], [120, 120]);
  const cut = cutOf(frame, line, touch('take', { softness: 1, size: 0.2 }));
  let thinned = 0;
  for (let p = 0; p < SIZE * SIZE; p++) {
    const a = cut.data[p * 4 + 3] / 65535;
    const [x, y] = [p % SIZE, Math.floor(p / SIZE)];
    if (a < 0.1 || a > 0.9 || Math.abs(x - 110) > 30 || Math.abs(y - 120) > 30) continue;
    thinned++;
    for (let c = 0; c < 3; c++)
      expect(Math.abs(cut.data[p * 4 + c] - frame.data[p * 3 + c])).toBeLessThan(0.02 * 65535);
  }
  expect(thinned).toBeGreaterThan(50);
  // Where nothing is left there is no colour either.
  expect([...cut.data.subarray((120 * SIZE + 110) * 4, (120 * SIZE + 110) * 4 + 4)]).toEqual([0, 0, 0, 0]);
});

describe('touches on colour', () => {
  const tinted = [0.5, 0.54, 0.503];
  const line = along([90, 120], [110, 120]);
  const lead = (cut: EncodedRaster, x: number): number => {
    const table = linearTable(cut.data);
    const o = (120 * SIZE + x) * 4;
    return table[cut.data[o + 1]] - Math.max(table[cut.data[o]], table[cut.data[o + 2]]);
  };

  test('spill stays, or goes, only where they pass', () => {
    const frame = frameOf(() => tinted);
    const usual = cutOf(frame, line);
    const left = cutOf(frame, line, touch('spillLeft'));
    expect(lead(left, 100)).toBeGreaterThan(0.03);
    expect(lead(left, 150)).toBeCloseTo(lead(usual, 150), 5);
    const gone = cutOf(frame, line, touch('spillGone'));
    expect(lead(gone, 100)).toBeLessThanOrEqual(lead(usual, 100) + 1e-6);
    expect(lead(cutOf(frame, line, touch('spillLeft'), touch('spillGone', { at: 2 })), 100)).toBeLessThan(0.005);
  });

  test('an edge takes the colour from inside: brightness stays, or comes with it; coverage is untouched', () => {
    // A rim of another colour, as of screen light that nothing else takes away.
    const rim = (x: number, y: number): Colour | undefined =>
      Math.hypot(x - 120, y - 120) > 64 ? [0.2, 0.24, 0.6] : undefined;
    const frame = frameOf(rim);
    const edge = along([186, 100], [186, 140]);
    const before = cutOf(frame, edge);
    const colour = cutOf(frame, edge, touch('edgeColour'));
    const both = cutOf(frame, edge, touch('edgePaint'));
    const at = (cut: EncodedRaster): number[] => {
      const table = linearTable(cut.data);
      return [0, 1, 2].map((c) => table[cut.data[(120 * SIZE + 186) * 4 + c]]);
    };
    expect(alphaAt(colour, 186, 120)).toBe(alphaAt(before, 186, 120));
    const bluish = ([r, , b]: number[]): number => b / r;
    expect(bluish(at(before))).toBeGreaterThan(1.5);
    expect(bluish(at(colour))).toBeLessThan(0.6 * bluish(at(before)));
    expect(at(both)[0]).not.toBeCloseTo(at(colour)[0], 3);
  });
});
