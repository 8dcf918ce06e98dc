import { describe, expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { demoFrames, demoShot, takeFrame } from '../studio/index.ts';
import type { Matte } from './coverage.ts';
import { cutFrame, defaultRecipe, noGuidance } from './index.ts';
import { wholeMatte } from './matte.ts';
import { withOwnMatte, type OwnCoverage } from './ownMatte.ts';
import { StagedCut } from './stagedCut.ts';

/** A matte made elsewhere. */

const own = (width: number, height: number, use: OwnCoverage['use'], ...data: number[]): OwnCoverage => ({
  width,
  height,
  use,
  data: Uint16Array.from(data),
});
const solved = (width: number, height: number, ...alpha: number[]): Matte => ({
  ...wholeMatte({ width, height }),
  alpha: Uint16Array.from(alpha),
});

describe('with the solved coverage', () => {
  const matte = solved(4, 1, 0, 20000, 60000, 65535);

  test('in its place, multiplied, or as core', () => {
    const given = [65535, 65535, 32768, 0];
    expect([...withOwnMatte(matte, own(4, 1, 'instead', ...given)).alpha]).toEqual(given);
    expect([...withOwnMatte(matte, own(4, 1, 'times', ...given)).alpha]).toEqual([0, 20000, 30000, 0]);
    expect([...withOwnMatte(matte, own(4, 1, 'core', ...given)).alpha]).toEqual([65535, 65535, 60000, 65535]);
    expect(withOwnMatte(matte, undefined)).toBe(matte);
    expect([...matte.alpha]).toEqual([0, 20000, 60000, 65535]);
  });
  test('of another size it is stretched over the frame', () => {
    const { alpha } = withOwnMatte(matte, own(2, 1, 'instead', 0, 60000));
    expect(alpha[0]).toBe(0);
    expect(alpha[3]).toBe(60000);
    expect(alpha[1]).toBeGreaterThan(0);
    expect(alpha[2]).toBeGreaterThan(alpha[1]);
  });
  test('what is only taken from keeps the colour it was solved with', () => {
    expect(withOwnMatte(matte, own(1, 1, 'times', 30000)).solved).toBe(matte.alpha);
    expect(withOwnMatte(matte, own(1, 1, 'instead', 30000)).solved).toBeUndefined();
  });
});

test('in a cut: the same by the batch and step by step, and spill is taken as ever', () => {
  const { plan, shot } = demoShot(demoFrames[0], 240);
  const frame: EncodedRaster = takeFrame(plan, shot).frame;
  const half = own(8, 1, 'times', 65535, 65535, 65535, 65535, 0, 0, 0, 0);
  const batch = cutFrame(frame, defaultRecipe, noGuidance, { own: half });
  const plain = cutFrame(frame, defaultRecipe);
  if (!batch.ok || !plain.ok) throw new Error('no screen');
  const staged = new StagedCut(frame, { own: half }, 1).cut(defaultRecipe, noGuidance);
  expect(batch.cutout.data).toEqual(staged?.data);
  const { width, height, data } = batch.cutout;
  let [left, right] = [0, 0];
  for (let p = 0; p < width * height; p++) {
    const x = ((p % width) + 0.5) / width;
    const before = plain.cutout.data.subarray(p * 4, p * 4 + 4);
    if (before[3] !== 65535) continue;
    if (x > 0.58) {
      right++;
      expect(data[p * 4 + 3]).toBe(0);
    } else if (x < 0.42) {
      left++;
      expect(data.subarray(p * 4, p * 4 + 4)).toEqual(before);
    }
  }
  expect(left).toBeGreaterThan(100);
  expect(right).toBeGreaterThan(100);
});
