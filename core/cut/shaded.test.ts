import { describe, expect, test } from 'vitest';
import { createLinear, createPlane } from '../image/raster.ts';
import { encoderFor } from '../colour/transfer.ts';
import { gaussian, seededRandom } from '../random.ts';
import { cutFrame, defaultRecipe, noGuidance } from './index.ts';
import { prepareFrame } from './prepare.ts';
import { shadedIn } from './shaded.ts';

const SCREEN = [0.03, 0.3, 0.07] as const;

describe('shadow by colour', () => {
  const row = (...colours: (readonly number[])[]) => {
    const frame = createLinear(colours.length, 1);
    colours.forEach((colour, x) => frame.data.set(colour, x * 3));
    return frame;
  };
  const lit = row(SCREEN, SCREEN, SCREEN, SCREEN);
  const half = SCREEN.map((v) => v / 2);
  const frame = row(
    half,
    [0.15, 0.14, 0.12],
    SCREEN.map((v) => 1.5 * v),
    SCREEN.map((v) => v / 30),
  );

  test('the screen’s colour at less light is one; another colour, more light and next to none are not', () => {
    const { dark } = shadedIn(frame, lit, new Float32Array(4), 0, 0.002);
    expect([...dark.data]).toEqual([1, 0, 0, 0]);
  });

  test('strands are uneven, noise in the dark is not', () => {
    const rough = new Float32Array(4).fill(0.05);
    const smooth = (grain: number): number => shadedIn(frame, lit, rough, grain, 0.002).smooth.data[0];
    expect(smooth(0)).toBe(0);
    expect(smooth(0.01)).toBe(0);
    expect(smooth(0.04)).toBe(1);
  });
});

describe('a hard shadow beside the person', () => {
  const [width, height] = [300, 260];
  const isPerson = (x: number, y: number): boolean => x > 120 && x < 190 && y > 50;
  /** Whoever stands there in light cloth throws a shadow, 40 pixels wide, to the left. */
  const isShaded = (x: number, y: number): boolean => x > 80 && x <= 120 && y > 60;
  const random = seededRandom(11);
  const data = new Uint8Array(width * height * 3);
  const encode = encoderFor(data);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++) {
        const light = isPerson(x, y) ? [0.3, 0.24, 0.2][c] : SCREEN[c] * (isShaded(x, y) ? 0.42 : 1) * 0.5;
        data[(y * width + x) * 3 + c] = encode(Math.max(0, light + 0.001 * gaussian(random)));
      }
  const photograph = { width, height, channels: 3 as const, data };
  const persons = createPlane(width, height);
  persons.data.forEach((_, p) => (persons.data[p] = isPerson(p % width, Math.floor(p / width)) ? 1 : 0));

  test('goes up to the outline, and the screen behind is known as it is lit there', () => {
    const prepared = prepareFrame(photograph, { persons });
    if (!prepared) throw new Error('no screen');
    const at = (x: number, y: number): number => y * prepared.reduced.width + x;
    expect(prepared.factor).toBe(1);
    expect(prepared.shadow.data[at(100, 180)]).toBe(1);
    expect(prepared.shadow.data[at(250, 180)] + prepared.shadow.data[at(150, 180)]).toBe(0);
    const there = prepared.screen.data[at(116, 180) * 3 + 1];
    expect(there / (0.5 * SCREEN[1])).toBeGreaterThan(0.3);
    expect(there / (0.5 * SCREEN[1])).toBeLessThan(0.6);
    const result = cutFrame(photograph, defaultRecipe, noGuidance, { persons });
    if (!result.ok) throw new Error(result.reason);
    const alpha = (x: number, y: number): number => result.cutout.data[at(x, y) * 4 + 3];
    for (const y of [100, 150, 200, 240]) {
      for (const x of [70, 90, 110, 117]) expect(alpha(x, y), `${x}, ${y}`).toBeLessThan(30);
      for (const x of [126, 150, 180]) expect(alpha(x, y), `${x}, ${y}`).toBe(255);
    }
  });
});
