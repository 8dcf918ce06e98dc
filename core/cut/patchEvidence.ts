import { lengthOf } from '../image/length.ts';
import type { LinearRaster, Mask } from '../image/raster.ts';
import type { Point } from '../screen/outline.ts';
import { medianOf, quantileOf } from '../screen/statistics.ts';
import type { PatchEvidence } from './greenPatch.ts';
import { chromaFlare, mostScreenIn } from './mostScreen.ts';
import { firstBeside, secondBeside, type Channel } from '../colour/channels.ts';

/** Distance of a pixel's chromaticity (red and blue as shares of the sum) from the screen's there. */
export function chromaApart(f: Float32Array, b: Float32Array, p: number): number {
  const i = p * 3;
  const sumF = f[i] + f[i + 1] + f[i + 2] + 1e-5;
  const sumB = b[i] + b[i + 1] + b[i + 2] + 1e-5;
  return lengthOf(f[i] / sumF - b[i] / sumB, f[i + 2] / sumF - b[i + 2] / sumB);
}

/** What speaks for and against a patch: see PatchEvidence. @param pixels of the patch. */
export function evidenceOf(
  frame: LinearRaster,
  screen: LinearRaster,
  clear: Mask,
  rough: Float32Array,
  pixels: Int32Array,
  atBorder: boolean,
  channel: Channel,
): PatchEvidence {
  const { width } = frame;
  const f = frame.data;
  const b = screen.data;
  const [one, other] = [firstBeside[channel], secondBeside[channel]];
  const most: number[] = [];
  const leaning: number[] = [];
  const remainder: number[] = [];
  const levels: { level: number; apart: number }[] = [];
  let apart = 0;
  let atScreen = false;
  for (const p of pixels) {
    const i = p * 3;
    const sumF = f[i] + f[i + 1] + f[i + 2] + 1e-5;
    const sumB = b[i] + b[i + 1] + b[i + 2] + 1e-5;
    const distance = chromaApart(f, b, p);
    apart += distance / pixels.length;
    const u = mostScreenIn(f, b, p);
    const rest = [0, 1, 2].map((c) => Math.max(0, f[i + c] - u * b[i + c]) / Math.max(0.05, 1 - u));
    const brightest = Math.max(...rest);
    most.push(u);
    leaning.push((rest[channel] - Math.max(rest[one], rest[other])) / (brightest + chromaFlare));
    remainder.push(brightest);
    levels.push({ level: Math.log(sumF / sumB), apart: distance });
    if (!atScreen)
      atScreen =
        clear.data[p - 1] === 1 ||
        clear.data[p + 1] === 1 ||
        clear.data[p - width] === 1 ||
        clear.data[p + width] === 1;
  }
  levels.sort((a, c) => a.level - c.level);
  const dark = levels.slice(0, Math.max(1, levels.length / 5));
  const at = (share: number): number => levels[Math.min(levels.length - 1, Math.floor(share * levels.length))].level;
  return {
    apart,
    mostScreen: medianOf(most),
    leaning: medianOf(leaning),
    remainder: medianOf(remainder),
    rough: quantileOf(
      Array.from(pixels, (p) => rough[p]),
      0.5,
    ),
    darkApart: dark.reduce((sum, one) => sum + one.apart, 0) / dark.length,
    spread: (at(0.84) - at(0.16)) / 2,
    atScreen,
    atBorder,
  };
}

/** Middle of a patch, shares of the frame, and its mean chromaticity: red and blue as shares of the sum. */
export function middleOf(
  { width, height, data }: LinearRaster,
  pixels: Int32Array,
): { centre: Point; chroma: [number, number] } {
  let x = 0;
  let y = 0;
  const sum = [0, 0, 0];
  for (const p of pixels) {
    x += (p % width) + 0.5;
    y += ((p / width) | 0) + 0.5;
    for (let c = 0; c < 3; c++) sum[c] += data[p * 3 + c];
  }
  const whole = sum[0] + sum[1] + sum[2] + 1e-9;
  return {
    centre: { x: x / pixels.length / width, y: y / pixels.length / height },
    chroma: [sum[0] / whole, sum[2] / whole],
  };
}

/** Left, top, right and bottom of pixels, the latter two exclusive. */
export function boxAround(pixels: Int32Array, width: number): [number, number, number, number] {
  let left = Infinity;
  let top = Infinity;
  let right = 0;
  let bottom = 0;
  for (const p of pixels) {
    const x = p % width;
    const y = (p / width) | 0;
    left = Math.min(left, x);
    top = Math.min(top, y);
    right = Math.max(right, x + 1);
    bottom = Math.max(bottom, y + 1);
  }
  return [left, top, right, bottom];
}
