import { describe, expect, test } from 'vitest';
import { createLinear, createMask, type EncodedRaster, type LinearRaster, type Mask } from '../image/raster.ts';
import { demoPlans, reportOn } from '../plan/index.ts';
import { sourcesOf } from '../plan/light.ts';
import { seededRandom } from '../random.ts';
import { nearPatches } from './clothing.ts';
import { comparePlan } from './difference.ts';
import type { Lawn } from './lawn.ts';
import { creasesOf, driftOf, levelOf } from './levels.ts';
import { castShadow, personIn } from './people.ts';

const WIDTH = 200;
const HEIGHT = 150;
type Rgb = readonly [number, number, number];
const green: Rgb = [0.08, 0.42, 0.1];

function mask(inside: (x: number, y: number) => boolean, width = WIDTH, height = HEIGHT): Mask {
  const out = createMask(width, height);
  for (let p = 0; p < out.data.length; p++) if (inside(p % width, (p / width) | 0)) out.data[p] = 1;
  return out;
}

function picture(colour: (x: number, y: number) => Rgb): LinearRaster {
  const out = createLinear(WIDTH, HEIGHT);
  for (let p = 0; p < WIDTH * HEIGHT; p++) out.data.set(colour(p % WIDTH, (p / WIDTH) | 0), p * 3);
  return out;
}

const box =
  (left: number, top: number, right: number, bottom: number) =>
  (x: number, y: number): boolean =>
    x >= left && x < right && y >= top && y < bottom;
const everywhere = mask(() => true);

describe('personIn', () => {
  test('all larger pieces of what hides the screen count, specks and what lies beyond the screen do not', () => {
    const big = box(60, 40, 110, 150);
    const second = box(130, 60, 160, 150);
    const speck = box(20, 20, 22, 22);
    const wall = box(180, 0, 200, 150);
    const clear = mask((x, y) => !(big(x, y) || second(x, y) || speck(x, y) || wall(x, y)));
    const found = personIn(
      clear,
      mask((x, y) => !wall(x, y)),
    );
    expect(found?.data).toEqual(mask((x, y) => big(x, y) || second(x, y)).data);
  });
  test('a small companion of a large piece is left out, nobody is nobody', () => {
    const big = box(40, 20, 140, 150);
    const small = box(160, 100, 190, 130);
    expect(
      personIn(
        mask((x, y) => !(big(x, y) || small(x, y))),
        everywhere,
      )?.data,
    ).toEqual(mask(big).data);
    expect(personIn(everywhere, everywhere)).toBeUndefined();
  });
});

describe('castShadow', () => {
  const person = mask(box(85, 50, 115, 150));
  const seen = mask((x, y) => !person.data[y * WIDTH + x]);
  const empty = picture((x) => green.map((v) => v * (0.8 + (0.4 * x) / WIDTH)) as unknown as Rgb);
  const shaded = (stops: number, where: (x: number, y: number) => boolean): LinearRaster =>
    picture(
      (x, y) => green.map((v) => v * (0.8 + (0.4 * x) / WIDTH) * (where(x, y) ? 2 ** -stops : 1)) as unknown as Rgb,
    );

  test('its depth in stops, and the side it falls to', () => {
    const found = castShadow(shaded(0.8, box(125, 40, 175, 110)), empty, seen, person, 1);
    expect(found.depth).toBeCloseTo(0.8, 2);
    expect(found.right).toBeCloseTo(0.8, 2);
    expect(found.left).toBeCloseTo(0, 2);
    expect(found.x).toBeGreaterThan(0.6);
  });
  test('a lamp that has drifted since the empty frame casts none', () => {
    const brighter = picture((x) => green.map((v) => 1.2 * v * (0.8 + (0.4 * x) / WIDTH)) as unknown as Rgb);
    expect(castShadow(brighter, empty, seen, person, 1).depth).toBeCloseTo(0, 3);
  });
  test('where too little of the screen is seen there is nothing to say', () => {
    expect(castShadow(empty, empty, mask(box(0, 0, 10, 10)), person, 1).depth).toBe(0);
  });
});

describe('nearPatches', () => {
  const body = box(60, 40, 140, 150);
  const shirt = box(70, 80, 130, 150);
  const person = mask(body);
  const clear = mask((x, y) => !body(x, y));
  const screen = picture(() => green);
  const noisy = (colour: (x: number, y: number) => Rgb, grain: (x: number, y: number) => number): LinearRaster => {
    const random = seededRandom(3);
    return picture((x, y) => {
      const factor = 1 + grain(x, y) * (random() - 0.5);
      return colour(x, y).map((v) => v * factor) as unknown as Rgb;
    });
  };
  const worn = (colour: Rgb): LinearRaster =>
    noisy(
      (x, y) => (shirt(x, y) ? colour : body(x, y) ? [0.45, 0.28, 0.2] : green),
      (x, y) => (shirt(x, y) ? 0.06 : 0.02),
    );

  test('a shirt near the screen’s colour is found, with its place, its colour and a high risk', () => {
    const [patch, ...others] = nearPatches(worn([0.1, 0.3, 0.09]), screen, person, clear, everywhere, 1);
    expect(others).toHaveLength(0);
    expect(patch.risk).toBeGreaterThan(0.5);
    expect(patch.x).toBeCloseTo(70 / WIDTH, 1);
    expect(patch.y).toBeCloseTo(80 / HEIGHT, 1);
    expect(patch.share).toBeGreaterThan(0.3);
    expect(patch.colour[1]).toBeCloseTo(0.3, 1);
  });
  test('the farther its colour the lower the risk; red and black are none', () => {
    const near = nearPatches(worn([0.1, 0.36, 0.1]), screen, person, clear, everywhere, 1)[0];
    const farther = nearPatches(worn([0.14, 0.28, 0.1]), screen, person, clear, everywhere, 1)[0];
    expect(farther.apart).toBeGreaterThan(near.apart);
    expect(farther.risk).toBeLessThan(near.risk);
    expect(nearPatches(worn([0.5, 0.06, 0.05]), screen, person, clear, everywhere, 1)).toHaveLength(0);
    expect(nearPatches(worn([0.004, 0.01, 0.005]), screen, person, clear, everywhere, 1)).toHaveLength(0);
  });
});

describe('levels of the lawn', () => {
  const lawn = (tint: (column: number) => Rgb): Lawn => {
    const colour = new Float64Array(24 * 16 * 3);
    for (let n = 0; n < 24 * 16; n++) colour.set(tint(n % 24), n * 3);
    return { columns: 24, rows: 16, colour, stops: new Float64Array(24 * 16) };
  };

  test('side to side drift is the change of hue, not of level', () => {
    expect(driftOf(lawn((column) => green.map((v) => v * (1 + column / 24)) as unknown as Rgb))).toBeCloseTo(0, 6);
    expect(driftOf(lawn((column) => [column < 12 ? green[0] : green[0] * 1.1, green[1], green[2]]))).toBeCloseTo(
      100 * Math.log(1.1),
      3,
    );
    expect(driftOf(lawn((column) => [green[0], green[1], column < 12 ? green[2] : green[2] * 0.8]))).toBeCloseTo(
      -100 * Math.log(0.8),
      3,
    );
  });

  test('creases are what is finer than the light; noise is taken off', () => {
    const trend = new Float32Array(WIDTH * HEIGHT).fill(0.42);
    const wave = picture((x) => [0.08, 0.42 * (1 + 0.1 * Math.sin(x / 4)), 0.1]);
    expect(creasesOf(wave, everywhere, trend, 1)).toBeCloseTo(0.1 / Math.SQRT2, 2);
    const random = seededRandom(9);
    const noise = picture(() => [0.08, 0.42 * (1 + 0.1 * (random() + random() + random() + random() - 2)), 0.1]);
    expect(creasesOf(noise, everywhere, trend, 1)).toBeLessThan(0.012);
    expect(creasesOf(wave, mask(box(0, 0, 5, 5)), trend, 1), 'too little to tell').toBe(0);
  });

  test('clipped and nearly clipped shares, with the place, in 8 and 16 bit', () => {
    for (const scale of [1, 257]) {
      const full: EncodedRaster = {
        width: WIDTH,
        height: HEIGHT,
        channels: 3,
        data: scale === 1 ? new Uint8Array(WIDTH * HEIGHT * 3) : new Uint16Array(WIDTH * HEIGHT * 3),
      };
      for (let p = 0; p < WIDTH * HEIGHT; p++)
        full.data.set(
          [80, p % WIDTH < 20 ? 255 : p % WIDTH < 50 ? 250 : 180, 90].map((v) => v * scale),
          p * 3,
        );
      const level = levelOf(
        full,
        { picture: picture(() => green), factor: 1 } as Parameters<typeof levelOf>[1],
        everywhere,
      );
      expect(level.clipped).toBeCloseTo(0.1, 5);
      expect(level.near).toBeCloseTo(0.15, 5);
      expect(level.place).toEqual({ x: 0, y: 0, width: 0.1, height: 1 });
      expect(level.mean[1]).toBeCloseTo(0.42, 5);
    }
  });
});

test('a lamp that gives half of what was planned is told by the lawn, the others are as planned', () => {
  const plan = demoPlans().tent;
  const report = reportOn(plan, 24, 2);
  const sources = sourcesOf(plan, 2);
  const lamps = report.map.bySource.map((_, n) => n).filter((n) => sources[n].kind !== 'room');
  const strongest = lamps
    .map((n) => ({ n, sum: report.map.bySource[n].reduce((total, v) => total + v, 0) }))
    .sort((a, b) => b.sum - a.sum);
  const weak = strongest[1].n;
  const stops = new Float64Array(report.map.empty.length);
  for (let p = 0; p < stops.length; p++) {
    const level = report.map.bySource.reduce((sum, values, n) => sum + (n === weak ? 0.5 : 1) * values[p], 0);
    stops[p] = level > 0 ? Math.log2(level) : NaN;
  }
  const found = comparePlan(
    { columns: report.map.columns, rows: report.map.rows, stops, colour: new Float64Array() },
    report,
    plan,
  );
  expect(found?.lamps.length).toBeGreaterThan(1);
  for (const { id, share } of found?.lamps ?? []) {
    if (id === sources[weak].lamp.id) expect(share).toBeLessThan(0.62);
    else expect(share).toBeGreaterThan(0.9);
  }
  expect(found?.most).toBeGreaterThan(0.1);
  const asPlanned = comparePlan(
    {
      columns: report.map.columns,
      rows: report.map.rows,
      stops: stops.map((_, p) => (report.map.empty[p] > 0 ? Math.log2(report.map.empty[p]) : NaN)),
      colour: new Float64Array(),
    },
    report,
    plan,
  );
  expect(asPlanned?.most).toBeCloseTo(0, 6);
  expect(
    comparePlan({ columns: 3, rows: 3, stops: new Float64Array(9), colour: new Float64Array() }, report, plan),
    'another grid cannot be compared',
  ).toBeUndefined();
});
