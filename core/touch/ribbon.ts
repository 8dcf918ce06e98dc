import { contours, lengthOfLoop, type Loop } from '../image/contour.ts';
import { sameDepth, type EncodedRaster } from '../image/raster.ts';

/** How deep a ribbon is, pixels of the frame inside and outside of the outline. */
export interface RibbonDepth {
  inside: number;
  outside: number;
  /** Pixels over which coverage is evened to find the outline, so that loose hair is one edge and not each strand. */
  over: number;
}

/** The outline of a cut, unrolled: column n of the strip lies across the outline at its n-th pixel of length. */
export interface Ribbon {
  /** RGBA of the cut; the outside is above. Its width is the outline's length, rounded for each line of it. */
  strip: EncodedRaster & { channels: 4 };
  /** x and y of the outline at each column, pixels of the frame. */
  outline: Float32Array;
  /** Columns at which another line of the outline begins. */
  begins: number[];
}

/** Coverage that counts as the outline. */
const LEVEL = 0.5;
/** Lines shorter than this, pixels, are specks and pores. */
const LEAST_LENGTH = 40;
/** Directions are taken over so many pixels to both sides, so that a jagged outline does not fan out. */
const EVEN = 4;

/**
 * Unrolls the outline of a cut, the outer one and that of every gap, the longest first. Where the frame's own border
 * cuts the person there is no outline.
 * @param cutout straight alpha.
 * @param shown another cut of the same frame, of the same size and depth, that is shown along that outline.
 */
export function ribbonOf(
  cutout: EncodedRaster & { channels: 4 },
  { inside, outside, over }: RibbonDepth,
  shown = cutout,
): Ribbon {
  const { width, height } = cutout;
  const lines = linesOf(cutout, over);
  const columns = lines.reduce((sum, line) => sum + line.length / 2, 0);
  const depth = inside + outside + 1;
  const data = sameDepth(cutout.data, columns * depth * 4);
  const outline = new Float32Array(columns * 2);
  const begins: number[] = [];
  const [pixels, unrolled] = [wordsOf(shown.data), wordsOf(data)];
  const wide = cutout.data instanceof Uint16Array ? 2 : 1;
  let column = 0;
  for (const line of lines) {
    begins.push(column);
    outline.set(line, column * 2);
    for (let n = 0; n < line.length / 2; n++, column++) {
      const [nx, ny] = inwardsAt(line, n);
      for (let d = 0; d < depth; d++) {
        const x = Math.floor(line[2 * n] + nx * (d - outside));
        const y = Math.floor(line[2 * n + 1] + ny * (d - outside));
        if (x < 0 || y < 0 || x >= width || y >= height) continue;
        const o = (d * columns + column) * wide;
        const i = (y * width + x) * wide;
        unrolled[o] = pixels[i];
        if (wide === 2) unrolled[o + 1] = pixels[i + 1];
      }
    }
  }
  return { strip: { width: columns, height: depth, channels: 4, data }, outline, begins };
}

/**
 * Another picture along an outline, as deep: column n lies across it at the same place as that of the ribbon.
 * @param columns how many, from the first on.
 * @param placeIn where a pixel of the frame lies in the picture, in its pixels; beyond it, its edge goes on.
 * @returns RGB of the picture's depth.
 */
export function alongOutline(
  picture: EncodedRaster & { channels: 3 | 4 },
  { outline, begins }: Pick<Ribbon, 'outline' | 'begins'>,
  { inside, outside }: RibbonDepth,
  columns: number,
  placeIn: (x: number, y: number) => readonly [number, number] = (x, y) => [x, y],
): EncodedRaster & { channels: 3 } {
  const depth = inside + outside + 1;
  const { width, height, channels } = picture;
  const data = sameDepth(picture.data, columns * depth * 3);
  const within = (v: number, size: number): number => Math.min(size - 1, Math.max(0, Math.floor(v)));
  begins.forEach((begin, k) => {
    const line = outline.subarray(2 * begin, 2 * (begins[k + 1] ?? outline.length / 2));
    for (let n = 0; n < line.length / 2 && begin + n < columns; n++) {
      const [nx, ny] = inwardsAt(line, n);
      for (let d = 0; d < depth; d++) {
        const [x, y] = placeIn(line[2 * n] + nx * (d - outside), line[2 * n + 1] + ny * (d - outside));
        const i = (within(y, height) * width + within(x, width)) * channels;
        for (let c = 0; c < 3; c++) data[(d * columns + begin + n) * 3 + c] = picture.data[i + c];
      }
    }
  });
  return { width: columns, height: depth, channels: 3, data };
}

/** Across a line at its n-th point, inwards: what is inside lies to the right of the way. */
function inwardsAt(line: Float32Array, n: number): [number, number] {
  const from = 2 * Math.max(0, n - EVEN);
  const to = 2 * Math.min(line.length / 2 - 1, n + EVEN);
  const [dx, dy] = [line[to] - line[from], line[to + 1] - line[from + 1]];
  const length = Math.hypot(dx, dy) || 1;
  return [-dy / length, dx / length];
}

/** The same memory as numbers of 32 bits, one or two of them for a pixel. */
function wordsOf(data: Uint8Array | Uint16Array): Uint32Array {
  const own = data.byteOffset % 4 === 0 ? data : data.slice();
  return new Uint32Array(own.buffer, own.byteOffset, own.byteLength / 4);
}

/** The lines of a cut's outline as points a pixel of length apart, x and y in turn; parts on the border are left out. */
function linesOf(cutout: EncodedRaster & { channels: 4 }, over: number): Float32Array[] {
  const { width, height, data } = cutout;
  const level = LEVEL * (data instanceof Uint16Array ? 65535 : 255);
  const loops =
    over <= 1
      ? contours(data, width, height, level, 4)
      : contours(evened(cutout, over), Math.ceil(width / over), Math.ceil(height / over), level).map(
          ({ points, area }) => ({ points: points.map((v) => v * over), area: area * over * over }),
        );
  return loops
    .map((loop) => ({ loop, length: lengthOfLoop(loop) }))
    .filter(({ length }) => length >= LEAST_LENGTH)
    .sort((a, b) => b.length - a.length)
    .map(({ loop, length }) => withoutBorder(spaced(loop, length), width, height))
    .filter((line) => line.length > 0);
}

/** Mean coverage of squares of so many pixels, of its own range. */
function evened({ width, height, data }: EncodedRaster & { channels: 4 }, over: number): Float32Array {
  const across = Math.ceil(width / over);
  const means = new Float32Array(across * Math.ceil(height / over));
  const counts = new Float32Array(means.length);
  for (let y = 0, i = 3; y < height; y++) {
    const row = ((y / over) | 0) * across;
    for (let x = 0; x < width; x++, i += 4) {
      const cell = row + ((x / over) | 0);
      means[cell] += data[i];
      counts[cell]++;
    }
  }
  for (let k = 0; k < means.length; k++) means[k] /= counts[k];
  return means;
}

/** Points of a loop at even distances of about a pixel. */
function spaced({ points }: Loop, length: number): Float32Array {
  const count = Math.max(1, Math.round(length));
  const step = length / count;
  const out = new Float32Array(count * 2);
  let passed = 0;
  let k = 0;
  for (let n = 0; n < points.length && k < count; n += 2) {
    const m = (n + 2) % points.length;
    const [dx, dy] = [points[m] - points[n], points[m + 1] - points[n + 1]];
    const leg = Math.hypot(dx, dy);
    for (; k < count && k * step <= passed + leg; k++) {
      const along = leg ? (k * step - passed) / leg : 0;
      out[2 * k] = points[n] + along * dx;
      out[2 * k + 1] = points[n + 1] + along * dy;
    }
    passed += leg;
  }
  return out.subarray(0, 2 * k);
}

function withoutBorder(line: Float32Array, width: number, height: number): Float32Array {
  const kept: number[] = [];
  for (let n = 0; n < line.length; n += 2) {
    const [x, y] = [line[n], line[n + 1]];
    if (x > 0.75 && y > 0.75 && x < width - 0.75 && y < height - 0.75) kept.push(x, y);
  }
  return kept.length === line.length ? line : Float32Array.from(kept);
}

/**
 * A strip wrapped into rows of a width, one above the other.
 * @returns the picture; column n of the strip lies in row ⌊n / across⌋.
 */
export function wrapped<R extends EncodedRaster>(strip: R, across: number, gap: number): R {
  const rows = Math.max(1, Math.ceil(strip.width / across));
  const { channels } = strip;
  const height = rows * (strip.height + gap);
  const data = sameDepth(strip.data, across * height * channels);
  for (let row = 0; row < rows; row++) {
    const from = row * across;
    const count = Math.min(across, strip.width - from);
    for (let y = 0; y < strip.height; y++) {
      const at = (y * strip.width + from) * channels;
      data.set(strip.data.subarray(at, at + count * channels), (row * (strip.height + gap) + y) * across * channels);
    }
  }
  return { ...strip, width: across, height, data };
}
