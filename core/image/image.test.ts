import { afterEach, describe, expect, test } from 'vitest';
import { installedKernels, installKernels } from '../kernels/kernels.ts';
import { seededRandom } from '../random.ts';
import { fitSurface } from '../screen/polynomial.ts';
import { boxBlur } from './boxBlur.ts';
import { components, replaceSmall } from './components.ts';
import { nearestFeature } from './distance.ts';
import { fillUnknown } from './fillUnknown.ts';
import { growMask } from './growMask.ts';
import { maxFilter } from './maxFilter.ts';
import {
  checkRaster,
  createLinear,
  createMask,
  createPlane,
  RasterError,
  type EncodedRaster,
  type Mask,
  type Plane,
} from './raster.ts';
import { reduceToLinear, reductionFactor } from './reduce.ts';

function randomMask(width: number, height: number, seed: number, share: number): Mask {
  const random = seededRandom(seed);
  const mask = createMask(width, height);
  for (let p = 0; p < mask.data.length; p++) mask.data[p] = random() < share ? 1 : 0;
  return mask;
}

const SIZES: [number, number][] = [
  [1, 1],
  [1, 9],
  [9, 1],
  [13, 7],
  [32, 31],
];

describe('checkRaster', () => {
  test('names expected and received values', () => {
    expect(() => checkRaster({ width: 2, height: 2, channels: 3, data: new Uint8Array(11) })).toThrow(
      /expected 12 .* received 11/,
    );
    expect(() => checkRaster({ width: 0, height: 2, channels: 3, data: new Uint8Array(0) })).toThrow(RasterError);
  });
});

describe('reduceToLinear', () => {
  test('averages light, not encoded values', () => {
    const data = Uint8Array.from([0, 0, 0, 255, 255, 255]);
    expect(reduceToLinear({ width: 2, height: 1, channels: 3, data }, 2).data[0]).toBeCloseTo(0.5, 6);
  });
  test('a grey picture gives equal channels; odd sizes keep their last block', () => {
    const reduced = reduceToLinear({ width: 3, height: 1, channels: 1, data: Uint8Array.from([255, 255, 0]) }, 2);
    expect([reduced.width, reduced.height]).toEqual([2, 1]);
    expect([...reduced.data]).toEqual([1, 1, 1, 0, 0, 0]);
  });
  test('the factor keeps the size under the limit and is never under 1', () => {
    expect(reductionFactor(10, 10, 1e6)).toBe(1);
    for (const [w, h] of [
      [1600, 2400],
      [4000, 6000],
      [7000, 8500],
    ]) {
      const f = reductionFactor(w, h, 5e5);
      expect((w / f) * (h / f)).toBeLessThanOrEqual(5e5);
    }
  });
});

describe('growMask', () => {
  test.each(SIZES)('equals the definition on %i×%i', (width, height) => {
    for (const radius of [-3, -1, 0, 1, 4]) {
      const mask = randomMask(width, height, 5, radius < 0 ? 0.8 : 0.15);
      const grown = growMask(mask, radius);
      const reach = Math.abs(radius);
      for (let y = 0; y < height; y++) {
        for (let x = 0; x < width; x++) {
          let any = false;
          let all = true;
          for (let yy = Math.max(0, y - reach); yy <= Math.min(height - 1, y + reach); yy++) {
            for (let xx = Math.max(0, x - reach); xx <= Math.min(width - 1, x + reach); xx++) {
              if (mask.data[yy * width + xx]) any = true;
              else all = false;
            }
          }
          expect(grown.data[y * width + x]).toBe(
            (radius > 0 ? any : radius < 0 ? all : mask.data[y * width + x]) ? 1 : 0,
          );
        }
      }
    }
  });
});

describe('nearestFeature', () => {
  test.each(SIZES)('finds the nearest set pixel on %i×%i', (width, height) => {
    const mask = randomMask(width, height, 8, 0.06);
    mask.data[0] = 1;
    const { distance, index } = nearestFeature(mask);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        let best = Infinity;
        for (let p = 0; p < mask.data.length; p++)
          if (mask.data[p]) best = Math.min(best, Math.hypot((p % width) - x, Math.floor(p / width) - y));
        const i = y * width + x;
        expect(Math.abs(distance[i] - best)).toBeLessThan(0.3);
        expect(mask.data[index[i]]).toBe(1);
      }
    }
  });
  test('an empty mask has no features', () => {
    const { distance, index } = nearestFeature(createMask(3, 3));
    expect(distance.every((d) => d === Infinity) && index.every((i) => i === -1)).toBe(true);
  });
});

describe('components', () => {
  test('are 4-connected, know the border, and cover every set pixel once', () => {
    const mask: Mask = { width: 5, height: 3, data: Uint8Array.from([1, 0, 0, 0, 0, 0, 1, 1, 0, 0, 0, 0, 0, 0, 1]) };
    const found = components(mask);
    expect(found.map((c) => [...c.pixels].sort((a, b) => a - b))).toEqual([[0], [6, 7], [14]]);
    expect(found.map((c) => c.touchesBorder)).toEqual([true, false, true]);
  });
  test('small ones are replaced, large ones stay', () => {
    const mask: Mask = { width: 4, height: 1, data: Uint8Array.from([1, 0, 1, 1]) };
    replaceSmall(mask, 1, 2, 2);
    expect([...mask.data]).toEqual([2, 0, 1, 1]);
  });
});

describe('fillUnknown', () => {
  test.each(SIZES)('keeps what is known and stays within its range on %i×%i', (width, height) => {
    const random = seededRandom(3);
    const values = createLinear(width, height, 2);
    for (let i = 0; i < values.data.length; i++) values.data[i] = 0.2 + 0.6 * random();
    const known = randomMask(width, height, 4, 0.3);
    known.data[0] = 1;
    const filled = fillUnknown(values, known);
    for (let p = 0; p < known.data.length; p++) {
      for (let c = 0; c < 2; c++) {
        if (known.data[p]) expect(filled.data[p * 2 + c]).toBe(values.data[p * 2 + c]);
        expect(filled.data[p * 2 + c]).toBeGreaterThan(0.19);
        expect(filled.data[p * 2 + c]).toBeLessThan(0.81);
      }
    }
  });
});

test('boxBlur keeps a constant plane and does not change its input', () => {
  const plane = createPlane(9, 5);
  plane.data.fill(0.25);
  plane.data[12] = 1;
  const before = plane.data.slice();
  const sum = boxBlur(plane, 20).data;
  expect(plane.data).toEqual(before);
  for (const v of sum) expect(v).toBeCloseTo(before.reduce((a, b) => a + b) / 45, 5);
});

describe('compiled kernels', () => {
  const compiled = installedKernels();
  afterEach(() => installKernels(compiled));
  const both = <T>(run: () => T): { quick: T; plain: T } => {
    const quick = run();
    installKernels(undefined);
    return { quick, plain: run() };
  };
  test.each([
    [1, 1],
    [5, 3],
    [37, 29],
    [64, 16],
    [131, 7],
    [3, 90],
  ])('give the same as plain code at %i × %i', (width, height) => {
    expect(compiled, 'the kernels are built before the tests').toBeDefined();
    const random = seededRandom(width * 100 + height);
    const plane: Plane = {
      width,
      height,
      data: Float32Array.from({ length: width * height }, () => random() * 2 - 0.5),
    };
    for (const share of [0, 0.02, 0.5, 1]) {
      const mask: Mask = {
        width,
        height,
        data: Uint8Array.from({ length: width * height }, () => (random() < share ? 1 : 0)),
      };
      for (const reach of [-9, -1, 1, 2, 30]) {
        const { quick, plain } = both(() => growMask(mask, reach));
        expect(quick.data).toEqual(plain.data);
        installKernels(compiled);
      }
      const { quick, plain } = both(() => nearestFeature(mask));
      expect(quick.index).toEqual(plain.index);
      expect(quick.distance).toEqual(plain.distance);
      installKernels(compiled);
    }
    for (const radius of [1, 2, 11]) {
      const blurred = both(() => boxBlur(plane, radius));
      expect(blurred.quick.data).toEqual(blurred.plain.data);
      installKernels(compiled);
      const greatest = both(() => maxFilter(plane, radius));
      expect(greatest.quick.data).toEqual(greatest.plain.data);
      installKernels(compiled);
    }
  });
  test.each([
    ['8 bit', 3, Uint8Array],
    ['16 bit', 3, Uint16Array],
    ['grey', 1, Uint8Array],
    ['with alpha', 4, Uint8Array],
  ] as const)('reduce to the same linear light: %s', (_, channels, Kind) => {
    const random = seededRandom(channels);
    for (const [width, height, factor] of [
      [1, 1, 1],
      [23, 17, 3],
      [40, 31, 7],
      [19, 50, 11],
    ]) {
      const picture: EncodedRaster = { width, height, channels, data: new Kind(width * height * channels) };
      for (let i = 0; i < picture.data.length; i++) picture.data[i] = random() * (Kind === Uint8Array ? 256 : 65536);
      const { quick, plain } = both(() => reduceToLinear(picture, factor));
      expect(quick).toEqual(plain);
      installKernels(compiled);
    }
  });
  test.each([
    [1, 1],
    [5, 3],
    [37, 29],
    [3, 90],
  ])('fill unknown places with the same colours at %i × %i', (width, height) => {
    const random = seededRandom(width + height);
    const values = createLinear(width, height);
    for (let i = 0; i < values.data.length; i++) values.data[i] = random();
    for (const share of [0, 0.01, 0.5, 1]) {
      const known: Mask = {
        width,
        height,
        data: Uint8Array.from({ length: width * height }, () => (random() < share ? 1 : 0)),
      };
      const { quick, plain } = both(() => fillUnknown(values, known));
      expect(quick).toEqual(plain);
      installKernels(compiled);
    }
  });
  test('fit the same cubic surface', () => {
    const random = seededRandom(5);
    const points = Float64Array.from({ length: 400 }, (_, i) =>
      i % 4 === 3 ? (random() < 0.2 ? 0 : random()) : 2 * random() - 1,
    );
    const { quick, plain } = both(() => fitSurface(points));
    expect(quick).toEqual(plain);
    expect(plain.every(Number.isFinite)).toBe(true);
  });
});
