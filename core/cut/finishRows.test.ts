import { afterEach, expect, test } from 'vitest';
import { createLinear, type EncodedRaster, type LinearRaster } from '../image/raster.ts';
import { installedKernels, installKernels } from '../kernels/kernels.ts';
import { seededRandom } from '../random.ts';
import { finishRows, Kind, type FinishNeed } from './finishRows.ts';
import { defaultRecipe, spillMethods, type Recipe } from './recipe.ts';
import { spillWay } from './spill.ts';

const compiled = installedKernels();
afterEach(() => installKernels(compiled));

const width = 45;
const height = 19;
const factor = 2;
const across = 23;
const down = 10;

/** A random picture with every kind of pixel, finished row by row. */
function finishAll(
  Kinds: typeof Uint8Array | typeof Uint16Array,
  finish: Omit<FinishNeed, 'kinds' | 'final'>,
  channels: 1 | 3 = 3,
): number[] {
  const random = seededRandom(11);
  const white = Kinds === Uint8Array ? 255 : 65535;
  const field = (): LinearRaster => ({
    ...createLinear(across, down),
    data: Float32Array.from({ length: across * down * 3 }, () => random() ** 2),
  });
  const frame: EncodedRaster = { width, height, channels, data: new Kinds(width * height * channels) };
  for (let i = 0; i < frame.data.length; i++) frame.data[i] = random() * white;
  const kinds = Uint8Array.from({ length: across * down }, () => (random() < 0.5 ? 0 : random() * 16));
  const final = Uint16Array.from({ length: 65536 }, (_, raw) => (raw < 3000 ? 0 : Math.round((raw / 65535) * white)));
  const rows = finishRows(
    frame,
    { halving: channels === 1 ? { across: -1, down: -1 } : { across: 0, down: 0 }, screen: field(), factor },
    [field(), field(), field()],
    0.02,
    { ...finish, kinds, final },
  );
  const out: number[] = [];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      rows.alpha[x] = random() < 0.4 ? 65535 : random() < 0.3 ? 0 : random() * 65536;
      rows.amount[x] = random() < 0.5 ? 1 : random();
      rows.gone[x] = random() < 0.2 ? 1 : 0;
    }
    const count = rows.sort(y);
    if (count) {
      rows.read(count, y, 0);
      rows.unmix(count);
      rows.colour(count, y);
    }
    out.push(count, ...rows.pixels);
  }
  return out;
}

const way = (recipe: Partial<Recipe>) => spillWay({ ...defaultRecipe, ...recipe });

test.each([
  ...spillMethods.flatMap((spillMethod) => [
    [`${spillMethod}, green`, Uint8Array, { spill: way({ spillMethod }), channel: 1 }] as const,
    [`${spillMethod}, blue, 16 bit`, Uint16Array, { spill: way({ spillMethod }), channel: 2 }] as const,
    [
      `${spillMethod}, of some hues and drawn to a colour, 16 bit`,
      Uint16Array,
      { spill: way({ spillMethod, spillHues: 40, spillFade: 35, replaced: 0.7, replacedPurity: 0.8 }), channel: 1 },
    ] as const,
  ]),
])('compiled and plain code write the same pixels: %s', (_, Kinds, finish) => {
  expect(compiled, 'the kernels are built before the tests').toBeDefined();
  const quick = finishAll(Kinds, finish);
  installKernels(undefined);
  const plain = finishAll(Kinds, finish);
  expect(quick).toEqual(plain);
});

test('compiled and plain code write the same pixels of a grey picture', () => {
  const quick = finishAll(Uint8Array, { spill: way({}), channel: 1 }, 1);
  installKernels(undefined);
  expect(quick).toEqual(finishAll(Uint8Array, { spill: way({}), channel: 1 }, 1));
});

test('solid pixels without a tint stay as photographed, kept green too; nothing is written where coverage is none', () => {
  const frame: EncodedRaster = {
    width: 4,
    height: 1,
    channels: 3,
    data: Uint8Array.of(120, 100, 90, 60, 140, 70, 60, 140, 70, 60, 140, 70),
  };
  const screen: LinearRaster = {
    ...createLinear(4, 1),
    data: Float32Array.from({ length: 12 }, (_, i) => [0.05, 0.4, 0.08][i % 3]),
  };
  const fore: LinearRaster = { ...createLinear(4, 1), data: new Float32Array(12).fill(0.3) };
  const final = Uint16Array.from({ length: 65536 }, (_, raw) => Math.round(raw / 257));
  const rows = finishRows(frame, { halving: { across: -1, down: -1 }, screen, factor: 1 }, [fore], 0.02, {
    kinds: Uint8Array.of(0, Kind.kept, 0, 0),
    final,
    channel: 1,
    spill: way({}),
  });
  rows.alpha.set([65535, 65535, 65535, 0]);
  rows.amount.fill(1);
  rows.gone.fill(0);
  const count = rows.sort(0);
  expect([...rows.xs.subarray(0, count)]).toEqual([2]);
  rows.read(count, 0, 0);
  rows.unmix(count);
  rows.colour(count, 0);
  expect([...rows.pixels.subarray(0, 8)]).toEqual([120, 100, 90, 255, 60, 140, 70, 255]);
  const [red, green, blue, alpha] = rows.pixels.subarray(8, 12);
  expect(alpha).toBe(255);
  expect(green).toBeLessThanOrEqual(Math.max(red, blue) + 1);
  expect([...rows.pixels.subarray(12)]).toEqual([0, 0, 0, 0]);
});
