import { afterEach, expect, test } from 'vitest';
import { createLinear, type EncodedRaster, type LinearRaster } from '../image/raster.ts';
import { installedKernels, installKernels } from '../kernels/kernels.ts';
import { seededRandom } from '../random.ts';
import type { ChromaHalving } from './chromaRepair.ts';
import { fringeRows } from './fringeRows.ts';
import type { FringeRows } from './rows.ts';

const compiled = installedKernels();
afterEach(() => installKernels(compiled));

const unhalved: ChromaHalving = { across: -1, down: -1 };

function randomField(width: number, height: number, random: () => number): LinearRaster {
  const field = createLinear(width, height);
  for (let i = 0; i < field.data.length; i++) field.data[i] = random() < 0.1 ? 0 : random() ** 2;
  return field;
}

/** All that both ways give for every row, some pixels left out. */
function readAll(
  rows: FringeRows,
  { width, height }: EncodedRaster,
  factor: number,
  cellsAcross: number,
  chosen: () => boolean,
): number[] {
  const out: number[] = [];
  for (let y = 0; y < height; y++) {
    let count = 0;
    for (let x = 0; x < width; x++) {
      if (!chosen()) continue;
      rows.xs[count] = x;
      rows.cells[count++] = ((y / factor) | 0) * cellsAcross + ((x / factor) | 0);
    }
    if (!count) continue;
    rows.read(count, y, 0.05);
    rows.solve(count);
    for (const plane of [...rows.reading, ...rows.back, rows.near, rows.coverage, rows.error, rows.apart])
      out.push(...plane.subarray(0, count));
    for (let k = 0; k < count; k++) rows.coverage[k] = Math.max(0.004, rows.coverage[k]);
    rows.unmix(count);
    for (const plane of rows.fore) out.push(...plane.subarray(0, count));
  }
  return out;
}

test.each([
  ['8 bit, colour halved', 61, 37, 3, Uint8Array, { across: 0, down: 1 }, 3],
  ['8 bit, halved at the other phase', 40, 41, 3, Uint8Array, { across: 1, down: 0 }, 1],
  ['16 bit', 33, 20, 3, Uint16Array, unhalved, 2],
  ['16 bit, halved', 30, 30, 3, Uint16Array, { across: 1, down: 1 }, 4],
  ['grey', 17, 9, 1, Uint8Array, unhalved, 2],
  ['one pixel', 1, 1, 3, Uint8Array, unhalved, 1],
  ['a strip', 3, 50, 3, Uint8Array, { across: 0, down: 0 }, 8],
] as const)('compiled and plain code give the same bits: %s', (_, width, height, channels, Kind, halving, factor) => {
  expect(compiled, 'the kernels are built before the tests').toBeDefined();
  const random = seededRandom(width * height);
  const data = new Kind(width * height * channels);
  // Smooth with steps, as pictures are, and not only noise.
  for (let i = 0; i < data.length; i++)
    data[i] = (random() < 0.2 ? random() : 0.5 + 0.4 * Math.sin(i / 7)) * (Kind === Uint8Array ? 255 : 65535);
  const frame: EncodedRaster = { width, height, channels, data };
  const across = Math.ceil(width / factor);
  const down = Math.ceil(height / factor);
  const need = { halving, screen: randomField(across, down, random), factor };
  const candidates = [0, 1, 2].map(() => randomField(across, down, random));
  // One candidate is the screen's own colour: nothing tells them apart.
  candidates.push(need.screen);
  const run = (kernel: typeof compiled): number[] => {
    installKernels(kernel);
    const skip = seededRandom(7);
    return readAll(fringeRows(frame, need, candidates, 0.02), frame, factor, across, () => width < 4 || skip() < 0.7);
  };
  const plain = run(undefined);
  expect(run(compiled)).toEqual(plain);
  expect(plain.every(Number.isFinite)).toBe(true);
});

test('a smaller frame after a larger one does not read what the larger one left', () => {
  const flat = (width: number, height: number, value: number): EncodedRaster => ({
    width,
    height,
    channels: 3,
    data: new Uint8Array(width * height * 3).fill(value),
  });
  const field = (value: number): LinearRaster => ({ ...createLinear(4, 4), data: new Float32Array(48).fill(value) });
  const large = fringeRows(
    flat(64, 32, 200),
    { halving: { across: 0, down: 0 }, screen: field(0.3), factor: 16 },
    [field(0.6)],
    0.02,
  );
  readAll(large, flat(64, 32, 200), 16, 4, () => true);
  const small = flat(12, 12, 90);
  const rows = fringeRows(
    small,
    { halving: { across: 0, down: 0 }, screen: field(0.3), factor: 3 },
    [field(0.6)],
    0.02,
  );
  const after = readAll(rows, small, 3, 4, () => true);
  installKernels(undefined);
  expect(after).toEqual(
    readAll(
      fringeRows(small, { halving: { across: 0, down: 0 }, screen: field(0.3), factor: 3 }, [field(0.6)], 0.02),
      small,
      3,
      4,
      () => true,
    ),
  );
});
