import { describe, expect, test } from 'vitest';
import { cutFrame, defaultRecipe, noGuidance, type Guidance, type Recipe } from './index.ts';
import { whiteLevel, type EncodedRaster } from '../image/raster.ts';
import { reducedCopy } from '../image/reduce.ts';
import { demoFrames, demoShot, takeFrame } from '../studio/index.ts';
import type { Touch, TouchKind } from '../touch/touch.ts';
import { StagedCut } from './stagedCut.ts';

const { plan, shot } = demoShot(demoFrames[0], 480);
const { frame } = takeFrame(plan, shot);
const grey: EncodedRaster = { width: 40, height: 40, channels: 3, data: new Uint8Array(4800).fill(120) };

const masked: Guidance = {
  masks: [
    {
      effect: 'clear',
      polygon: [
        { x: 0, y: 0 },
        { x: 0.5, y: 0 },
        { x: 0.5, y: 0.5 },
      ],
    },
  ],
  verdicts: [],
  touches: [],
  departures: [],
};
/** One after another, each touching another step. */
const changes: [string, Partial<Recipe>, Guidance][] = [
  ['the marks', {}, noGuidance],
  ['spill', { spill: 0.3 }, noGuidance],
  ['edge', { spill: 0.3, edge: -1 }, noGuidance],
  ['hair reach', { spill: 0.3, edge: -1, hairReach: 5 }, noGuidance],
  ['a mask', { spill: 0.3, edge: -1, hairReach: 5 }, masked],
  ['method', { method: 'difference' }, masked],
  ['back again', {}, noGuidance],
];

describe('StagedCut', () => {
  test('gives after every change the very pixels and doubts of a batch', () => {
    const staged = new StagedCut(frame, {}, 1);
    for (const [what, settings, guidance] of changes) {
      const recipe = { ...defaultRecipe, ...settings };
      const batch = cutFrame(frame, recipe, guidance);
      if (!batch.ok) throw new Error(batch.reason);
      expect(same(staged.cut(recipe, guidance), batch.cutout), what).toBe(true);
      expect(staged.judge()?.quality, what).toEqual(batch.quality);
    }
  });

  test('knows what needs no sorting anew', () => {
    const staged = new StagedCut(frame, {}, 1);
    expect(staged.isSorted(defaultRecipe, noGuidance)).toBe(false);
    staged.cut(defaultRecipe, noGuidance);
    expect(staged.isSorted({ ...defaultRecipe, spill: 0, edge: 2 }, noGuidance)).toBe(true);
    expect(staged.isSorted({ ...defaultRecipe, hairReach: 4 }, noGuidance)).toBe(false);
    expect(staged.isSorted(defaultRecipe, masked)).toBe(false);
  });

  test('on a copy, lengths are those of the file', () => {
    const copy = reducedCopy(frame, 2);
    const whole = new StagedCut(frame, {}, 1);
    const half = new StagedCut(copy, {}, 0.5);
    const moved = { ...defaultRecipe, edge: -3, softness: 2 };
    const lost = (staged: StagedCut): number => {
      const sum = (recipe: Recipe): number => meanCoverage(staged.cut(recipe, noGuidance));
      return sum(defaultRecipe) - sum(moved);
    };
    expect(lost(whole)).toBeGreaterThan(0.005);
    expect(lost(half) / lost(whole)).toBeGreaterThan(0.7);
    expect(lost(half) / lost(whole)).toBeLessThan(1.4);
  });

  test('a draft on fewer pixels looks like the whole', () => {
    const whole = new StagedCut(frame, {}, 1).cut(defaultRecipe, noGuidance);
    const draft = new StagedCut(reducedCopy(frame, 2), {}, 0.5, 12_000).cut(defaultRecipe, noGuidance);
    if (!whole || !draft) throw new Error('no screen');
    const white = whiteLevel(whole);
    let off = 0;
    for (let y = 0; y < draft.height; y++)
      for (let x = 0; x < draft.width; x++)
        off +=
          Math.abs(draft.data[(y * draft.width + x) * 4 + 3] - whole.data[(2 * y * whole.width + 2 * x) * 4 + 3]) /
          white;
    expect(off / draft.width / draft.height).toBeLessThan(0.03);
  });

  test('rows alone are those of the whole, whatever was at hand before', () => {
    const line = { closed: false, points: [0.4, 0.6].map((x) => ({ x, y: 0.5, pressure: 1 })) };
    const paths = new Map([['line', line]]);
    const touch = (kind: TouchKind): Touch => ({
      ...{ id: kind, at: 1, kind, on: true, size: 0.2, softness: 0.5, strength: 1, path: 'line' },
    });
    const rows: [number, number] = [150, 230];
    const staged = new StagedCut(frame, {}, 1);
    for (const [settings, ...touches] of [
      [{}],
      [{}, touch('take')],
      [{ edge: -2.5, softness: 2 }, touch('softer')],
      [{ spill: 0 }, touch('hair')],
      [{ specks: 6, holes: 4 }],
      [{ method: 'distance' }, touch('edgeOut')],
    ] as [Partial<Recipe>, ...Touch[]][]) {
      const recipe = { ...defaultRecipe, ...settings };
      const guidance = { ...noGuidance, touches };
      const part = staged.rows(recipe, guidance, paths, rows);
      const whole = new StagedCut(frame, {}, 1).cut(recipe, guidance, paths);
      const from = rows[0] * frame.width * 4;
      const wanted = whole && { ...whole, data: whole.data.slice(from, rows[1] * frame.width * 4) };
      expect(part?.height).toBe(80);
      expect(same(part, wanted), JSON.stringify(settings)).toBe(true);
    }
    // And the whole is not left with rows missing.
    const whole = new StagedCut(frame, {}, 1).cut(defaultRecipe, noGuidance);
    expect(same(staged.cut(defaultRecipe, noGuidance), whole)).toBe(true);
  });

  test('the cut with its spill is the one that removing none gives', () => {
    const staged = new StagedCut(frame, {}, 1);
    const none = new StagedCut(frame, {}, 1).cut({ ...defaultRecipe, spill: 0 }, noGuidance);
    const cut = staged.cut({ ...defaultRecipe, spill: 1 }, noGuidance);
    expect(same(cut, none)).toBe(false);
    expect(same(staged.withSpill(), none)).toBe(true);
  });

  test('values of a pixel: the photograph’s, the person’s, and how far they lie from the screen', () => {
    const staged = new StagedCut(frame, {}, 1);
    expect(staged.valuesAt(0.5, 0.5)).toBeUndefined();
    const cut = staged.cut(defaultRecipe, noGuidance);
    const corner = staged.valuesAt(0.01, 0.01);
    expect(corner).toMatchObject({ coverage: 0, colour: undefined });
    expect(corner?.fromScreen).toBeLessThan(5);
    let solid = 0;
    for (let p = 0; p < frame.width * frame.height && !solid; p++)
      if (cut?.data[p * 4 + 3] === whiteLevel(frame)) solid = p;
    const values = staged.valuesAt(
      ((solid % frame.width) + 0.5) / frame.width,
      (Math.floor(solid / frame.width) + 0.5) / frame.height,
    );
    expect(values?.coverage).toBe(1);
    const scale = 255 / whiteLevel(frame);
    expect(values?.photograph).toEqual(
      [...frame.data.subarray(solid * 3, solid * 3 + 3)].map((v) => Math.round(v * scale)),
    );
    expect(values?.fromScreen).toBeGreaterThan(5);
    // Beyond the frame's edge the last pixel is meant.
    expect(staged.valuesAt(1, 1)).toBeDefined();
  });

  test('without a screen there is no cut and nothing to judge', () => {
    const staged = new StagedCut(grey, {}, 1);
    expect(staged.cut(defaultRecipe, noGuidance)).toBeUndefined();
    expect(staged.judge()?.quality).toBeUndefined();
  });
});

function meanCoverage(cut: EncodedRaster | undefined): number {
  if (!cut) throw new Error('no screen');
  let sum = 0;
  for (let i = 3; i < cut.data.length; i += 4) sum += cut.data[i] / whiteLevel(cut);
  return sum / (cut.width * cut.height);
}

/** Whether the pixels are the same, which comparing arrays one by one would take seconds for. */
function same(a: EncodedRaster | undefined, b: EncodedRaster | undefined): boolean {
  if (!a || !b) throw new Error('no screen');
  const [one, other] = [a, b].map(({ data }) => new Uint8Array(data.buffer, data.byteOffset, data.byteLength));
  return one.length === other.length && one.every((v, i) => v === other[i]);
}
