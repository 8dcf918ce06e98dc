import { describe, expect, test } from 'vitest';
import { encoderFor } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import { gaussian, seededRandom } from '../random.ts';
import { verdictOn, type HandMask } from './guidance.ts';
import { analyseFrame, analysePrepared, defaultRecipe, prepareFrame, Region, type Analysis } from './index.ts';

type Rgb = [number, number, number];
const WIDTH = 360;
const HEIGHT = 480;
const green: Rgb = [0.08, 0.42, 0.1];

/**
 * A person with a bottle-green shirt before a screen that ends `margin` pixels from the left edge; noise of the
 * camera, relative.
 */
function scene({ margin = 0, noise = 0 } = {}): EncodedRaster {
  const data = new Uint8Array(WIDTH * HEIGHT * 3);
  const encode = encoderFor(data);
  const random = seededRandom(4);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const head = Math.hypot(x - 180, y - 150) < 55;
      const shirt = y > 200 && Math.abs(x - 180) < 100;
      const colour: Rgb = shirt
        ? [0.015, 0.075, 0.04]
        : head
          ? [0.5, 0.3, 0.22]
          : x < margin
            ? [0.25, 0.24, 0.23]
            : green;
      for (let c = 0; c < 3; c++)
        data[(y * WIDTH + x) * 3 + c] = encode(Math.max(0, colour[c] * (1 + noise * gaussian(random))));
    }
  }
  return { width: WIDTH, height: HEIGHT, channels: 3, data };
}

function analysed(frame: EncodedRaster): Analysis {
  const analysis = analyseFrame(frame, defaultRecipe);
  if (!analysis) throw new Error('no screen');
  return analysis;
}

/** Whether two analyses hold the same, value for value. */
function same(a: Analysis, b: Analysis | undefined): boolean {
  if (!b) return false;
  const equal = (x: ArrayLike<number>, y: ArrayLike<number>): boolean => {
    if (x.length !== y.length) return false;
    for (let i = 0; i < x.length; i++) if (x[i] !== y[i]) return false;
    return true;
  };
  const planes = ({
    screen,
    regions,
    kept,
    dyed,
    sheer,
    solidity,
    outside,
    beyond,
    labels,
    candidates,
  }: Analysis): ArrayLike<number>[] =>
    [screen, regions, kept, dyed, sheer, solidity, outside, beyond, ...candidates]
      .map(({ data }) => data as ArrayLike<number>)
      .concat(labels);
  const other = planes(b);
  return (
    planes(a).every((plane, n) => equal(plane, other[n])) &&
    a.noise === b.noise &&
    JSON.stringify(a.patches) === JSON.stringify(b.patches)
  );
}

const polygon = [
  { x: 0.4, y: 0.6 },
  { x: 0.6, y: 0.6 },
  { x: 0.6, y: 0.8 },
  { x: 0.4, y: 0.8 },
];
const masks: HandMask[] = [
  { effect: 'clear', polygon },
  { effect: 'solid', polygon: polygon.map(({ x, y }) => ({ x: x - 0.35, y: y - 0.5 })) },
];

describe('a prepared frame', () => {
  const frame = scene({ noise: 0.02 });
  const prepared = prepareFrame(frame);
  if (!prepared) throw new Error('no screen');

  test('analysed again after other settings, masks and verdicts gives what it gave before', () => {
    const before = analysePrepared(prepared, defaultRecipe);
    const verdicts = [verdictOn(before.patches[0], false)];
    const guided = analysePrepared(
      prepared,
      { hairReach: 6, greenKeep: 0.2 },
      { masks, verdicts, touches: [], departures: [] },
    );
    expect(same(guided, before)).toBe(false);
    expect(same(analysePrepared(prepared, defaultRecipe), before)).toBe(true);
  });

  test('gives the same as the whole analysis, masks or not', () => {
    for (const guidance of [
      { masks: [], verdicts: [], touches: [], departures: [] },
      { masks, verdicts: [], touches: [], departures: [] },
    ])
      expect(
        same(analysePrepared(prepared, defaultRecipe, guidance), analyseFrame(frame, defaultRecipe, guidance)),
      ).toBe(true);
  });

  test('masks win over what is found', () => {
    const { regions } = analysePrepared(prepared, defaultRecipe, { masks, verdicts: [], touches: [], departures: [] });
    const region = (x: number, y: number): number =>
      regions.data[Math.round(y * regions.height) * regions.width + Math.round(x * regions.width)];
    expect(region(0.5, 0.7)).toBe(Region.clear);
    expect(region(0.15, 0.2)).toBe(Region.core);
  });
});

describe('what is found', () => {
  test.each([0, 0.02, 0.05])('noise of %f is read to a fifth', (noise) => {
    // Encoded values move by less than linear ones: by the curve's exponent, about 1 / 2.4, and its offset.
    const found = analysed(scene({ noise })).noise;
    if (noise === 0) expect(found).toBeLessThan(0.002);
    else expect(Math.abs(found / (noise / 2.25) - 1)).toBeLessThan(0.2);
  });

  test('a screen smaller than the frame: the wall beside it goes, the person before it stays', () => {
    const { outside, regions } = analysed(scene({ margin: 60 }));
    const place = (x: number, y: number): number =>
      Math.round((y / HEIGHT) * regions.height) * regions.width + Math.round((x / WIDTH) * regions.width);
    expect(outside.data[place(20, 60)]).toBe(1);
    expect(regions.data[place(20, 60)]).toBe(Region.clear);
    expect(outside.data[place(200, 60)]).toBe(0);
    expect(regions.data[place(180, 150)]).toBe(Region.core);
    expect(analysed(scene()).outside.data.includes(1)).toBe(false);
  });

  test('beyond the screen a hand says what is person and what goes', () => {
    const painted = (kind: 'person' | 'screen') =>
      analyseFrame(scene({ margin: 60 }), defaultRecipe, undefined, {}, [
        {
          ...{ id: 'a', at: 1, kind, on: true, size: 0.06, softness: 0, strength: 1, path: 'p' },
          line: { closed: false, points: [{ x: 20 / WIDTH, y: 60 / HEIGHT, pressure: 1 }] },
        },
      ]);
    const at = (analysis: Analysis | undefined, x: number, y: number): number =>
      analysis?.beyond.data[
        Math.round((y / HEIGHT) * analysis.regions.height) * analysis.regions.width +
          Math.round((x / WIDTH) * analysis.regions.width)
      ] ?? NaN;
    expect(at(painted('person'), 20, 60)).toBe(1);
    expect(at(painted('person'), 20, 160)).toBeLessThan(0.5);
    expect(at(painted('screen'), 20, 60)).toBe(0);
  });

  test('no screen, no analysis', () => {
    expect(
      analyseFrame({ width: 40, height: 40, channels: 3, data: new Uint8Array(4800).fill(120) }, defaultRecipe),
    ).toBeUndefined();
  });

  test('a plate of another size is refused by name', () => {
    const plate: EncodedRaster = { width: 100, height: 100, channels: 3, data: new Uint8Array(30000).fill(90) };
    expect(() => analyseFrame(scene(), defaultRecipe, undefined, { plate })).toThrow(
      /plate: expected the frame's size/,
    );
  });
});
