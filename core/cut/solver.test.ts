import { describe, expect, test } from 'vitest';
import { seededRandom } from '../random.ts';
import { PixelSolver } from './solver.ts';

type Rgb = [number, number, number];
const field = (colour: Rgb): { data: Float32Array } => ({ data: Float32Array.from(colour) });
const mixture = (a: number, F: Rgb, B: Rgb): Float32Array => Float32Array.from(F, (f, c) => a * f + (1 - a) * B[c]);
const green: Rgb = [0.08, 0.42, 0.1];
const blue: Rgb = [0.05, 0.1, 0.45];
const foregrounds: [string, Rgb][] = [
  ['skin', [0.5, 0.3, 0.22]],
  ['dark hair', [0.03, 0.02, 0.015]],
  ['fair hair', [0.55, 0.42, 0.2]],
  ['red cloth', [0.5, 0.04, 0.05]],
  ['white', [0.8, 0.8, 0.78]],
];
const SIGMA = 0.012;

describe('PixelSolver', () => {
  test.each(foregrounds)('%s over green and blue: mixes of known colours are recovered to one step of 255', (_, F) => {
    let worst = 0;
    for (const B of [green, blue]) {
      const solver = new PixelSolver(SIGMA, 1);
      for (let a = 0; a <= 1.0001; a += 0.05)
        worst = Math.max(worst, Math.abs(solver.coverage(mixture(a, F, B), Float32Array.from(B), [field(F)], 0) - a));
    }
    expect(worst).toBeLessThan(1 / 255);
  });

  test('among wrong candidates the right one decides', () => {
    const solver = new PixelSolver(SIGMA, 3);
    let worst = 0;
    for (const a of [0.1, 0.3, 0.5, 0.7, 0.9])
      worst = Math.max(
        worst,
        Math.abs(
          solver.coverage(
            mixture(a, [0.5, 0.3, 0.22], green),
            Float32Array.from(green),
            [field([0.02, 0.02, 0.2]), field([0.5, 0.3, 0.22]), field([0.6, 0.05, 0.05])],
            0,
          ) - a,
        ),
      );
    expect(worst).toBeLessThan(0.03);
  });

  test('what is lighter than the screen covers at least as much as white would, though no candidate knows it', () => {
    const solver = new PixelSolver(SIGMA, 1);
    const coverage = (I: Rgb, B: Rgb): number =>
      solver.coverage(Float32Array.from(I), Float32Array.from(B), [field([0.3, 0.18, 0.12])], 0);
    for (const a of [0.3, 0.5, 0.8])
      for (const B of [green, blue])
        // Lit three tenths more the screen could do some of it.
        expect(coverage([...mixture(a, [1, 1, 1], B)] as Rgb, B)).toBeGreaterThan(a - 0.06);
    // A hot place and a crease of the screen prove nothing.
    for (const lit of [1.1, 1.25])
      for (const B of [green, blue]) expect(coverage(B.map((v) => lit * v) as Rgb, B)).toBeLessThan(0.02);
  });

  test('before two plates of different colour both answers are that of triangulation', () => {
    const random = seededRandom(4);
    const solver = new PixelSolver(SIGMA, 1);
    let apart = 0;
    for (let n = 0; n < 200; n++) {
      const F = foregrounds[n % foregrounds.length][1];
      const a = random();
      const I = [mixture(a, F, green), mixture(a, F, blue)];
      // Coverage from two backgrounds (Smith and Blinn 1996, “Blue Screen Matting”, theorem 4).
      let product = 0;
      let square = 0;
      for (let c = 0; c < 3; c++) {
        product += (I[0][c] - I[1][c]) * (green[c] - blue[c]);
        square += (green[c] - blue[c]) ** 2;
      }
      const triangulated = 1 - product / square;
      [green, blue].forEach(
        (B, k) =>
          (apart = Math.max(
            apart,
            Math.abs(solver.coverage(I[k], Float32Array.from(B), [field(F)], 0) - triangulated),
          )),
      );
    }
    expect(apart).toBeLessThan(1 / 255);
  });

  test('the foreground is the candidate’s colour as bright as the reading, or the reading’s own where it is another', () => {
    const solver = new PixelSolver(SIGMA, 2);
    const F = new Float32Array(3);
    const candidates = [field([0.02, 0.02, 0.2]), field([0.5, 0.3, 0.22])];
    for (const a of [0.2, 0.5, 0.9]) {
      // Skin, a quarter darker than the candidate.
      solver.foreground(mixture(a, [0.375, 0.225, 0.165], green), Float32Array.from(green), a, candidates, 0, F);
      [0.375, 0.225, 0.165].forEach((v, c) => expect(F[c]).toBeCloseTo(v, 1));
    }
    // Red cloth that no candidate is like.
    solver.foreground(mixture(0.7, [0.5, 0.04, 0.05], green), Float32Array.from(green), 0.7, candidates, 0, F);
    [0.5, 0.04, 0.05].forEach((v, c) => expect(F[c]).toBeCloseTo(v, 3));
  });

  test('answers are finite and in range for any colours', () => {
    const random = seededRandom(9);
    const solver = new PixelSolver(SIGMA, 2);
    const any = (): Rgb => [random(), random() * random(), Math.floor(random() * 2)];
    let wrong = 0;
    for (let n = 0; n < 5000; n++) {
      const a = solver.coverage(
        Float32Array.from(any()),
        Float32Array.from(any()),
        [field(any()), field([0, 0, 0])],
        0,
      );
      if (!(a >= 0 && a <= 1) || !(solver.apart >= 0 && solver.apart <= 1)) wrong++;
    }
    expect(wrong).toBe(0);
  });
});
