import { expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { byPair } from './pairs.ts';
import { histogramsOf, STEPS } from './histograms.ts';
import { colourChanger, matchByHand } from './match.ts';
import { plainLook } from './look.ts';

/** Pairs that are pointed at, and histograms. */

test('what was pointed at on the person becomes the colour that was pointed at behind', () => {
  const pairs: [[number, number, number], [number, number, number]][] = [
    [
      [0.6, 0.6, 0.6],
      [0.42, 0.36, 0.25],
    ],
    [
      [0.3, 0.34, 0.4],
      [0.36, 0.35, 0.33],
    ],
    [
      [0.2, 0.25, 0.2],
      [0.4, 0.42, 0.44],
    ],
  ];
  for (const [own, there] of pairs) {
    const look = { ...plainLook, ...byPair(plainLook, own, there) };
    const rgb = Float32Array.from(own);
    colourChanger(matchByHand(look).step)(rgb);
    rgb.forEach((v, c) => expect(v / there[c]).toBeGreaterThan(0.94));
    rgb.forEach((v, c) => expect(v / there[c]).toBeLessThan(1.06));
  }
});

test('the same colour twice changes nothing; black and clipped ones stay within the ranges', () => {
  expect(byPair(plainLook, [0.3, 0.2, 0.1], [0.3, 0.2, 0.1])).toEqual({ exposure: 0, warmth: 0, tint: 0 });
  const { exposure, warmth, tint } = byPair(plainLook, [0, 0, 0], [1, 0, 0]);
  expect(exposure).toBeLessThanOrEqual(2);
  expect(Math.abs(warmth)).toBeLessThanOrEqual(120);
  expect(Math.abs(tint)).toBeLessThanOrEqual(1);
});

test('histograms tell the person from what lies beside them, mirrored or not', () => {
  const cut: EncodedRaster = { width: 4, height: 4, channels: 4, data: new Uint8Array(64) };
  for (let y = 0; y < 4; y++) cut.data.set([9, 9, 9, 255], y * 16);
  // A white stripe at the left of a black picture, and a person as wide as it.
  const data = new Uint8Array(40 * 40 * 3);
  for (let y = 0; y < 40; y++) data.fill(255, y * 120, y * 120 + 30);
  const picture = { width: 40, height: 40, channels: 3 as const, data };
  const at = { x: 0.5, y: 1, height: 1 };
  const straight = histogramsOf(picture, cut, at, false);
  expect(straight.person[STEPS - 1]).toBeGreaterThan(0.7);
  expect(straight.scene[0]).toBeGreaterThan(0.9);
  expect(histogramsOf(picture, cut, at, true).person[0]).toBeGreaterThan(0.7);
  for (const list of [straight.person, straight.scene]) expect(list.reduce((sum, v) => sum + v, 0)).toBeCloseTo(1);
});
