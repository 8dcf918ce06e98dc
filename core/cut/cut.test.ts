import { describe, expect, test } from 'vitest';
import { encoderFor } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import { demoFrames, demoShot, takeFrame, type TakenFrame } from '../studio/index.ts';
import { seededRandom } from '../random.ts';
import { cutFrame, defaultRecipe, recipeSettings, type Recipe } from './index.ts';

type Rgb = [number, number, number];

/** A person of one colour with a soft edge over a screen of one colour, mixed in linear light. */
function softEdge(person: Rgb, screen: Rgb, depth: 8 | 16): { frame: EncodedRaster; alpha: Float32Array } {
  const width = 400;
  const height = 480;
  const data = depth === 8 ? new Uint8Array(width * height * 3) : new Uint16Array(width * height * 3);
  const encode = encoderFor(data);
  const alpha = new Float32Array(width * height);
  for (let p = 0; p < alpha.length; p++) {
    const r = Math.hypot((p % width) - 200, Math.floor(p / width) - 240);
    const a = Math.max(0, Math.min(1, (144 - r) / 4));
    alpha[p] = a;
    for (let c = 0; c < 3; c++) data[p * 3 + c] = encode(a * person[c] + (1 - a) * screen[c]);
  }
  return { frame: { width, height, channels: 3, data }, alpha };
}

function cutOf(frame: EncodedRaster, recipe: Recipe = defaultRecipe): EncodedRaster {
  const result = cutFrame(frame, recipe);
  if (!result.ok) throw new Error(result.reason);
  return result.cutout;
}

const plain: Recipe = { ...defaultRecipe, floor: 0, ceiling: 1, spill: 0 };

describe('cutFrame on mixtures with known truth', () => {
  const green: Rgb = [0.08, 0.42, 0.1];
  test.each([
    ['skin on green', [0.5, 0.3, 0.22], green, 0.12],
    ['white on green', [0.8, 0.8, 0.8], green, 0.12],
    // A soft outline of something dark looks like the screen in its shadow.
    ['dark cloth on green', [0.03, 0.03, 0.04], green, 0.18],
    ['red on green', [0.5, 0.05, 0.05], green, 0.12],
    ['skin on blue', [0.5, 0.3, 0.22], [0.05, 0.1, 0.45], 0.12],
  ] as [string, Rgb, Rgb, number][])('%s: coverage and colour come back', (_, person, screen, most) => {
    const { frame, alpha } = softEdge(person, screen, 16);
    const cut = cutOf(frame, plain);
    let worst = 0;
    let sum = 0;
    let fringe = 0;
    let shift = 0;
    const colour = [0, 1, 2].map((c) => encoderFor(new Uint8Array())(person[c]));
    for (let p = 0; p < alpha.length; p++) {
      const error = Math.abs(cut.data[p * 4 + 3] / 65535 - alpha[p]);
      worst = Math.max(worst, error);
      if (alpha[p] > 0 && alpha[p] < 1) fringe++;
      sum += error;
      if (alpha[p] > 0.7)
        for (let c = 0; c < 3; c++) shift = Math.max(shift, Math.abs(cut.data[p * 4 + c] / 257 - colour[c]));
    }
    // What is likely weighs in, so that single pixels beside the outline may be a little too full or empty.
    expect(shift).toBeLessThan(22);
    expect(worst).toBeLessThan(most);
    expect(sum / fringe).toBeLessThan(0.025);
  });

  test('8 and 16 bit of the same picture agree', () => {
    const wide = cutOf(softEdge([0.5, 0.3, 0.22], green, 16).frame);
    const narrow = cutOf(softEdge([0.5, 0.3, 0.22], green, 8).frame);
    let apart = 0;
    for (let i = 3; i < wide.data.length; i += 4)
      apart = Math.max(apart, Math.abs(wide.data[i] / 257 - narrow.data[i]));
    expect(apart).toBeLessThan(16);
  });

  test('does not change its input and gives the same twice', () => {
    const { frame } = softEdge([0.5, 0.3, 0.22], green, 8);
    const before = frame.data.slice();
    expect(cutOf(frame).data).toEqual(cutOf(frame).data);
    expect(frame.data).toEqual(before);
  });

  test('colour is 0 where nothing is covered', () => {
    const cut = cutOf(softEdge([0.5, 0.3, 0.22], green, 8).frame);
    let light = 0;
    for (let i = 0; i < cut.data.length; i += 4)
      if (cut.data[i + 3] === 0) light += cut.data[i] + cut.data[i + 1] + cut.data[i + 2];
    expect(light).toBe(0);
  });
});

describe('odd frames', () => {
  test.each([
    [1, 1],
    [1, 50],
    [50, 1],
    [3, 2],
    [17, 301],
  ])('noise of size %i×%i neither throws nor leaves the range', (width, height) => {
    for (let seed = 0; seed < 6; seed++) {
      const random = seededRandom(seed);
      const data = Uint8Array.from({ length: width * height * 3 }, () => random() * 256);
      const result = cutFrame({ width, height, channels: 3, data }, defaultRecipe);
      if (result.ok) {
        expect(result.cutout.data.length).toBe(width * height * 4);
        for (const value of Object.values(result.quality))
          if (typeof value === 'number') expect(Number.isFinite(value)).toBe(true);
      } else expect(result.remedy).toMatch(/screen/);
    }
  });
  test('a frame of nothing but screen is cut to nothing', () => {
    const data = new Uint8Array(300 * 200 * 3);
    for (let i = 0; i < data.length; i += 3) data.set([80, 178, 90], i);
    expect(cutOf({ width: 300, height: 200, channels: 3, data }).data.every((v) => v === 0)).toBe(true);
  });
  test('a frame without a screen says so with a remedy', () => {
    expect(
      cutFrame({ width: 60, height: 60, channels: 3, data: new Uint8Array(10800).fill(120) }, defaultRecipe),
    ).toMatchObject({ ok: false, reason: expect.stringContaining('screen'), remedy: expect.any(String) });
  });
  test('a grey raster is no frame with a screen', () => {
    expect(cutFrame({ width: 20, height: 20, channels: 1, data: new Uint8Array(400).fill(90) }, defaultRecipe).ok).toBe(
      false,
    );
  });
});

describe('settings', () => {
  test('defaults lie in their ranges and on their steps', () => {
    for (const [name, facts] of Object.entries(recipeSettings)) {
      expect(facts.default, name).toBeGreaterThanOrEqual(facts.min);
      expect(facts.default, name).toBeLessThanOrEqual(facts.max);
      const steps = (facts.default - facts.min) / facts.step;
      expect(Math.abs(steps - Math.round(steps)), name).toBeLessThan(1e-6);
    }
  });
  test('raising the floor never adds coverage, lowering the ceiling never takes any', () => {
    const { frame } = softEdge([0.5, 0.3, 0.22], [0.08, 0.42, 0.1], 8);
    const base = cutOf(frame);
    const floored = cutOf(frame, { ...defaultRecipe, floor: 0.3 });
    const lowered = cutOf(frame, { ...defaultRecipe, ceiling: 0.7 });
    let wrong = 0;
    for (let i = 3; i < base.data.length; i += 4)
      if (floored.data[i] > base.data[i] || lowered.data[i] < base.data[i]) wrong++;
    expect(wrong).toBe(0);
  });
  test('spill removal takes green from a tinted white and leaves coverage alone', () => {
    const { frame } = softEdge([0.6, 0.63, 0.6], [0.08, 0.42, 0.1], 16);
    const without = cutOf(frame, { ...defaultRecipe, spill: 0 });
    const removed = cutOf(frame, { ...defaultRecipe, spill: 1 });
    const middle = (240 * 400 + 200) * 4;
    expect(without.data[middle + 1] - without.data[middle]).toBeGreaterThan(800);
    expect(removed.data[middle + 1] - removed.data[middle]).toBeLessThan(150);
    let changed = 0;
    for (let i = 3; i < without.data.length; i += 4) if (removed.data[i] !== without.data[i]) changed++;
    expect(changed).toBe(0);
  });
});

describe('rendered portraits', () => {
  const portrait = (name: string): TakenFrame => {
    const found = demoFrames.find((frame) => frame.name === name);
    if (!found) throw new Error(name);
    const { plan, shot } = demoShot(found, 600);
    return takeFrame(plan, shot);
  };
  const meanSquareError = (cut: EncodedRaster, matte: Float32Array): number => {
    let sum = 0;
    let count = 0;
    for (let p = 0; p < matte.length; p++) {
      if (matte[p] <= 0.02 || matte[p] >= 0.98) continue;
      sum += (cut.data[p * 4 + 3] / 65535 - matte[p]) ** 2;
      count++;
    }
    return (1000 * sum) / count;
  };

  test('fair flyaway hair: far closer to the truth than a plain chroma threshold', () => {
    const { frame, matte } = portrait('SKM_0101');
    const error = meanSquareError(cutOf(frame), matte.data);
    const threshold: EncodedRaster = { width: 400, height: 600, channels: 4, data: new Uint16Array(400 * 600 * 4) };
    for (let p = 0; p < matte.data.length; p++) {
      const [r, g, b] = frame.data.subarray(p * 3, p * 3 + 3);
      threshold.data[p * 4 + 3] = g > 1.25 * Math.max(r, b) ? 0 : 65535;
    }
    expect(error).toBeLessThan(30);
    expect(error).toBeLessThan(meanSquareError(threshold, matte.data) / 4);
  });

  test('a bottle-green jacket that runs out of the frame is kept in its colour', () => {
    const { frame, matte, foreground } = portrait('SKM_0102');
    const cut = cutOf(frame);
    let coverage = 0;
    let count = 0;
    let shift = 0;
    for (let p = 300 * 400; p < matte.data.length; p++) {
      const [r, g, b] = foreground.data.subarray(p * 4, p * 4 + 3);
      if (matte.data[p] < 0.999 || g < 1.5 * Math.max(r, b)) continue;
      count++;
      coverage += cut.data[p * 4 + 3] / 65535;
      shift += Math.abs(cut.data[p * 4 + 1] - frame.data[p * 3 + 1]) / 257;
    }
    expect(count).toBeGreaterThan(10000);
    expect(coverage / count).toBeGreaterThan(0.98);
    expect(shift / count).toBeLessThan(2);
  });

  test('the gap under an arm is opened', () => {
    const { frame, matte } = portrait('SKM_0103');
    const cut = cutOf(frame);
    let rest = 0;
    let count = 0;
    // The gap: clear pixels with person on both sides of their row, below the shoulders.
    for (let y = 300; y < 560; y++) {
      const row = [...matte.data.subarray(y * 400, y * 400 + 400)];
      const first = row.findIndex((a) => a > 0.99);
      const last = row.length - 1 - [...row].reverse().findIndex((a) => a > 0.99);
      for (let x = first; x < last; x++) {
        if (row[x] > 0.002) continue;
        count++;
        rest += cut.data[(y * 400 + x) * 4 + 3] / 65535;
      }
    }
    expect(count).toBeGreaterThan(500);
    expect(rest / count).toBeLessThan(0.02);
  });
});

describe('a plate that is none of this frame', () => {
  test('is passed over and named; the screen goes all the same', () => {
    const { frame } = softEdge([0.5, 0.3, 0.22], [0.08, 0.42, 0.1], 8);
    const random = seededRandom(5);
    const plate = { ...frame, data: (frame.data as Uint8Array).map(() => 255 * random()) };
    const result = cutFrame(frame, defaultRecipe, undefined, { plate });
    if (!result.ok) throw new Error(result.reason);
    expect(result.quality.doubts.map(({ kind }) => kind)).toContain('plateUnlike');
    expect(result.cutout.data[(10 * 400 + 10) * 4 + 3]).toBe(0);
    expect(result.cutout.data[(240 * 400 + 200) * 4 + 3]).toBe(255);
  });
});
