import { linearToOklab } from '../colour/oklab.ts';
import type { LinearRaster } from '../image/raster.ts';
import type { Rgb } from '../plan/exposure.ts';
import { linearOf } from '../plan/wardrobe.ts';
import type { Box } from './box.ts';

/**
 * Our own colour chart, to be printed or shown by the stand-in camera: six across, four down, the greys below; six
 * hex digits each.
 */
export const chartColours = [
  ['b8402f', 'c98a1e', '8c9a2b', '2f8f86', '3b5fa8', '8a4a92'],
  ['e3a79b', 'e6cf95', 'c3d5a0', 'a3d2cf', 'a9bfe3', 'd3b1d8'],
  ['f0cdb4', 'd3a183', 'a8744f', '744a2f', '4f4138', '59664f'],
  ['f2f2f2', 'c6c6c6', '9a9a9a', '6e6e6e', '464646', '222222'],
] as const;
/** Share of a patch's pitch that is margin, all round the chart and between patches. */
export const CHART_MARGIN = 0.14;

export interface ChartReading extends Box {
  /** Gains that make the middle greys what they should be, green 1, and the exposure they ask for, stops. */
  gains: Rgb;
  stops: number;
  /** Distance of the patches from what they should be after that, OKLab × 100: mean and worst. */
  mean: number;
  worst: number;
  /** Row and column of the worst patch, from 0 at the top left. */
  worstAt: [number, number];
}

/** @returns undefined where the greys of the chart's last row do not fall from light to dark. */
export function readChart({ width, height, data }: LinearRaster, box: Box): ChartReading | undefined {
  const seen = chartColours.map((row, j) => row.map((_, i) => patchMean(data, width, height, box, i, j)));
  const greys = seen[3];
  if (!greys.every((grey, i) => i === 0 || grey[1] < greys[i - 1][1])) return undefined;
  const want = chartColours.map((row) => row.map((hex) => linearOf(hex)));
  // The lightest may clip and the darkest is mostly stray light.
  const gain = [0, 1, 2].map(
    (c) => [1, 2, 3, 4].reduce((sum, i) => sum + want[3][i][c] / Math.max(1e-4, greys[i][c]), 0) / 4,
  );
  let mean = 0;
  let worst = 0;
  let worstAt: [number, number] = [0, 0];
  seen.forEach((row, j) =>
    row.forEach((rgb, i) => {
      const [l, a, b] = linearToOklab(rgb[0] * gain[0], rgb[1] * gain[1], rgb[2] * gain[2]);
      const [wl, wa, wb] = linearToOklab(...want[j][i]);
      const apart = 100 * Math.hypot(l - wl, a - wa, b - wb);
      mean += apart / 24;
      if (apart <= worst) return;
      worst = apart;
      worstAt = [j, i];
    }),
  );
  return { ...box, gains: [gain[0] / gain[1], 1, gain[2] / gain[1]], stops: Math.log2(gain[1]), mean, worst, worstAt };
}

/** Mean of the middle half of one patch, linear. */
function patchMean(data: Float32Array, width: number, height: number, box: Box, column: number, row: number): Rgb {
  const pitchX = box.width / (6 + CHART_MARGIN);
  const pitchY = box.height / (4 + CHART_MARGIN);
  const x = box.x + pitchX * (column + CHART_MARGIN / 2 + 0.5);
  const y = box.y + pitchY * (row + CHART_MARGIN / 2 + 0.5);
  const sum: Rgb = [0, 0, 0];
  let count = 0;
  for (let py = Math.floor((y - pitchY / 4) * height); py < (y + pitchY / 4) * height; py++) {
    for (let px = Math.floor((x - pitchX / 4) * width); px < (x + pitchX / 4) * width; px++) {
      if (px < 0 || py < 0 || px >= width || py >= height) continue;
      for (let c = 0; c < 3; c++) sum[c] += data[(py * width + px) * 3 + c];
      count++;
    }
  }
  return sum.map((v) => v / Math.max(1, count)) as Rgb;
}
