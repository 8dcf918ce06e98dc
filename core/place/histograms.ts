import { luminance } from '../colour/luminance.ts';
import { linearTable, linearToSrgb } from '../colour/transfer.ts';
import { whiteLevel, type EncodedRaster } from '../image/raster.ts';
import type { Placement } from './placement.ts';
import { forPlacedRows } from './resample.ts';

/** Steps from black to white. */
export const STEPS = 64;

/** How much of the person and of what lies beside them is how bright; each sums to 1, or is all nought of nothing. */
export interface Histograms {
  person: number[];
  scene: number[];
}

/** Of a finished picture; brightness is that of the display, 0–1 in even steps. */
export function histogramsOf(
  picture: EncodedRaster & { channels: 3 },
  cutout: EncodedRaster,
  placement: Placement,
  mirrored: boolean,
): Histograms {
  const { width, height, data } = picture;
  const table = linearTable(data);
  const white = whiteLevel(picture);
  const steps = new Uint8Array(white + 1);
  // Of neutral tones the step is the display's own; colours go by their luminance.
  const stepOf = (linear: number): number => Math.min(STEPS - 1, Math.floor(linearToSrgb(linear) * STEPS));
  for (let v = 0; v <= white; v++) steps[v] = stepOf(table[v]);
  const covered = new Float32Array(width);
  const counts = { person: new Array<number>(STEPS).fill(0), scene: new Array<number>(STEPS).fill(0) };
  const countRow = (y: number): void => {
    for (let x = 0, i = y * width * 3; x < width; x++, i += 3) {
      const [r, g, b] = [data[i], data[i + 1], data[i + 2]];
      const step = r === g && g === b ? steps[r] : stepOf(luminance(table[r], table[g], table[b]));
      counts.person[step] += covered[x];
      counts.scene[step] += 1 - covered[x];
    }
    covered.fill(0);
  };
  let next = 0;
  forPlacedRows(cutout, picture, placement, { mirrored }, (y, first, row) => {
    for (; next < y; next++) countRow(next);
    for (let i = 3, x = first; i < row.length; i += 4, x++) covered[x] = Math.min(1, row[i]);
    countRow(y);
    next = y + 1;
  });
  for (; next < height; next++) countRow(next);
  const shares = (list: number[]): number[] => {
    const total = list.reduce((sum, v) => sum + v, 0);
    return total > 0 ? list.map((v) => v / total) : list;
  };
  return { person: shares(counts.person), scene: shares(counts.scene) };
}
