import { expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { fringeOn, fringeSamples, USUAL_SCREEN, type ColourDifference, type FringeScene } from './fringe.ts';
import { fringeStep, fringeWords } from './fringeWords.ts';
import { noColourStep } from './match.ts';

const size = { width: 40, height: 40 };
const placement = { x: 0.5, y: 1, height: 1 };
/** A cut that is solid left of `from`, clear right of it, and half covered over `wide` pixels between. */
function cutOf(from: number, wide: number, tone: number): EncodedRaster {
  const data = new Uint8Array(40 * 40 * 4);
  for (let p = 0; p < 1600; p++) {
    const x = p % 40;
    data.set([tone, tone, tone, x < from ? 255 : x < from + wide ? 128 : 0], 4 * p);
  }
  return { ...size, channels: 4, data };
}
const plain = (tone: number): EncodedRaster => ({ ...size, channels: 3, data: new Uint8Array(4800).fill(tone) });
/** In steps of cube roots, as the eye has it roughly. */
const steps: ColourDifference = (a, b) =>
  Math.hypot(...Array.from(a, (v, c) => 100 * (Math.cbrt(Math.max(0, v)) - Math.cbrt(Math.max(0, b[c])))));
const on = (background: EncodedRaster): FringeScene => ({
  screen: USUAL_SCREEN,
  cut: size,
  background,
  on: size,
  placement,
});
const seen = (cut: EncodedRaster, tone: number): number => fringeOn(fringeSamples(cut), on(plain(tone)), steps);

test('a hard outline has no fringe, and a wider one more', () => {
  expect(seen(cutOf(20, 0, 90), 20)).toBe(0);
  const widths = [1, 2, 4].map((wide) => seen(cutOf(20, wide, 90), 20));
  expect(widths[1] / widths[0]).toBeCloseTo(2, 1);
  expect(widths[2] / widths[0]).toBeCloseTo(4, 1);
});

test('dark hair shows more of the screen on black than on a grey like the screen’s', () => {
  expect(seen(cutOf(20, 4, 40), 10)).toBeGreaterThan(1.3 * seen(cutOf(20, 4, 40), 120));
});

test('what lies outside of the picture is not seen; mirrored, the other side is looked at', () => {
  const samples = fringeSamples(cutOf(34, 2, 90));
  const at = (x: number, mirrored = false) =>
    fringeOn(samples, { ...on(plain(10)), placement: { ...placement, x }, mirrored }, steps);
  expect(at(0.8)).toBe(0);
  expect(at(0.8, true)).toBeGreaterThan(0);
  expect(at(0.2)).toBeCloseTo(at(0.5), 6);
});

test('it is looked at as both will be: matched, and on the side of the background that lies there', () => {
  const samples = fringeSamples(cutOf(20, 4, 40));
  const halves = plain(10);
  for (let p = 0; p < 1600; p++) if (p % 40 >= 20) halves.data.fill(120, 3 * p, 3 * p + 3);
  const [dark, grey] = [10, 120].map((tone) => fringeOn(samples, on(plain(tone)), steps));
  expect(fringeOn(samples, on(halves), steps)).toBeCloseTo(grey, 6);
  expect(fringeOn(samples, { ...on(halves), mirrorBackground: true }, steps)).toBeCloseTo(dark, 6);
  const darker = { ...noColourStep, gain: [0.2, 0.2, 0.2] as [number, number, number] };
  expect(fringeOn(samples, { ...on(plain(120)), behind: darker }, steps)).toBeGreaterThan(grey);
  // Darkened with the person, what is left of the screen shows less on black.
  expect(fringeOn(samples, { ...on(plain(10)), person: darker }, steps)).toBeLessThan(dark);
});

test('16 bit are sampled as 8 bit are', () => {
  const cut = cutOf(20, 3, 77);
  const deep = { ...cut, data: Uint16Array.from(cut.data, (v) => v * 257) };
  expect(fringeSamples(deep)).toEqual(fringeSamples(cut));
});

test('every amount has its word', () => {
  expect([0, 60, 100, 1000].map((amount) => fringeWords[fringeStep(amount)].words)).toEqual([
    'hardly seen',
    'a little',
    'seen',
    'plainly seen',
  ]);
});
