import { describe, expect, test } from 'vitest';
import { encoderFor } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import {
  applyMasks,
  givenBy,
  guidanceFor,
  noGuidance,
  patchOf,
  spillAlong,
  verdictOn,
  type Guidance,
  type Guided,
  type HandMask,
} from './guidance.ts';
import { cutFrame, defaultRecipe, type Quality } from './index.ts';

type Rgb = [number, number, number];
const WIDTH = 300;
const HEIGHT = 400;
const square = (left: number, top: number, right: number, bottom: number): HandMask['polygon'] => [
  { x: left, y: top },
  { x: right, y: top },
  { x: right, y: bottom },
  { x: left, y: bottom },
];

describe('applyMasks', () => {
  const laid = (masks: HandMask[], before: number): Uint16Array => {
    const alpha = new Uint16Array(100).fill(before);
    applyMasks(masks, alpha, 10, 10);
    return alpha;
  };
  test('clear takes all, solid gives all, crop keeps only what lies inside', () => {
    const polygon = square(0.2, 0.2, 0.6, 0.6);
    expect(
      [...laid([{ effect: 'clear', polygon }], 40000)]
        .map((a, p) => (p % 10 >= 2 && p % 10 < 6 && p >= 20 && p < 60 ? a === 0 : a === 40000))
        .every(Boolean),
    ).toBe(true);
    expect(laid([{ effect: 'solid', polygon }], 100)[33]).toBe(65535);
    expect(laid([{ effect: 'solid', polygon }], 100)[77]).toBe(100);
    expect(laid([{ effect: 'crop', polygon }], 40000)[33]).toBe(40000);
    expect(laid([{ effect: 'crop', polygon }], 40000)[0]).toBe(0);
  });
  test('an edge through half a pixel takes half of it; the later mask wins', () => {
    expect(laid([{ effect: 'clear', polygon: square(0.25, 0, 1, 1) }], 60000)[2]).toBe(30000);
    expect(
      laid(
        [
          { effect: 'clear', polygon: square(0, 0, 1, 1) },
          { effect: 'solid', polygon: square(0, 0, 0.5, 1) },
        ],
        9,
      )[1],
    ).toBe(65535);
  });
  test('a soft border fades to both sides and is half where it is drawn; spill follows it, too', () => {
    const [width, height] = [60, 100];
    const mask: HandMask = { effect: 'clear', polygon: square(0.5, -1, 2, 2), soft: 0.08 };
    const alpha = new Uint16Array(width * height).fill(60000);
    applyMasks([mask], alpha, width, height);
    const row = [...alpha.subarray(50 * width, 51 * width)];
    expect(row[18]).toBe(60000);
    expect(row[42]).toBe(0);
    expect((row[29] + row[30]) / 2 / 60000).toBeCloseTo(0.5, 1);
    for (let x = 1; x < width; x++) expect(row[x]).toBeLessThanOrEqual(row[x - 1]);
    expect(new Set(row).size).toBeGreaterThan(8);
    const [amount, gone] = [new Float32Array(width), new Uint8Array(width)];
    spillAlong([{ ...mask, effect: 'spillGone' }], 0.2, 50, height, amount, gone);
    expect(amount[18]).toBeCloseTo(0.2);
    expect(amount[42]).toBeCloseTo(1);
    expect(amount[30]).toBeGreaterThan(0.4);
    expect(amount[30]).toBeLessThan(0.8);
  });
  test('what they leave no doubt about', () => {
    const given = givenBy(
      [
        { effect: 'clear', polygon: square(0, 0, 0.25, 1) },
        { effect: 'solid', polygon: square(0.5, 0, 1, 1) },
      ],
      10,
      1,
    );
    expect([...given.data]).toEqual([1, 1, 0, 0, 0, 2, 2, 2, 2, 2]);
  });
});

describe('guidanceFor', () => {
  const mask = (wholeSubject?: boolean): HandMask => ({
    effect: 'clear',
    polygon: square(0, 0, 0.1, 0.1),
    wholeSubject,
  });
  const verdict = { x: 0.5, y: 0.5, chroma: [0.2, 0.3] as [number, number], share: 0.1, keep: false };
  const frame = (id: number, subject: string, guidance: Partial<Guidance> = {}, setupId = 1): Guided => ({
    id,
    setupId,
    subject,
    guidance: { ...noGuidance, ...guidance },
  });
  test('the setup’s masks hold for all, a subject’s for its frames, a frame’s for itself', () => {
    const all = [
      frame(1, 'Ana', { masks: [mask(true), mask()], verdicts: [verdict], touches: [], departures: [] }),
      frame(2, 'Ana'),
      frame(3, 'Ben'),
      frame(4, 'Ana', {}, 2),
    ];
    const counts = all
      .map((one) => guidanceFor(one, [mask()], all))
      .map(({ masks, verdicts, touches: [], departures: [] }) => [masks.length, verdicts.length]);
    expect(counts).toEqual([
      [3, 1],
      [2, 1],
      [1, 0],
      [1, 0],
    ]);
  });
  test('nobody named shares nothing', () => {
    const all = [frame(1, '', { verdicts: [verdict] }), frame(2, '')];
    expect(guidanceFor(all[1], [], all).verdicts).toEqual([]);
  });
});

describe('a verdict', () => {
  const patches = [
    { centre: { x: 0.5, y: 0.7 }, chroma: [0.12, 0.3] as [number, number], share: 0.2 },
    { centre: { x: 0.5, y: 0.2 }, chroma: [0.12, 0.3] as [number, number], share: 0.02 },
    { centre: { x: 0.52, y: 0.68 }, chroma: [0.3, 0.2] as [number, number], share: 0.2 },
  ];
  test('speaks of the patch of like colour at a like place, and of none where there is none', () => {
    const said = verdictOn(patches[0], false);
    expect(patchOf(said, patches)).toBe(0);
    expect(patchOf({ ...said, x: 0.55, y: 0.66 }, patches)).toBe(0);
    expect(patchOf(said, patches.slice(1))).toBe(-1);
  });
});

/** Skin above, two green cloths side by side below, on a green screen; `right` moves all. */
function twoCloths(right = 0): EncodedRaster {
  const data = new Uint8Array(WIDTH * HEIGHT * 3);
  const encode = encoderFor(data);
  const screen: Rgb = [0.08, 0.42, 0.1];
  const colourAt = (x: number, y: number): Rgb => {
    if (x > 60 && x < 140 && y > 60 && y < 180) return [0.5, 0.3, 0.22];
    if (y <= 180 || x < 30 || x > 230) return screen;
    return x < 125 ? [0.015, 0.075, 0.04] : x > 135 ? [0.05, 0.16, 0.03] : [0.5, 0.3, 0.22];
  };
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) data.set(colourAt(x - right, y).map(encode), (y * WIDTH + x) * 3);
  return { width: WIDTH, height: HEIGHT, channels: 3, data };
}
function cut(
  frame: EncodedRaster,
  guidance: Guidance,
): { alpha: (x: number, y: number) => number; quality: Quality; data: EncodedRaster['data'] } {
  const result = cutFrame(frame, defaultRecipe, guidance);
  if (!result.ok) throw new Error(result.reason);
  return {
    alpha: (x, y) => result.cutout.data[(y * WIDTH + x) * 4 + 3],
    quality: result.quality,
    data: result.cutout.data,
  };
}

describe('cutting under guidance', () => {
  test('one verdict takes one patch and changes nothing else, here and on another frame of the subject', () => {
    const plain = cut(twoCloths(), noGuidance);
    expect(plain.quality.ledger.filter(({ verdict }) => verdict === 'keep').length).toBeGreaterThanOrEqual(2);
    expect([plain.alpha(80, 300), plain.alpha(180, 300)]).toEqual([255, 255]);
    const left = plain.quality.ledger.find(({ centre }) => centre.x < 0.4 && centre.y > 0.5);
    if (!left) throw new Error('no patch on the left');
    const guidance: Guidance = { masks: [], verdicts: [verdictOn(left, false)], touches: [], departures: [] };
    const judged = cut(twoCloths(), guidance);
    expect(judged.quality.ledger.filter(({ byHand }) => byHand)).toHaveLength(1);
    expect(judged.alpha(180, 300)).toBe(255);
    let elsewhere = 0;
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 150; x < WIDTH; x++) if (judged.alpha(x, y) !== plain.alpha(x, y)) elsewhere++;
    expect(elsewhere).toBe(0);
    const moved = cut(twoCloths(18), guidance);
    expect(moved.quality.ledger.filter(({ byHand }) => byHand).map(({ verdict }) => verdict)).toEqual(['remove']);
    expect(moved.alpha(198, 300)).toBe(255);
  });
  test('masks win over everything', () => {
    const { alpha } = cut(twoCloths(), {
      masks: [
        { effect: 'clear', polygon: square(0, 0.3, 0.3, 0.4) },
        { effect: 'solid', polygon: square(0.85, 0.1, 0.95, 0.2) },
      ],
      verdicts: [],
      touches: [],
      departures: [],
    });
    expect(alpha(80, 140)).toBe(0);
    expect(alpha(270, 60)).toBe(255);
    expect(alpha(270, 120)).toBe(0);
    expect(alpha(110, 140)).toBe(255);
  });
});
