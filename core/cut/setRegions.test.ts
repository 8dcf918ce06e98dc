import { describe, expect, test } from 'vitest';
import { demoFrames, demoShot, takeFrame } from '../studio/index.ts';
import { cutFrame } from './cutFrame.ts';
import { noGuidance, type Guidance, type HandMask } from './guidance.ts';
import { wholeMatte } from './matte.ts';
import { fingerprintOf } from './order.ts';
import { defaultRecipe, type Recipe } from './recipe.ts';
import { setRegions, withRegion, withoutRegions, type Finished } from './setRegions.ts';
import { StagedCut } from './stagedCut.ts';

/** Regions with settings of their own. */

const { plan, shot } = demoShot(demoFrames[0], 360);
const { frame } = takeFrame(plan, shot);
const { width, height } = frame;
const square = (from: number, to: number): HandMask['polygon'] => [
  { x: from, y: from },
  { x: to, y: from },
  { x: to, y: to },
  { x: from, y: to },
];
const region = (settings: Partial<Recipe>, part: Partial<HandMask> = {}): HandMask => ({
  effect: 'own',
  polygon: square(0.25, 0.75),
  settings,
  ...part,
});
const said = (...masks: HandMask[]): Guidance => ({ ...noGuidance, masks });
function cut(recipe: Recipe, guidance: Guidance): Uint8Array | Uint16Array {
  const result = cutFrame(frame, recipe, guidance);
  if (!result.ok) throw new Error(result.reason);
  return result.cutout.data;
}
const inside = (p: number): boolean => {
  const [x, y] = [((p % width) + 0.5) / width, (Math.floor(p / width) + 0.5) / height];
  return Math.abs(x - 0.5) < 0.25 - 1 / width && Math.abs(y - 0.5) < 0.25 - 1 / height;
};
const outside = (p: number): boolean => {
  const [x, y] = [((p % width) + 0.5) / width, (Math.floor(p / width) + 0.5) / height];
  return Math.abs(x - 0.5) > 0.25 + 1 / width || Math.abs(y - 0.5) > 0.25 + 1 / height;
};
const samePixel = (a: ArrayLike<number>, b: ArrayLike<number>, p: number): boolean =>
  [0, 1, 2, 3].every((c) => a[4 * p + c] === b[4 * p + c]);

describe('a region with settings of its own', () => {
  const changes: Partial<Recipe>[] = [
    { spill: 0 },
    { floor: 0.3, edge: 2 },
    { hairReach: 0.2 },
    { method: 'difference' },
  ];
  test.each(changes)('is cut by %o, and all around it as before', (settings) => {
    const made = cut(defaultRecipe, said(region(settings)));
    const before = cut(defaultRecipe, noGuidance);
    const all = cut({ ...defaultRecipe, ...settings }, noGuidance);
    let changed = 0;
    for (let p = 0; p < width * height; p++) {
      if (inside(p)) {
        if (!samePixel(made, all, p)) expect.fail(`inside, at ${p}`);
        if (!samePixel(made, before, p)) changed++;
      } else if (outside(p) && !samePixel(made, before, p)) expect.fail(`outside, at ${p}`);
    }
    expect(changed).toBeGreaterThan(0);
  });

  test('step by step, and in parts, the same pixels as by the batch, whatever was set before', () => {
    const staged = new StagedCut(frame, {}, 1);
    const orders: [Recipe, Guidance][] = [
      [defaultRecipe, said(region({ spill: 0 }))],
      [{ ...defaultRecipe, spill: 0.4 }, said(region({ spill: 0 }))],
      [defaultRecipe, said(region({ hairReach: 0.4 }), region({ floor: 0.2 }, { polygon: square(0.5, 0.9) }))],
      [defaultRecipe, said(region({ floor: 0.2 }, { polygon: square(0.5, 0.9), soft: 0.05 }))],
      [{ ...defaultRecipe, personExposure: 1 }, said(region({ floor: 0.2 }))],
      [{ ...defaultRecipe, method: 'whole' }, said(region({ method: 'unmixing' }))],
      [{ ...defaultRecipe, method: 'whole' }, said(region({ method: 'whole', spill: 0 }))],
      [defaultRecipe, said(region({ method: 'whole' }))],
      [defaultRecipe, noGuidance],
    ];
    for (const [recipe, guidance] of orders) {
      const batch = cutFrame(frame, recipe, guidance);
      if (!batch.ok) throw new Error(batch.reason);
      const { data } = batch.cutout;
      const part = staged.rows(recipe, guidance, new Map(), [100, 180]);
      expect(part?.data).toEqual(data.slice(100 * width * 4, 180 * width * 4));
      expect(staged.cut(recipe, guidance)?.data).toEqual(data);
      expect(staged.judge()?.quality).toEqual(batch.quality);
      expect(staged.isSorted(recipe, guidance)).toBe(true);
    }
    expect(staged.isSorted(defaultRecipe, said(region({ hairReach: 0.3 })))).toBe(false);
  });

  test('of a frame without a screen one part may have one; where none is seen that is said', () => {
    const whole: Recipe = { ...defaultRecipe, method: 'whole' };
    const guidance = said(region({ method: 'unmixing' }));
    const made = cut(whole, guidance);
    const screened = cut(defaultRecipe, noGuidance);
    for (let p = 0; p < width * height; p++) {
      if (inside(p) && !samePixel(made, screened, p)) expect.fail(`inside, at ${p}`);
      if (outside(p)) expect(made[4 * p + 3]).toBe(frame.data instanceof Uint16Array ? 65535 : 255);
    }
    const grey = { ...frame, data: frame.data.slice().fill(90) };
    expect(cutFrame(grey, whole, guidance)).toMatchObject({ ok: false });
    expect(new StagedCut(grey, {}, 1).cut(whole, guidance)).toBeUndefined();
    expect(cutFrame(grey, whole, said(region({ floor: 0.2 })))).toMatchObject({ ok: true });
  });

  test('what was taken as spill is told of the region too', () => {
    const staged = new StagedCut(frame, {}, 1);
    staged.cut(defaultRecipe, said(region({ spill: 1 })));
    expect(staged.withSpill()?.data).toEqual(cut({ ...defaultRecipe, spill: 0 }, noGuidance));
  });
});

describe('what counts as one', () => {
  test('one that differs in nothing, and light on the person, do nothing', () => {
    expect(setRegions(defaultRecipe, said(region({}), region({ spill: defaultRecipe.spill })))).toEqual([]);
    expect(setRegions(defaultRecipe, said(region({ personExposure: 1 })))).toEqual([]);
    expect(withoutRegions(said(region({}), { effect: 'crop', polygon: square(0, 1) })).masks).toHaveLength(1);
  });
  test('orders are told apart by what regions set, and by where they lie', () => {
    const name = (...masks: HandMask[]): string =>
      fingerprintOf({ recipe: defaultRecipe, guidance: said(...masks), plate: null });
    const names = [
      name(),
      name(region({ spill: 0 })),
      name(region({ spill: 0.1 })),
      name(region({ spill: 0 }, { polygon: square(0.2, 0.7) })),
      name(region({ spill: 0 }, { soft: 0.01 })),
    ];
    expect(new Set(names).size).toBe(names.length);
  });
});

test('where a border fades, coverage goes over evenly and colour by what covers', () => {
  const made = (alpha: number, ...pixel: number[]): Finished => ({
    matte: { ...wholeMatte({ width: 64, height: 64 }), alpha: new Uint16Array(64 * 64).fill(alpha) },
    cutout: {
      width: 64,
      height: 64,
      channels: 4,
      data: Uint8Array.from({ length: 64 * 64 * 4 }, (_, i) => pixel[i % 4]),
    },
  });
  const laid = withRegion(made(65535, 200, 100, 0, 255), made(0, 0, 0, 0, 0), region({ floor: 0.2 }, { soft: 0.05 }));
  const row = Array.from({ length: 33 }, (_, x) => laid.cutout.data[(32 * 64 + x) * 4 + 3]);
  expect(row[0]).toBe(255);
  expect(row[32]).toBe(0);
  row.slice(1).forEach((a, n) => expect(a).toBeLessThanOrEqual(row[n]));
  expect(row.filter((a) => a > 0 && a < 255).length).toBeGreaterThan(3);
  // What is half gone has the whole colour of what is there.
  const half = row.findIndex((a) => a > 0 && a < 255);
  expect([...laid.cutout.data.slice((32 * 64 + half) * 4, (32 * 64 + half) * 4 + 3)]).toEqual([200, 100, 0]);
  expect(laid.matte.alpha[32 * 64 + 32]).toBe(0);
});
