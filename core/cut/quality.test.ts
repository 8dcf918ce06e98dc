import { describe, expect, test } from 'vitest';
import { linearTable } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import type { Analysis } from './analysis.ts';
import type { GreenPatch } from './greenPatch.ts';
import type { Matte } from './coverage.ts';
import { sampleBilinear } from './sampleBilinear.ts';
import { doubtFacts, type DoubtKind } from './doubts.ts';
import { judgeQuality } from './quality.ts';
import { Region } from './region.ts';

const SIZE = 100;

/** A frame with a solid person in the middle, columns 30–69 from row 20 on, a fringe of `fringe` cells around it. */
function analysis(part: {
  fringe?: number;
  noise?: number;
  patches?: Partial<GreenPatch>[];
  beyond?: (x: number, y: number) => boolean;
  expected?: (x: number, y: number) => number;
  solid?: (x: number, y: number) => number;
  chroma?: [number, number];
  shadow?: Uint8Array;
  sheer?: Uint8Array;
  masks?: Analysis['masks'];
  persons?: (x: number, y: number) => number;
}): Analysis {
  const fringe = part.fringe ?? 3;
  const data = new Uint8Array(SIZE * SIZE);
  const beyond = new Float32Array(SIZE * SIZE);
  const outside = new Uint8Array(SIZE * SIZE);
  const expected = part.expected ?? ((x, y) => (x >= 30 && x <= 69 && y >= 20 ? 1 : 0));
  const coverage = Float32Array.from({ length: SIZE * SIZE }, (_, p) => expected(p % SIZE, Math.floor(p / SIZE)));
  for (let y = 0; y < SIZE; y++) {
    for (let x = 0; x < SIZE; x++) {
      const off = Math.max(30 - x, x - 69, 20 - y);
      data[y * SIZE + x] = off <= 0 ? Region.core : off <= fringe ? Region.fringe : Region.clear;
      if (part.beyond?.(x, y)) beyond[y * SIZE + x] = outside[y * SIZE + x] = 1;
    }
  }
  const plane = { width: SIZE, height: SIZE };
  return {
    survey: { screen: 'green', channel: 1, chroma: part.chroma ?? [0.15, 0.15] },
    masks: part.masks ?? [],
    persons: part.persons && {
      width: SIZE,
      height: SIZE,
      data: Float32Array.from({ length: SIZE * SIZE }, (_, p) => part.persons?.(p % SIZE, Math.floor(p / SIZE)) ?? 0),
    },
    plateFits: true,
    factor: 1,
    regions: { ...plane, data },
    kept: { ...plane, data: new Uint8Array(SIZE * SIZE) },
    dyed: { ...plane, data: new Uint8Array(SIZE * SIZE) },
    sheer: { ...plane, data: part.sheer ?? new Uint8Array(SIZE * SIZE) },
    reduced: { ...plane, channels: 3, data: new Float32Array(SIZE * SIZE * 3) },
    sorted: {
      coverage: { ...plane, data: coverage },
      solid: {
        ...plane,
        data: part.solid ? coverage.map((_, p) => part.solid?.(p % SIZE, Math.floor(p / SIZE)) ?? 0) : coverage,
      },
      clear: { ...plane, data: coverage.map((v, p) => 1 - (part.solid?.(p % SIZE, Math.floor(p / SIZE)) ?? v)) },
    },
    outside: { ...plane, data: outside },
    shadow: { ...plane, data: part.shadow ?? new Uint8Array(SIZE * SIZE) },
    screen: { ...plane, channels: 3, data: new Float32Array(SIZE * SIZE * 3).fill(0.3) },
    beyond: { ...plane, data: beyond },
    // The first patch fills the middle of its box.
    labels: Uint16Array.from({ length: SIZE * SIZE }, (_, p) => {
      const [x, y] = [p % SIZE, Math.floor(p / SIZE)];
      return part.patches?.length && x >= 10 && x < 30 && y >= 30 && y < 50 ? 1 : 0;
    }),
    noise: part.noise ?? 0.01,
    patches: (part.patches ?? []).map((patch) => ({
      box: [10, 20, 30, 60],
      centre: { x: 0.2, y: 0.4 },
      chroma: [0.2, 0.3],
      share: 0.01,
      likelihood: 0.5,
      evidence: { apart: 0.1, mostScreen: 0.5, rough: 0.01, atBorder: false },
      byHand: false,
      ...patch,
    })) as GreenPatch[],
  } as unknown as Analysis;
}

function matte(
  coverage: (x: number, y: number) => number = (x, y) => (x >= 30 && x <= 69 && y >= 20 ? 1 : 0),
  tile: Partial<Record<'unexplained' | 'apart', number>> = {},
): Matte {
  const alpha = new Uint16Array(SIZE * SIZE);
  for (let p = 0; p < alpha.length; p++) alpha[p] = 65535 * coverage(p % SIZE, Math.floor(p / SIZE));
  const sums = (value = 0): Float64Array => Float64Array.from({ length: 4 }, (_, n) => (n === 2 ? value : 0));
  return {
    width: SIZE,
    height: SIZE,
    alpha,
    fringePixels: 10,
    unexplained: 0.01,
    tiles: { across: 2, down: 2, fringe: sums(10), unexplained: sums(tile.unexplained), apart: sums(tile.apart) },
  };
}
const kinds = (quality: ReturnType<typeof judgeQuality>): DoubtKind[] => quality.doubts.map(({ kind }) => kind);

describe('judgeQuality', () => {
  test('a mask that takes part of the person away is told with the place; one beside the person is not', () => {
    const box = (left: number, right: number): Analysis['masks'] => [
      {
        effect: 'clear',
        polygon: [
          { x: left, y: 0.5 },
          { x: right, y: 0.5 },
          { x: right, y: 0.7 },
          { x: left, y: 0.7 },
        ],
      },
    ];
    const arm = judgeQuality(analysis({ masks: box(0.2, 0.4) }), matte());
    expect(arm.doubts.find(({ kind }) => kind === 'maskedPerson')?.places[0]).toMatchObject({
      x: 0.3,
      y: 0.5,
      width: 0.1,
      height: 0.2,
    });
    expect(kinds(judgeQuality(analysis({ masks: box(0, 0.25) }), matte()))).not.toContain('maskedPerson');
    expect(
      kinds(judgeQuality(analysis({ masks: box(0.2, 0.4), persons: () => 0.1 }), matte())),
      'what is no person by its form may go',
    ).not.toContain('maskedPerson');
  });

  test('a frame on which nobody is found, and a screen as pale as sky, are told', () => {
    expect(kinds(judgeQuality(analysis({ persons: () => 0.1 }), matte()))).toContain('nobody');
    expect(kinds(judgeQuality(analysis({ persons: (x) => (x > 30 && x < 70 ? 0.9 : 0) }), matte()))).not.toContain(
      'nobody',
    );
    expect(kinds(judgeQuality(analysis({ chroma: [0.26, 0.33] }), matte()))).toContain('paleScreen');
  });

  test('a limb that went with the screen though by form it is the person’s is told; a gap and a shadow are not', () => {
    // Besides the body the map sees a leg at its right, 12 wide, that the cut has not.
    const leg = (x: number, y: number): number => (y >= 20 && ((x >= 30 && x <= 69) || (x > 69 && x < 85)) ? 0.9 : 0);
    const unsure = (part: Parameters<typeof analysis>[0], coverage?: (x: number, y: number) => number) =>
      judgeQuality(analysis(part), matte(coverage)).doubts.find(({ kind }) => kind === 'unsure');
    const told = unsure({ persons: leg });
    expect(told?.places[0].x).toBeGreaterThan(0.6);
    expect(told?.places[0].width).toBeGreaterThan(0.1);
    const shadow = Uint8Array.from({ length: SIZE * SIZE }, (_, p) => (p % SIZE > 69 ? 1 : 0));
    expect(unsure({ persons: leg, shadow })).toBeUndefined();
    // An arm akimbo: the map fills what it encloses.
    const gap = (x: number, y: number): boolean => x >= 42 && x < 58 && y >= 40 && y < 70;
    const around = (x: number, y: number): number => (x >= 30 && x <= 69 && y >= 20 && !gap(x, y) ? 1 : 0);
    const body = (x: number, y: number): number => (x >= 30 && x <= 69 && y >= 20 ? 0.9 : 0);
    expect(unsure({ persons: body, expected: around }, around)).toBeUndefined();
  });

  test('the extent is what the person takes up', () => {
    expect(judgeQuality(analysis({}), matte()).extent).toEqual({ x: 0.3, y: 0.2, width: 0.4, height: 0.8 });
    expect(
      judgeQuality(
        analysis({}),
        matte(() => 0),
      ).extent,
    ).toEqual({ x: 0, y: 0, width: 1, height: 1 });
  });

  test('a clean cut has no doubts and costs nothing', () => {
    expect(judgeQuality(analysis({}), matte())).toMatchObject({ screen: 'green', doubts: [], minutes: 0 });
  });
  test('each doubt costs minutes that grow with it up to its most; the costliest comes first; they add up', () => {
    const cost = [8, 16, 30, 9000].map((apart) => judgeQuality(analysis({}), matte(undefined, { apart })).minutes);
    for (let n = 1; n < cost.length; n++) expect(cost[n]).toBeGreaterThan(cost[n - 1]);
    expect(cost[3]).toBe(doubtFacts.strands.most);
    const { doubts, minutes } = judgeQuality(
      analysis({ noise: 0.05, patches: [{ verdict: 'keep', doubtful: true }] }),
      matte(undefined, { apart: 60, unexplained: 60 }),
    );
    expect(doubts.map((d) => d.kind).sort()).toEqual(['greenClose', 'noisy', 'strands', 'unexplained']);
    expect([...doubts].sort((a, b) => b.minutes - a.minutes)).toEqual(doubts);
    expect(minutes).toBeCloseTo(
      doubts.reduce((sum, d) => sum + d.minutes, 0),
      2,
    );
  });
  test('the place is told: the tile where the strands are, the patch in doubt', () => {
    const { doubts, ledger } = judgeQuality(
      analysis({ patches: [{ verdict: 'keep', doubtful: true }] }),
      matte(undefined, { apart: 60 }),
    );
    expect(doubts.find(({ kind }) => kind === 'strands')?.places).toMatchObject([
      { x: 0, y: 0.5, width: 0.5, height: 0.5 },
    ]);
    expect(doubts.find(({ kind }) => kind === 'greenClose')?.places).toMatchObject([
      { x: 0.1, y: 0.2, width: 0.2, height: 0.4 },
    ]);
    // Drawn as its shape, not as its box.
    const outline = ledger[0].place.outline ?? [];
    const ys = outline.filter((_, n) => n % 2 === 1);
    expect(outline.length).toBeGreaterThanOrEqual(8);
    expect([Math.min(...ys), Math.max(...ys)]).toEqual([expect.closeTo(0.3, 1), expect.closeTo(0.5, 1)]);
    expect(ledger[0]).toMatchObject({ verdict: 'keep', doubtful: true, place: { x: 0.1, width: 0.2 } });
  });
  test('a thin place inside the person is found, a gap is none', () => {
    const thin = judgeQuality(
      analysis({}),
      matte((x, y) => (x < 30 || x > 69 || y < 20 ? 0 : x > 45 && x < 52 && y > 50 && y < 57 ? 0.5 : 1)),
    );
    expect(kinds(thin)).toEqual(['holes']);
    expect(thin.doubts[0].places[0].x).toBeCloseTo(0.46, 2);
    const gap = (x: number, y: number): number =>
      x < 30 || x > 69 || y < 20 || (x > 45 && x < 52 && y > 50 && y < 57) ? 0 : 1;
    expect(kinds(judgeQuality(analysis({ expected: gap }), matte(gap)))).toEqual([]);
  });
  test('a solid piece apart from the person is told, a loose hair is not', () => {
    const person = (x: number, y: number): boolean => x >= 30 && x <= 69 && y >= 20;
    const piece = (x: number, y: number): number => (person(x, y) || (x > 85 && x < 92 && y > 40 && y < 50) ? 1 : 0);
    expect(kinds(judgeQuality(analysis({ expected: piece }), matte(piece)))).toEqual(['residue']);
    expect(
      kinds(
        judgeQuality(
          analysis({}),
          matte((x, y) => (person(x, y) ? 1 : x === 85 && y > 40 && y < 50 ? 0.4 : 0)),
        ),
      ),
    ).toEqual([]);
  });
  test('a piece cut otherwise than form and surroundings say is told, and one in which screen and person are as likely', () => {
    const gone = (x: number, y: number): boolean => x > 40 && x < 60 && y > 60 && y < 80;
    const cut = judgeQuality(
      analysis({}),
      matte((x, y) => (x >= 30 && x <= 69 && y >= 20 && !gone(x, y) ? 1 : 0)),
    );
    expect(kinds(cut)).toEqual(['unsure']);
    expect(cut.doubts[0].places).toHaveLength(1);
    expect(cut.doubts[0].places[0].x).toBeCloseTo(0.4, 1);
    const even = judgeQuality(
      analysis({ solid: (x, y) => (gone(x, y) ? 0.5 : x >= 30 && x <= 69 && y >= 20 ? 1 : 0) }),
      matte(),
    );
    expect(kinds(even)).toEqual(['unsure']);
    expect(even.doubts[0].places[0].height).toBeCloseTo(0.21, 1);
  });
  test('somebody who leaves the screen is told with the place', () => {
    const { doubts } = judgeQuality(analysis({ beyond: (x, y) => x > 90 && y > 50 && y < 60 }), matte());
    expect(doubts.map(({ kind }) => kind)).toEqual(['atEdge']);
    expect(doubts[0].places[0]).toMatchObject({ x: 0.91, y: 0.51, width: 0.09, height: 0.09 });
    // Four corners: the arm is a square, and its outline lies on it.
    const outline = doubts[0].places[0].outline ?? [];
    expect(outline.length).toBeLessThanOrEqual(20);
    for (const share of outline) expect(share).toBeGreaterThan(0.5);
  });
  test('green left on the outline of the finished cut is told', () => {
    const soft = matte((x, y) => (x >= 27 && x <= 72 && y >= 17 ? (x >= 30 && x <= 69 && y >= 20 ? 1 : 0.5) : 0));
    const cut = (green: number): EncodedRaster => ({
      width: SIZE,
      height: SIZE,
      channels: 4,
      data: Uint8Array.from({ length: SIZE * SIZE * 4 }, (_, i) => (i % 4 === 1 ? green : 100)),
    });
    expect(kinds(judgeQuality(analysis({}), soft, cut(140)))).toContain('outlineGreen');
    expect(kinds(judgeQuality(analysis({}), soft, cut(100)))).not.toContain('outlineGreen');
  });
  test('the screen’s light beside the outline is told where it leads more than farther inside', () => {
    const own = [90, 90, 60];
    const lit = (more: number): EncodedRaster => ({
      width: SIZE,
      height: SIZE,
      channels: 4,
      data: Uint8Array.from({ length: SIZE * SIZE * 4 }, (_, i) => {
        const x = Math.floor(i / 4) % SIZE;
        return i % 4 === 3 ? 255 : own[i % 4] + (i % 4 === 1 && x < 34 ? more : 0);
      }),
    });
    const reduced = { width: SIZE, height: SIZE, channels: 3, data: new Float32Array(SIZE * SIZE * 3) };
    const table = linearTable(new Uint8Array());
    for (let i = 0; i < reduced.data.length; i++) reduced.data[i] = table[own[i % 3]];
    const judged = (more: number) =>
      judgeQuality({ ...analysis({}), reduced }, matte(), lit(more)).doubts.find(({ kind }) => kind === 'spillLeft');
    expect(judged(30)?.places[0]).toMatchObject({ x: 0.3, y: 0.2, width: 0.04, height: 0.8 });
    expect(judged(0)).toBeUndefined();
    expect(judged(60)?.minutes).toBe(judged(30)?.minutes);
  });
  test('a sure verdict on green is counted but is no doubt', () => {
    const quality = judgeQuality(
      analysis({
        patches: [
          { verdict: 'keep', doubtful: false },
          { verdict: 'remove', doubtful: false },
        ],
      }),
      matte(),
    );
    expect(quality).toMatchObject({ greenKept: 1, greenRemoved: 1, doubts: [] });
  });
});

test('sampleBilinear: exact at pixel centres, halfway between, clamped outside', () => {
  const data = Float32Array.from([0, 0, 0, 1, 2, 3, 4, 4, 4, 5, 6, 7]);
  const out = new Float32Array(3);
  const read = (x: number, y: number): number[] => (sampleBilinear(data, 2, 2, x, y, out), [...out]);
  expect(read(1, 0)).toEqual([1, 2, 3]);
  expect(read(0.5, 0)).toEqual([0.5, 1, 1.5]);
  expect(read(0.5, 0.5)).toEqual([2.5, 3, 3.5]);
  expect(read(-5, 9)).toEqual([4, 4, 4]);
});
