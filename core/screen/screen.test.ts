import { describe, expect, test } from 'vitest';
import { createLinear, type LinearRaster } from '../image/raster.ts';
import { gaussian, seededRandom } from '../random.ts';
import { fitScreenModel } from './screenModel.ts';
import { fitSurface, evaluateSurface, surfaceAlongRow } from './polynomial.ts';
import { surveyScreen } from './survey.ts';

/** A screen with uneven light and a block of another colour in front. */
function scene(
  colour: [number, number, number],
  block: [number, number, number],
  noise = 0,
): { frame: LinearRaster; screen: LinearRaster; covered: (p: number) => boolean } {
  const width = 160;
  const height = 200;
  const frame = createLinear(width, height);
  const screen = createLinear(width, height);
  const random = seededRandom(1);
  const covered = (p: number): boolean => Math.abs((p % width) - 80) < 32 && Math.floor(p / width) > 60;
  for (let p = 0; p < width * height; p++) {
    const u = (p % width) / width;
    const v = Math.floor(p / width) / height;
    const level = 0.7 + 0.6 * u - 0.25 * v * v;
    for (let c = 0; c < 3; c++) {
      screen.data[p * 3 + c] = colour[c] * level;
      frame.data[p * 3 + c] = Math.max(
        0,
        (covered(p) ? block[c] : screen.data[p * 3 + c]) * (1 + noise * gaussian(random)),
      );
    }
  }
  return { frame, screen, covered };
}

const skin: [number, number, number] = [0.5, 0.3, 0.22];

describe('surveyScreen', () => {
  test.each([
    ['green', [0.08, 0.42, 0.1]],
    ['green', [0.2, 0.5, 0.12]],
    ['blue', [0.05, 0.12, 0.5]],
  ] as ['green' | 'blue', [number, number, number]][])('names a %s screen', (name, colour) => {
    const survey = surveyScreen(scene(colour, skin, 0.03).frame);
    expect(survey?.screen).toBe(name);
    expect(survey?.share).toBeGreaterThan(0.6);
    expect(survey?.share).toBeLessThan(0.8);
  });
  test('finds none where there is none', () => {
    expect(surveyScreen(scene([0.4, 0.41, 0.4], skin).frame)).toBeUndefined();
    expect(surveyScreen(scene([0.004, 0.012, 0.004], skin).frame)).toBeUndefined();
  });
});

describe('fitScreenModel', () => {
  test.each([0, 0.03])('carries uneven light behind the person, noise %f', (noise) => {
    const { frame, screen, covered } = scene([0.08, 0.42, 0.1], skin, noise);
    const survey = surveyScreen(frame);
    if (!survey) throw new Error('no screen');
    const model = fitScreenModel(frame, survey);
    let worst = 0;
    let missed = 0;
    for (let p = 0; p < frame.width * frame.height; p++) {
      if (covered(p)) {
        worst = Math.max(worst, Math.abs(model.screen.data[p * 3 + 1] / screen.data[p * 3 + 1] - 1));
        expect(model.clear.data[p]).toBe(0);
      } else if (!model.clear.data[p]) missed++;
    }
    expect(worst).toBeLessThan(0.12);
    expect(missed / (frame.width * frame.height)).toBeLessThan(0.05);
  });
  test('does not learn a bottle-green shirt as screen', () => {
    const { frame, screen, covered } = scene([0.08, 0.42, 0.1], [0.015, 0.08, 0.045]);
    const survey = surveyScreen(frame);
    if (!survey) throw new Error('no screen');
    const model = fitScreenModel(frame, survey);
    for (let p = 0; p < frame.width * frame.height; p += 7) {
      if (!covered(p)) continue;
      expect(model.clear.data[p]).toBe(0);
      expect(model.screen.data[p * 3 + 1] / screen.data[p * 3 + 1]).toBeGreaterThan(0.85);
    }
  });
});

test('a cubic surface is recovered, and a row of it agrees with the whole', () => {
  const truth = Float64Array.from([0.3, -0.2, 0.1, 0.05, 0.02, -0.1, 0.04, -0.03, 0.02, 0.01]);
  const points: number[] = [];
  for (let x = -1; x <= 1; x += 0.1)
    for (let y = -1; y <= 1; y += 0.1) points.push(x, y, evaluateSurface(truth, x, y), 1);
  const fitted = fitSurface(Float64Array.from(points));
  const [a, b, c, d] = surfaceAlongRow(fitted, 0.4);
  for (const x of [-0.9, 0.1, 0.7]) {
    expect(evaluateSurface(fitted, x, 0.4)).toBeCloseTo(evaluateSurface(truth, x, 0.4), 2);
    expect(a + x * (b + x * (c + x * d))).toBeCloseTo(evaluateSurface(fitted, x, 0.4), 9);
  }
});
