import { describe, expect, test } from 'vitest';
import { luminance } from '../colour/luminance.ts';
import { encoderFor } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import { cutFrame, defaultRecipe, recipeChoices, type Method, type Recipe, type SpillMethod } from './index.ts';
import type { Matte } from './coverage.ts';
import { shapeMatte } from './shape.ts';
import { wholeMatte } from './matte.ts';
import { spillMethods } from './recipe.ts';
import { removeSpill, spillWay, takeStray } from './spill.ts';

const WIDTH = 200;
const HEIGHT = 240;

/** A grey disc with a soft edge on green, mixed in linear light. */
function disc(): { frame: EncodedRaster; truth: Float32Array } {
  const data = new Uint16Array(WIDTH * HEIGHT * 3);
  const encode = encoderFor(data);
  const truth = new Float32Array(WIDTH * HEIGHT);
  for (let p = 0; p < truth.length; p++) {
    truth[p] = Math.max(0, Math.min(1, (70 - Math.hypot((p % WIDTH) - 100, Math.floor(p / WIDTH) - 120)) / 5));
    [0.35, 0.35, 0.35].forEach(
      (v, c) => (data[p * 3 + c] = encode(truth[p] * v + (1 - truth[p]) * [0.08, 0.42, 0.1][c])),
    );
  }
  return { frame: { width: WIDTH, height: HEIGHT, channels: 3, data }, truth };
}
function cut(frame: EncodedRaster, part: Partial<Recipe>): EncodedRaster {
  const result = cutFrame(frame, { ...defaultRecipe, floor: 0, ceiling: 1, ...part });
  if (!result.ok) throw new Error(result.reason);
  return result.cutout;
}

describe('methods', () => {
  const { frame, truth } = disc();
  const keying = (Object.keys(recipeChoices.method.options) as Method[]).filter((method) => method !== 'whole');
  test.each(keying)('%s: the disc stays, the screen goes', (method) => {
    const { data } = cut(frame, { method });
    let wrong = 0;
    for (let p = 0; p < truth.length; p++)
      if ((truth[p] === 1 && data[p * 4 + 3] < 65000) || (truth[p] === 0 && data[p * 4 + 3] > 500)) wrong++;
    expect(wrong).toBeLessThan(truth.length / 500);
  });
  test('colour difference recovers the coverage of a neutral colour exactly', () => {
    const { data } = cut(frame, { method: 'difference', keyFrom: 0, keyTo: 1 });
    let worst = 0;
    for (let p = 0; p < truth.length; p++) worst = Math.max(worst, Math.abs(data[p * 4 + 3] / 65535 - truth[p]));
    expect(worst).toBeLessThan(0.02);
  });
  test('soft and hard: below the head zone the edge is harder than in it', () => {
    const { data } = cut(frame, { method: 'layers', headZone: 50 });
    const partial = (from: number, to: number): number => {
      let n = 0;
      for (let p = from * WIDTH; p < to * WIDTH; p++) if (data[p * 4 + 3] > 3000 && data[p * 4 + 3] < 62000) n++;
      return n;
    };
    expect(partial(125, 240)).toBeLessThan(0.6 * partial(0, 115));
  });
  test.each(['difference', 'distance'] as const)(
    '%s: purity clears a spot of the screen that is veiled with white, and leaves the grey disc whole',
    (method) => {
      const veiled = { ...frame, data: frame.data.slice() };
      const encode = encoderFor(veiled.data);
      const spot = Array.from({ length: 30 * 30 }, (_, n) => (5 + Math.floor(n / 30)) * WIDTH + 5 + (n % 30));
      for (const p of spot)
        veiled.data.set(
          [0.08, 0.42, 0.1].map((v) => encode(0.8 * v + 0.09)),
          p * 3,
        );
      const left = (purity: number): number => {
        const { data } = cut(veiled, { method, keyFrom: 0, keyTo: 1, purity });
        expect(data[(120 * WIDTH + 100) * 4 + 3]).toBeGreaterThan(65000);
        return spot.reduce((sum, p) => sum + data[p * 4 + 3], 0) / spot.length / 65535;
      };
      expect(left(0)).toBeGreaterThan(0.1);
      expect(left(1)).toBeLessThan(0.7 * left(0));
    },
  );
});

describe('removeSpill', () => {
  const B = Float32Array.from([0.08, 0.42, 0.1]);
  const cleaned = (colour: number[], spillMethod: SpillMethod, spill = 1, also: Partial<Recipe> = {}): number[] => {
    const F = Float32Array.from(colour);
    removeSpill(F, B, 1, spillWay({ ...defaultRecipe, spillMethod, ...also }), spill, 0);
    return [...F];
  };
  const lead = ([r, g, b]: number[]): number => g - Math.max(r, b);
  test.each(Object.keys(recipeChoices.spillMethod.options) as SpillMethod[])(
    '%s: a tinted white comes out neutral, skin untouched, none at amount 0',
    (method) => {
      expect(lead(cleaned([0.6, 0.66, 0.61], method))).toBeLessThan(0.012);
      expect(cleaned([0.5, 0.3, 0.22], method)).toEqual([...Float32Array.from([0.5, 0.3, 0.22])]);
      expect(cleaned([0.6, 0.66, 0.61], method, 0)).toEqual([...Float32Array.from([0.6, 0.66, 0.61])]);
    },
  );
  test('limits hold the channel to what they are named after', () => {
    expect(cleaned([0.6, 0.9, 0.2], 'larger')[1]).toBeCloseTo(0.6, 5);
    expect(cleaned([0.6, 0.9, 0.2], 'average')[1]).toBeCloseTo(0.4, 5);
  });
  test('the complement brightens, greying keeps the brightness', () => {
    const before = [0.3, 0.5, 0.3];
    const light = ([r, g, b]: number[]): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;
    expect(light(cleaned(before, 'complement'))).toBeGreaterThan(light(before));
    expect(light(cleaned(before, 'greying'))).toBeCloseTo(light(before), 5);
  });
  test('only hues near the screen’s lose it, with a soft end; grey and the screen’s own hue always do', () => {
    const yellowish = [0.5, 0.6, 0.1];
    const narrow = (spillFade: number): number[] => cleaned(yellowish, 'larger', 1, { spillHues: 30, spillFade });
    expect(narrow(0)).toEqual([...Float32Array.from(yellowish)]);
    // Its hue is 72, the screen's 124: 22 degrees beyond the 30.
    expect(narrow(44)[1]).toBeCloseTo(0.6 - 0.1 * 0.49, 2);
    expect(cleaned([0.2, 0.6, 0.22], 'larger', 1, { spillHues: 30, spillFade: 0 })[1]).toBeCloseTo(0.22, 5);
  });
  test.each(spillMethods)('%s: what was spill is drawn to the chosen colour, as bright as without', (method) => {
    const level = (F: number[]): number => luminance(F[0], F[1], F[2]);
    const green = [0.3, 0.5, 0.3];
    const plain = cleaned(green, method);
    const warm = cleaned(green, method, 1, { replaced: 1, replacedHue: 30, replacedPurity: 0.6 });
    expect(level(warm)).toBeCloseTo(level(plain), 5);
    expect(warm[0] - warm[2]).toBeGreaterThan(plain[0] - plain[2] + 0.02);
    const cold = cleaned(green, method, 1, { replaced: 1, replacedHue: 220, replacedPurity: 0.6 });
    expect(cold[2] - cold[0]).toBeGreaterThan(plain[2] - plain[0] + 0.02);
    expect(cleaned([0.5, 0.3, 0.22], method, 1, { replaced: 1 })).toEqual([...Float32Array.from([0.5, 0.3, 0.22])]);
  });
  test('the tint has the hue and purity that are set, at luminance 1', () => {
    for (const [replacedHue, order] of [
      [0, [0, 1, 1]],
      [60, [0, 0, 1]],
      [120, [1, 0, 1]],
      [240, [1, 1, 0]],
    ] as const) {
      const { tint } = spillWay({ ...defaultRecipe, replacedHue, replacedPurity: 1 });
      expect(luminance(...tint)).toBeCloseTo(1, 6);
      tint.forEach((v, c) => expect(v > 0.01).toBe(order[c] === 0));
    }
    spillWay({ ...defaultRecipe, replacedPurity: 0 }).tint.forEach((v) => expect(v).toBeCloseTo(1, 6));
  });
});

describe('shapeMatte', () => {
  const none = { edge: 0, softness: 0, specks: 0, holes: 0 };
  const matte = (paint: (x: number, y: number) => number): Matte => ({
    ...wholeMatte({ width: 40, height: 40 }),
    alpha: Uint16Array.from({ length: 1600 }, (_, p) => 65535 * paint(p % 40, Math.floor(p / 40))),
  });
  const box = matte((x, y) => (x >= 10 && x < 30 && y >= 10 && y < 30 ? 1 : 0));
  const total = ({ alpha }: Matte): number => alpha.reduce((sum, a) => sum + a, 0) / 65535;
  test('nothing asked, nothing done', () => expect(shapeMatte(box, none, [])).toBe(box));
  test('the edge moves by whole pixels and by tenths, out and in', () => {
    expect(total(shapeMatte(box, { ...none, edge: 1 }, []))).toBeCloseTo(400 + 80, 0);
    expect(total(shapeMatte(box, { ...none, edge: -1 }, []))).toBeCloseTo(18 * 18, 0);
    expect(total(shapeMatte(box, { ...none, edge: 0.3 }, []))).toBeCloseTo(400 + 24, 0);
    expect(total(shapeMatte(box, { ...none, edge: -1.5 }, []))).toBeCloseTo((18 * 18 + 16 * 16) / 2, 0);
  });
  test('softness spreads the edge and keeps the sum', () => {
    const soft = shapeMatte(box, { ...none, softness: 1.5 }, []);
    expect(total(soft)).toBeCloseTo(400, 0);
    expect(soft.alpha[20 * 40 + 9]).toBeGreaterThan(1000);
    expect(box.alpha[20 * 40 + 9]).toBe(0);
  });
  test('specks smaller than asked go, holes smaller are filled, larger stay', () => {
    const spotted = matte((x, y) =>
      x < 3 && y > 2 && y < 6 && x > 0
        ? 1
        : x >= 10 &&
            x < 30 &&
            y >= 10 &&
            y < 30 &&
            !(x > 14 && x < 18 && y > 14 && y < 18) &&
            !(x > 20 && x < 28 && y > 20 && y < 28)
          ? 1
          : 0,
    );
    const shaped = shapeMatte(spotted, { ...none, specks: 4, holes: 4 }, []);
    expect([
      shaped.alpha[4 * 40 + 1],
      shaped.alpha[16 * 40 + 16],
      shaped.alpha[24 * 40 + 24],
      shaped.alpha[12 * 40 + 12],
    ]).toEqual([0, 65535, 0, 65535]);
  });
});

describe('takeStray', () => {
  const B = Float32Array.from([0.08, 0.42, 0.1]);
  const skin = Float32Array.from([0.5, 0.25, 0.15]);
  const taken = (colour: number[], near = skin, amount = 1): number[] => {
    const F = Float32Array.from(colour);
    takeStray(F, B, near, 0, 1, 'share', amount);
    return [...F];
  };
  const tinted = (share: number): number[] => [...skin].map((v, c) => v + share * B[c]);

  test('what a slightly misjudged coverage left of the screen goes', () => {
    expect(taken(tinted(0.03))[1]).toBeLessThan(skin[1] + 0.3 * 0.03 * B[1]);
  });
  test('never more than a twentieth of the screen', () => {
    const much = tinted(0.4);
    expect(much[1] - taken(much)[1]).toBeCloseTo(0.05 * B[1], 4);
  });
  test('nothing goes where the colour has no more of it than those nearby, where those are of another thing, and at amount 0', () => {
    expect(taken([...skin])[1]).toBeCloseTo(skin[1], 6);
    const fair = [0.5, 0.4, 0.25];
    expect(taken(fair, Float32Array.from([0.03, 0.03, 0.08]))).toEqual([...Float32Array.from(fair)]);
    expect(taken(tinted(0.03), skin, 0)).toEqual([...Float32Array.from(tinted(0.03))]);
  });
});
