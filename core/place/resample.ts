import { linearTable } from '../colour/transfer.ts';
import { whiteLevel, type EncodedRaster } from '../image/raster.ts';
import { placedRectangle, type Placement, type Size } from './placement.ts';

/**
 * Resamples a placed cut (RGBA, straight alpha) to the rows of a picture, with a tent as wide as the reduction and the
 * wanted blur ask for, on premultiplied linear values, so that edges neither darken nor glow.
 * @param target size of that picture.
 * @param blur standard deviation in pixels of that picture.
 * @param take is given each row that the cut reaches: its number, the first column, and premultiplied linear RGBA from
 *   there on; the array is used again for the next row.
 */
export function forPlacedRows(
  cutout: EncodedRaster,
  target: Size,
  placement: Placement,
  { blur = 0, mirrored = false }: { blur?: number; mirrored?: boolean },
  take: (y: number, first: number, row: Float32Array) => void,
): void {
  const rectangle = placedRectangle(cutout, target, placement);
  const columns = tentWeights(rectangle.left, rectangle.width, target.width, cutout.width, blur);
  const rows = tentWeights(rectangle.top, rectangle.height, target.height, cutout.height, blur);
  if (columns.first >= columns.end || rows.first >= rows.end) return;
  const span = columns.end - columns.first;
  const cache = new Map<number, Float32Array>();
  const spare: Float32Array[] = [];
  const sum = new Float32Array(span * 4);
  for (let y = rows.first; y < rows.end; y++) {
    const r = y - rows.first;
    const start = rows.start[r];
    for (const [row, line] of cache) {
      if (row >= start) continue;
      cache.delete(row);
      spare.push(line);
    }
    sum.fill(0);
    for (let k = 0; k < rows.taps; k++) {
      const w = rows.weight[r * rows.taps + k];
      if (w === 0) continue;
      let line = cache.get(start + k);
      if (!line) {
        line = spare.pop() ?? new Float32Array(span * 4);
        resampleRow(cutout, start + k, columns, mirrored, line);
        cache.set(start + k, line);
      }
      for (let i = 0; i < sum.length; i++) sum[i] += w * line[i];
    }
    take(y, columns.first, sum);
  }
}

/** For each target pixel first…end: where its source samples start, and their weights (they sum to at most 1). */
interface Weights {
  first: number;
  end: number;
  taps: number;
  start: Int32Array;
  weight: Float32Array;
}

function tentWeights(offset: number, size: number, targetSize: number, sourceSize: number, blur: number): Weights {
  const first = Math.max(0, Math.floor(offset));
  const end = Math.max(first, Math.min(targetSize, Math.ceil(offset + size)));
  const ratio = sourceSize / size;
  // A tent of half width r blurs by r ÷ √6.
  const reach = Math.hypot(Math.max(1, ratio), Math.sqrt(6) * blur * ratio);
  const taps = Math.ceil(2 * reach) + 1;
  const start = new Int32Array(end - first);
  const weight = new Float32Array((end - first) * taps);
  for (let t = first; t < end; t++) {
    const centre = (t + 0.5 - offset) * ratio - 0.5;
    const from = Math.ceil(centre - reach);
    start[t - first] = from;
    let total = 0;
    const within = (s: number): boolean => s >= 0 && s < sourceSize;
    // Whoever is cut off by the frame's side is not softened towards it.
    for (let k = 0; k < taps; k++)
      if (blur === 0 || within(from + k)) total += Math.max(0, 1 - Math.abs(from + k - centre) / reach);
    for (let k = 0; k < taps; k++) {
      // Beyond the frame there is nothing, except that a frame's own edge pixel covers its whole pixel.
      const s = from + k;
      if (!within(s)) continue;
      weight[(t - first) * taps + k] = Math.max(0, 1 - Math.abs(s - centre) / reach) / total;
    }
  }
  return { first, end, taps, start, weight };
}

/** One source row, resampled to the target columns: premultiplied linear RGBA. */
function resampleRow(
  cutout: EncodedRaster,
  row: number,
  columns: Weights,
  mirrored: boolean,
  line: Float32Array,
): void {
  const { width, data } = cutout;
  const table = linearTable(data);
  const white = whiteLevel(cutout);
  const { taps, start, weight } = columns;
  for (let x = 0, o = 0; x < start.length; x++, o += 4) {
    let r = 0;
    let g = 0;
    let b = 0;
    let a = 0;
    for (let k = 0; k < taps; k++) {
      const w = weight[x * taps + k];
      if (w === 0) continue;
      const s = start[x] + k;
      const i = (row * width + (mirrored ? width - 1 - s : s)) * 4;
      const alpha = (w * data[i + 3]) / white;
      if (alpha === 0) continue;
      r += alpha * table[data[i]];
      g += alpha * table[data[i + 1]];
      b += alpha * table[data[i + 2]];
      a += alpha;
    }
    line[o] = r;
    line[o + 1] = g;
    line[o + 2] = b;
    line[o + 3] = a;
  }
}
