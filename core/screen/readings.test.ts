import { describe, expect, test } from 'vitest';
import { jpegFacts } from '../image/jpegFacts.ts';
import type { LinearRaster, Mask } from '../image/raster.ts';
import { linearToOklab } from '../colour/oklab.ts';
import { seededRandom, gaussian } from '../random.ts';
import { linearOf } from '../plan/wardrobe.ts';
import { moveTo, readBall } from './ball.ts';
import { readChart, chartColours } from './chart.ts';
import { angleBetween, anglesOf, directionOf } from './direction.ts';
import { measureLawn, spreadOf } from './lawn.ts';
import { insideOf, outlineOf } from './outline.ts';
import { fitShading, shadingOf } from './shading.ts';
import { medianOf, quantileOf } from './statistics.ts';

describe('a ball by given lights', () => {
  /** Renders a matt ball: ambient and lights of azimuth, elevation, strength, softness. */
  function ball(ambient: number, lights: [number, number, number, number][], noise = 0): LinearRaster {
    const size = 120;
    const data = new Float32Array(size * size * 3);
    const random = seededRandom(5);
    for (let y = 0; y < size; y++) {
      for (let x = 0; x < size; x++) {
        const nx = (x + 0.5 - 60) / 50;
        const ny = (60 - y - 0.5) / 50;
        if (nx * nx + ny * ny >= 1) continue;
        const normal = { x: nx, y: ny, z: Math.sqrt(1 - nx * nx - ny * ny) };
        let level = ambient;
        for (const [azimuth, elevation, strength, softness] of lights)
          level += strength * shadingOf([normal], directionOf(azimuth, elevation), softness)[0];
        for (let c = 0; c < 3; c++) data[(y * size + x) * 3 + c] = level * [1, 0.9, 0.7][c] + noise * gaussian(random);
      }
    }
    return { width: size, height: size, channels: 3, data };
  }
  const circle = { x: 0.5, y: 0.5, radius: 50 / 120 };

  test.each<[number, number]>([
    [-40, 20],
    [0, 60],
    [70, 5],
    [-85, 30],
    [25, -20],
  ])('a single light from %i°, %i° up', (azimuth, elevation) => {
    const read = readBall(ball(0.05, [[azimuth, elevation, 0.6, 0.15]], 0.004), circle);
    expect(read && angleBetween(read, { azimuth, elevation })).toBeLessThan(3);
  });

  test('key, fill and edge light are told apart, with key over fill', () => {
    const read = readBall(
      ball(
        0.06,
        [
          [-38, 15, 0.5, 0.2],
          [40, 5, 0.1, 0.2],
          [125, 20, 0.2, 0.1],
        ],
        0.003,
      ),
      circle,
    );
    expect(read && angleBetween(read, { azimuth: -38, elevation: 15 })).toBeLessThan(6);
    const facing = Math.cos(
      (angleBetween({ azimuth: -38, elevation: 15 }, { azimuth: 40, elevation: 5 }) * Math.PI) / 180,
    );
    expect(read?.keyOverFill).toBeCloseTo(Math.log2((0.5 + 0.06 + 0.1 * facing) / (0.06 + 0.1 * facing)), 0);
  });

  test('the light’s colour: red above blue is warmer than daylight', () => {
    const read = readBall(ball(0.05, [[-30, 20, 0.6, 0.1]]), circle);
    expect(read?.temperature).toBeLessThan(5000);
    expect(readBall(ball(0.05, []), { x: 0.5, y: 0.5, radius: 0.01 })).toBeUndefined();
  });

  test('strengths are never negative, and an even sphere has no direction to speak of', () => {
    const normals = Array.from({ length: 200 }, (_, n) => directionOf((n * 37) % 80, (n * 23) % 60));
    const fit = fitShading(
      normals,
      normals.map(() => 0.3),
    );
    expect(fit.ambient).toBeGreaterThanOrEqual(0);
    for (const { strength } of fit.lights) expect(strength).toBeGreaterThanOrEqual(0);
    expect(fit.error).toBeLessThan(1e-3);
  });

  test('the move from one light to another goes the short way round', () => {
    const base = {
      circle,
      azimuth: 170,
      elevation: 20,
      keyOverFill: 2,
      softness: 0.2,
      temperature: 5000,
      tint: 0,
      residual: 0,
    };
    expect(moveTo({ ...base, azimuth: -170, elevation: 5 }, base)).toMatchObject({ right: 20, up: -15, ratio: 0 });
  });

  test('angles and directions are inverse', () => {
    for (const [azimuth, elevation] of [
      [12, 34],
      [-150, -60],
      [0, 0],
    ])
      expect(anglesOf(directionOf(azimuth, elevation))).toMatchObject({
        azimuth: expect.closeTo(azimuth, 6),
        elevation: expect.closeTo(elevation, 6),
      });
  });
});

describe('the lawn', () => {
  const screen = (level: (x: number, y: number) => number): { frame: LinearRaster; clear: Mask } => {
    const width = 120;
    const height = 180;
    const data = new Float32Array(width * height * 3);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        for (let c = 0; c < 3; c++) data[(y * width + x) * 3 + c] = level(x / width, y / height) * [0.2, 1, 0.25][c];
    return {
      frame: { width, height, channels: 3, data },
      clear: { width, height, data: new Uint8Array(width * height).fill(1) },
    };
  };

  test('a slope of one stop from left to right reads as one stop, brighter on the right', () => {
    const { frame, clear } = screen((x) => 0.3 * 2 ** x);
    const spread = spreadOf(measureLawn(frame, clear, 1));
    expect(spread?.tilt).toBeCloseTo(1, 1);
    expect(spread?.bulge).toBeCloseTo(0, 1);
    expect(Math.abs((spread?.spread ?? 0) - 1)).toBeLessThan(0.1);
    expect(spread?.hot.x).toBeGreaterThan(0.9);
  });

  test('creases finer than the light do not count as unevenness', () => {
    const { frame, clear } = screen((x) => 0.3 * (1 + 0.15 * Math.sin(x * 120)));
    expect(spreadOf(measureLawn(frame, clear, 1))?.spread).toBeLessThan(0.2);
  });

  test('halving the light lowers the level by a stop everywhere and changes no spread', () => {
    const whole = screen((x, y) => 0.3 * 2 ** (x * y));
    const half = { ...whole.frame, data: whole.frame.data.map((v) => v / 2) };
    const a = spreadOf(measureLawn(whole.frame, whole.clear, 1));
    const b = spreadOf(measureLawn(half, whole.clear, 1));
    expect(b?.spread).toBeCloseTo(a?.spread ?? NaN, 6);
  });

  test('nothing clear is no lawn', () => {
    const { frame, clear } = screen(() => 0.3);
    expect(spreadOf(measureLawn(frame, { ...clear, data: clear.data.map(() => 0) }, 1))).toBeUndefined();
  });
});

describe('the outline of the screen', () => {
  const mask = (inside: (x: number, y: number) => boolean, width = 200, height = 300): Mask => ({
    width,
    height,
    data: Uint8Array.from({ length: width * height }, (_, p) => (inside(p % width, Math.floor(p / width)) ? 1 : 0)),
  });

  test('strips on two sides are measured to the pixel, a person in the way does not widen them', () => {
    const outline = outlineOf(mask((x, y) => x >= 30 && y < 270 && !(x > 70 && x < 140 && y > 80)));
    expect(outline.missing.left * 200).toBeCloseTo(30, 0);
    expect(outline.missing.bottom * 300).toBeCloseTo(30, 0);
    expect(outline.missing.right).toBe(0);
    expect(outline.missing.top).toBe(0);
  });

  test('a slanting edge becomes a slanting polygon', () => {
    const outline = outlineOf(mask((x, y) => x >= 20 + y * 0.05));
    expect(outline.polygon[0].x * 200).toBeCloseTo(20, -1);
    expect(outline.polygon[3].x * 200).toBeCloseTo(35, -1);
  });

  test('who fills the whole lower side is no border, known or unknown; nor is who stands at a side', () => {
    // Head and round shoulders.
    const body = (x: number, y: number): boolean =>
      Math.hypot(x - 100, y - 90) < 40 || Math.hypot((x - 100) / 150, (y - 310) / 160) < 1;
    const clear = mask((x, y) => !body(x, y));
    const none = { left: 0, right: 0, top: 0, bottom: 0 };
    expect(outlineOf(clear).missing).toEqual(none);
    expect(outlineOf(clear, mask(body)).missing).toEqual(none);
    const beside = (x: number, y: number): boolean => x < 50 + 12 * Math.sin(y / 25);
    expect(
      outlineOf(
        mask((x, y) => !beside(x, y)),
        mask(beside),
      ).missing,
    ).toEqual(none);
  });

  test('an arm that crosses the border does not hide it, and one straight sleeve is no border', () => {
    const arm = (x: number, y: number): boolean => Math.abs(y - 120) < 15 && x > 60;
    const narrow = outlineOf(
      mask((x, y) => x < 150 && !arm(x, y)),
      mask(arm),
    );
    expect(narrow.missing.right * 200).toBeCloseTo(50, 0);
    const sleeve = (x: number, y: number): boolean => x > 160 && y > 200;
    expect(outlineOf(mask((x, y) => !sleeve(x, y))).missing.right).toBe(0);
  });

  test('flat shoulders that curve down are no border: the screen is seen below them', () => {
    // A head, and shoulders that are flat for two thirds of the width.
    const top = (x: number): number => 230 + Math.max(0, Math.abs(x - 100) - 65) * 0.7;
    const body = (x: number, y: number): boolean => Math.hypot(x - 100, y - 190) < 30 || y > top(x);
    expect(outlineOf(mask((x, y) => !body(x, y))).missing.bottom).toBe(0);
    const floor = outlineOf(mask((x, y) => y <= 230 && Math.hypot(x - 100, y - 190) >= 30));
    expect(floor.missing.bottom * 300).toBeCloseTo(69, 0);
  });

  test('a border along which the screen is no longer plain, unevenly, is found by what nearly is', () => {
    // The plain screen begins 1 to 9 pixels below the rim; all of it down from there nearly is the screen.
    const plain = mask((x, y) => y >= 31 + ((x * 7) % 17) / 2);
    const nearly = mask((_, y) => y >= 30);
    expect(outlineOf(plain).missing.top).toBe(0);
    expect(outlineOf(plain, undefined, undefined, nearly).missing.top * 300).toBeCloseTo(30, 0);
    // Where plain screen alone tells of a border, that is it.
    const narrow = mask((x) => x >= 34);
    expect(
      outlineOf(
        narrow,
        undefined,
        undefined,
        mask((x) => x >= 30),
      ).missing.left * 200,
    ).toBeCloseTo(34, 0);
  });

  test('what is inside a polygon fills it', () => {
    const filled = insideOf(
      [
        { x: 0.25, y: 0.25 },
        { x: 0.75, y: 0.25 },
        { x: 0.75, y: 0.75 },
        { x: 0.25, y: 0.75 },
      ],
      40,
      40,
    );
    expect(filled.data.reduce((a: number, b) => a + b, 0)).toBe(400);
  });
});

describe('small things', () => {
  test('median and quantiles, nothing of nothing', () => {
    expect(medianOf([3, 1, 2])).toBe(2);
    expect(quantileOf([1, 2, 3, 4], 0.99)).toBe(4);
    expect(medianOf([])).toBeNaN();
  });

  test('a chart in its own colours under warm light reads its gains and no error', () => {
    const width = 160;
    const height = 110;
    const data = new Float32Array(width * height * 3);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const column = Math.min(5, Math.max(0, Math.floor((x / width) * 6.14 - 0.07)));
        const row = Math.min(3, Math.max(0, Math.floor((y / height) * 4.14 - 0.07)));
        linearOf(chartColours[row][column]).forEach(
          (v, c) => (data[(y * width + x) * 3 + c] = v * [1.25, 1, 0.8][c] * 0.5),
        );
      }
    }
    const read = readChart({ width, height, channels: 3, data }, { x: 0, y: 0, width: 1, height: 1 });
    expect(read?.gains[0]).toBeCloseTo(0.8, 2);
    expect(read?.gains[2]).toBeCloseTo(1.25, 2);
    expect(read?.stops).toBeCloseTo(1, 2);
    expect(read?.worst).toBeLessThan(0.1);
    expect(
      readChart({ width, height, channels: 3, data: data.map(() => 0.3) }, { x: 0, y: 0, width: 1, height: 1 }),
    ).toBeUndefined();
  });

  test('OKLab of white and of primaries as published', () => {
    expect(linearToOklab(1, 1, 1).map((v) => Math.round(v * 1000) / 1000)).toEqual([1, 0, 0]);
    expect(linearToOklab(1, 0, 0)[0]).toBeCloseTo(0.628, 3);
    expect(linearToOklab(0, 1, 0)[1]).toBeCloseTo(-0.2339, 3);
  });

  test('what is no JPEG tells nothing of one', () => {
    expect(jpegFacts(new Uint8Array([1, 2, 3]))).toBeUndefined();
    expect(jpegFacts(new Uint8Array([0xff, 0xd8, 0xff]))).toBeUndefined();
    expect(jpegFacts(new Uint8Array())).toBeUndefined();
  });
});
