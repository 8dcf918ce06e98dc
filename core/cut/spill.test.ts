import { describe, expect, test } from 'vitest';
import { encoderFor, linearTable } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import { spillAlong, type HandMask } from './guidance.ts';
import { cutFrame, defaultRecipe, type Doubt, type Guidance, type Recipe } from './index.ts';

const WIDTH = 200;
const HEIGHT = 240;
const B = [0.08, 0.42, 0.1];
/** A white shirt with the screen's light on it. */
const TINTED = [0.6, 0.64, 0.603];
const half = (effect: HandMask['effect'], left: number, right: number): HandMask => ({
  effect,
  polygon: [
    { x: left, y: 0 },
    { x: right, y: 0 },
    { x: right, y: 1 },
    { x: left, y: 1 },
  ],
});

/** A disc of one colour on green, 16 bit. */
function disc(colour: number[]): EncodedRaster {
  const data = new Uint16Array(WIDTH * HEIGHT * 3);
  const encode = encoderFor(data);
  for (let p = 0; p < WIDTH * HEIGHT; p++) {
    const a = Math.max(0, Math.min(1, (70 - Math.hypot((p % WIDTH) - 100, Math.floor(p / WIDTH) - 120)) / 5));
    colour.forEach((v, c) => (data[p * 3 + c] = encode(a * v + (1 - a) * B[c])));
  }
  return { width: WIDTH, height: HEIGHT, channels: 3, data };
}

/** Linear colours of the cut disc left and right of its middle, and coverage there. */
function sides(
  colour: number[],
  part: Partial<Recipe> = {},
  masks: HandMask[] = [],
  verdicts: Guidance['verdicts'] = [],
): { left: number[]; right: number[] } {
  const result = cutFrame(
    disc(colour),
    { ...defaultRecipe, ...part },
    { masks, verdicts, touches: [], departures: [] },
  );
  if (!result.ok) throw new Error(result.reason);
  const { data } = result.cutout;
  const table = linearTable(data);
  const at = (x: number): number[] => [0, 1, 2].map((c) => table[data[(120 * WIDTH + x) * 4 + c]]);
  return { left: at(75), right: at(125) };
}
const lead = ([r, g, b]: number[]): number => g - Math.max(r, b);

describe('a see-through mask', () => {
  test('opens sheer cloth of its own colour, which looks like cloth of the mixed one', () => {
    const cloth = [0.7, 0.14, 0.12];
    const over = cloth.map((v, c) => 0.5 * v + 0.5 * B[c]);
    const cut = (masks: HandMask[]): number[] => {
      const result = cutFrame(disc(over), defaultRecipe, { masks, verdicts: [], touches: [], departures: [] });
      if (!result.ok) throw new Error(result.reason);
      const table = linearTable(result.cutout.data);
      const at = (120 * WIDTH + 125) * 4;
      return [result.cutout.data[at + 3] / 65535, ...[0, 1, 2].map((c) => table[result.cutout.data[at + c]])];
    };
    expect(cut([])[0]).toBe(1);
    const [coverage, ...colour] = cut([half('sheer', 0, 1)]);
    expect(coverage).toBeCloseTo(0.47, 2);
    colour.forEach((v, c) => expect(Math.abs(v - cloth[c])).toBeLessThan(0.06));
    // Left of the mask it stays as it was.
    expect(cut([half('sheer', 0, 0.4)])[0]).toBe(1);
  });
});

describe('spill masks', () => {
  test('along a row: left as it is, all of it gone, the usual amount elsewhere, smooth over a pixel', () => {
    const amount = new Float32Array(8);
    const gone = new Uint8Array(8);
    spillAlong([half('spillLeft', 0, 2.5 / 8), half('spillGone', 0.75, 1)], 0.8, 0, 4, amount, gone);
    expect([...amount].map((v) => Math.round(v * 100) / 100)).toEqual([0, 0, 0.4, 0.8, 0.8, 0.8, 1, 1]);
    expect([...gone]).toEqual([0, 0, 0, 0, 0, 0, 1, 1]);
    spillAlong([half('spillGone', 0, 1), half('spillLeft', 0, 0.5)], 0.8, 0, 4, amount, gone);
    expect([...amount]).toEqual([0, 0, 0, 0, 1, 1, 1, 1]);
  });

  test('keep the colour on one side and clean the other', () => {
    const { left, right } = sides(TINTED, { spill: 1 }, [half('spillLeft', 0, 0.5)]);
    left.forEach((v, c) => expect(v).toBeCloseTo(TINTED[c], 3));
    expect(lead(right)).toBeLessThan(0.012);
  });

  test('take all of it where the recipe takes none', () => {
    const { left, right } = sides(TINTED, { spill: 0 }, [half('spillGone', 0.5, 1)]);
    expect(lead(left)).toBeCloseTo(lead(TINTED), 3);
    expect(lead(right)).toBeLessThan(0.012);
  });

  test('take it from kept green too, and from that alone', () => {
    const green = [0.03, 0.12, 0.06];
    const kept = { x: 0.5, y: 0.5, chroma: [0.03 / 0.21, 0.06 / 0.21] as [number, number], share: 0.32, keep: true };
    const { left, right } = sides(green, {}, [half('spillGone', 0.5, 1)], [kept]);
    left.forEach((v, c) => expect(v).toBeCloseTo(green[c], 3));
    expect(lead(right)).toBeLessThan(0.012);
  });
});

describe('spill as a doubt', () => {
  const bentIn = (colour: number[], part: Partial<Recipe>): Doubt | undefined => {
    const result = cutFrame(disc(colour), { ...defaultRecipe, ...part });
    if (!result.ok) throw new Error(result.reason);
    return result.quality.doubts.find(({ kind }) => kind === 'spillBent');
  };
  test('a colour that removing spill bent deep inside is told; one that stays is not', () => {
    const yellow = [0.5, 0.5, 0.12];
    expect(bentIn(yellow, { spill: 1, spillMethod: 'average' })?.minutes).toBeGreaterThan(0.1);
    expect(bentIn(yellow, { spill: 0 })).toBeUndefined();
    expect(bentIn([0.4, 0.4, 0.4], { spill: 1, spillMethod: 'average' })).toBeUndefined();
  });
});
