import { describe, expect, test } from 'vitest';
import { createLinear, type LinearRaster } from '../image/raster.ts';
import { gaussian, seededRandom } from '../random.ts';
import { fitScreenModel, gatherPlate, surveyScreen, type Survey } from './index.ts';
import { findShift, shifted } from './plate.ts';

const WIDTH = 240;
const HEIGHT = 300;

/**
 * A creased screen seen by a camera moved by (dx, dy), under a light `level`; with somebody before it, if asked, in
 * the middle or at a place.
 */
function screen(
  dx: number,
  dy: number,
  level: (x: number) => number,
  person: boolean | number = false,
  seed = 1,
): LinearRaster {
  const out = createLinear(WIDTH, HEIGHT);
  const random = seededRandom(seed);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const u = x - dx;
      const v = y - dy;
      const crease = 1 + 0.12 * Math.sin(u / 7 + v / 23) * Math.sin(v / 11) + 0.05 * Math.sin(u / 4) * Math.sin(v / 5);
      const covered = person !== false && Math.abs(x - (person === true ? 120 : person)) < 45 && y > 90;
      const colour = covered ? [0.4, 0.25, 0.2] : [0.07, 0.4, 0.09].map((c) => c * crease * level(x / WIDTH));
      for (let c = 0; c < 3; c++) out.data[(y * WIDTH + x) * 3 + c] = colour[c] * (1 + 0.01 * gaussian(random));
    }
  }
  return out;
}
function surveyOf(frame: LinearRaster): Survey {
  const survey = surveyScreen(frame);
  if (!survey) throw new Error('no screen');
  return survey;
}

describe('a plate', () => {
  test.each([
    [0, 0],
    [3, -2],
    [-1.5, 2.25],
    [0.4, -0.3],
  ])('of a camera knocked by %f, %f pixels is laid under the frame', (dx, dy) => {
    const frame = screen(dx, dy, () => 1, true);
    const shift = findShift(
      frame,
      screen(0, 0, () => 1, false, 2),
      surveyOf(frame),
    );
    expect(Math.abs(shift.x - dx)).toBeLessThan(0.35);
    expect(Math.abs(shift.y - dy)).toBeLessThan(0.35);
  });

  test('gives the screen behind the person, creases and all, though a lamp has drifted since', () => {
    const drifted = (x: number): number => 0.75 + 0.3 * x;
    const frame = screen(2, 1, drifted, true);
    const survey = surveyOf(frame);
    const plate = screen(0, 0, () => 1, false, 2);
    const truth = screen(2, 1, drifted, false, 3);
    const errorOf = (model: LinearRaster): number => {
      let sum = 0;
      let count = 0;
      for (let y = 120; y < 290; y++)
        for (let x = 80; x < 160; x++, count++)
          sum += Math.abs(model.data[(y * WIDTH + x) * 3 + 1] / truth.data[(y * WIDTH + x) * 3 + 1] - 1);
      return sum / count;
    };
    const withPlate = errorOf(fitScreenModel(frame, survey, shifted(plate, findShift(frame, plate, survey))).screen);
    expect(withPlate).toBeLessThan(0.03);
    expect(withPlate).toBeLessThan(errorOf(fitScreenModel(frame, survey).screen) / 2);
  });

  test('put together from frames shows what each of them covers', () => {
    const frame = screen(0, 0, () => 1, 120);
    const truth = screen(0, 0, () => 1, false, 9);
    // Knocked, under a lamp that drifts, and with the person elsewhere.
    const others = [screen(2, -1, () => 0.9, 60, 2), screen(-1, 1, () => 1.08, 180, 3), screen(0, 0, () => 1, 30, 4)];
    const errorOf = (model: LinearRaster | undefined): number => {
      if (!model) return Infinity;
      let sum = 0;
      let count = 0;
      for (let y = 120; y < 290; y++)
        for (let x = 80; x < 160; x++, count++)
          sum += Math.abs(model.data[(y * WIDTH + x) * 3 + 1] / truth.data[(y * WIDTH + x) * 3 + 1] - 1);
      return sum / count;
    };
    const gathered = gatherPlate([frame, ...others]);
    expect(gathered?.used).toBe(4);
    expect(gathered?.seen).toBeGreaterThan(0.97);
    expect(errorOf(gathered?.plate)).toBeLessThan(0.035);
    expect(errorOf(gathered?.plate)).toBeLessThan(errorOf(fitScreenModel(frame, surveyOf(frame)).screen) / 2);
  });

  test('one frame alone gives what fitting it gives; none with a screen gives none; sizes must agree', () => {
    const frame = screen(0, 0, () => 1, true);
    expect(gatherPlate([frame])?.used).toBe(1);
    expect(gatherPlate([{ ...createLinear(40, 30), data: new Float32Array(3600).fill(0.3) }])).toBeUndefined();
    expect(gatherPlate([])).toBeUndefined();
    expect(() => gatherPlate([frame, createLinear(10, 10)])).toThrow('frames: expected');
  });

  test('moving by nothing gives the same picture', () => {
    const plate = screen(0, 0, () => 1);
    expect(shifted(plate, { x: 0, y: 0 })).toBe(plate);
  });
});
