import { createMask, createPlane, type EncodedRaster, type Mask, type Plane } from '../image/raster.ts';

/**
 * Where persons are in a frame, coarsely: 0 nobody, 1 somebody, as a general segmentation network sees it. Of any size;
 * it lies stretched over the whole upright frame. It is evidence for regions, never the matte, and knows nothing of
 * things, plants and hair ends.
 */
export type PersonMap = Plane;

/** Side of the square picture that the network takes and gives. */
export const NETWORK_SIDE = 256;

/** A part of the frame that the network looks at, pixels; mirrored or not. */
export interface Look {
  x: number;
  y: number;
  width: number;
  height: number;
  mirrored: boolean;
}

/**
 * What the network looks at: the whole frame squeezed, as it is and mirrored, and the squares at both ends of its
 * longer side, so that people keep their shape.
 */
export function looksAt(width: number, height: number): Look[] {
  const side = Math.min(width, height);
  const whole = { x: 0, y: 0, width, height };
  const looks: Look[] = [
    { ...whole, mirrored: false },
    { ...whole, mirrored: true },
  ];
  if (width !== height)
    for (const [x, y] of [
      [0, 0],
      [width - side, height - side],
    ])
      looks.push({ x, y, width: side, height: side, mirrored: false });
  return looks;
}

/**
 * The network's input for one look: sRGB 0–1, rows from the top, each place the mean of the pixels under it (of large
 * blocks some of them).
 */
export function inputOf(frame: EncodedRaster, look: Look): Float32Array {
  const out = new Float32Array(NETWORK_SIDE * NETWORK_SIDE * 3);
  forBlocks(frame, look, NETWORK_SIDE, NETWORK_SIDE, (column, row, r, g, b) => {
    const o = (row * NETWORK_SIDE + (look.mirrored ? NETWORK_SIDE - 1 - column : column)) * 3;
    out[o] = r;
    out[o + 1] = g;
    out[o + 2] = b;
  });
  return out;
}

/**
 * Goes through the places of a small picture of a part of a frame: each the mean, sRGB 0–1, of the pixels under it (of
 * large blocks some of them).
 */
export function forBlocks(
  { width, channels, data }: EncodedRaster,
  part: { x: number; y: number; width: number; height: number },
  columns: number,
  rows: number,
  take: (column: number, row: number, r: number, g: number, b: number) => void,
): void {
  const white = data instanceof Uint16Array ? 65535 : 255;
  const green = channels === 1 ? 0 : 1;
  const blue = channels === 1 ? 0 : 2;
  const edges = (from: number, size: number, places: number): Int32Array =>
    Int32Array.from({ length: places + 1 }, (_, n) => from + Math.floor((n * size) / places));
  const xs = edges(part.x, part.width, columns);
  const ys = edges(part.y, part.height, rows);
  for (let row = 0; row < rows; row++) {
    const y1 = Math.max(ys[row] + 1, ys[row + 1]);
    const down = Math.max(1, (y1 - ys[row]) >> 2);
    for (let column = 0; column < columns; column++) {
      const x1 = Math.max(xs[column] + 1, xs[column + 1]);
      const across = Math.max(1, (x1 - xs[column]) >> 2);
      let r = 0;
      let g = 0;
      let b = 0;
      let n = 0;
      for (let y = ys[row]; y < y1; y += down) {
        for (let x = xs[column]; x < x1; x += across) {
          const i = (y * width + x) * channels;
          r += data[i];
          g += data[i + green];
          b += data[i + blue];
          n++;
        }
      }
      const scale = 1 / (n * white);
      take(column, row, r * scale, g * scale, b * scale);
    }
  }
}

/**
 * The map of a frame from what the network gave for each look. The network rather misses people than sees them where
 * nobody is, so the highest answer counts as much as the mean.
 */
export function joinLooks(
  width: number,
  height: number,
  looks: readonly Look[],
  answers: readonly Float32Array[],
): PersonMap {
  const map = createPlane(NETWORK_SIDE, NETWORK_SIDE);
  // Where each column and row lies in a look; −1 beyond it.
  const places = looks.map((look) => ({
    across: Array.from({ length: NETWORK_SIDE }, (_, column) =>
      placeIn(((column + 0.5) / NETWORK_SIDE) * width, look.x, look.width, look.mirrored),
    ),
    down: Array.from({ length: NETWORK_SIDE }, (_, row) =>
      placeIn(((row + 0.5) / NETWORK_SIDE) * height, look.y, look.height, false),
    ),
  }));
  for (let row = 0, p = 0; row < NETWORK_SIDE; row++) {
    for (let column = 0; column < NETWORK_SIDE; column++, p++) {
      let most = 0;
      let sum = 0;
      let count = 0;
      for (let n = 0; n < looks.length; n++) {
        const across = places[n].across[column];
        const down = places[n].down[row];
        if (across < 0 || down < 0) continue;
        const value = answers[n][down * NETWORK_SIDE + across];
        most = Math.max(most, value);
        sum += value;
        count++;
      }
      map.data[p] = (most + sum / count) / 2;
    }
  }
  return map;
}

function placeIn(at: number, from: number, size: number, mirrored: boolean): number {
  if (at < from || at >= from + size) return -1;
  const place = Math.floor(((at - from) / size) * NETWORK_SIDE);
  return mirrored ? NETWORK_SIDE - 1 - place : place;
}

/** The map at another size, smooth between its places. */
export function mapAt({ width: w, height: h, data }: PersonMap, width: number, height: number): Plane {
  const out = createPlane(width, height);
  const places = (size: number, of: number): { first: Int32Array; share: Float32Array } => {
    const first = new Int32Array(size);
    const share = new Float32Array(size);
    for (let n = 0; n < size; n++) {
      const at = Math.max(0, Math.min(of - 1, ((n + 0.5) / size) * of - 0.5));
      first[n] = Math.min(of - 2, Math.floor(at));
      if (of < 2) first[n] = 0;
      share[n] = at - first[n];
    }
    return { first, share };
  };
  const across = places(width, w);
  const down = places(height, h);
  const right = w > 1 ? 1 : 0;
  const below = h > 1 ? w : 0;
  for (let y = 0, p = 0; y < height; y++) {
    const row = down.first[y] * w;
    const fy = down.share[y];
    for (let x = 0; x < width; x++, p++) {
      const q = row + across.first[x];
      const fx = across.share[x];
      const top = data[q] + fx * (data[q + right] - data[q]);
      const low = data[q + below] + fx * (data[q + below + right] - data[q + below]);
      out.data[p] = top + fy * (low - top);
    }
  }
  return out;
}

/** Share of the map from which somebody surely is. */
const SURE = 0.8;

/** 1 where somebody surely is. */
export function surePerson(map: Plane): Mask {
  const mask = createMask(map.width, map.height);
  for (let p = 0; p < mask.data.length; p++) if (map.data[p] >= SURE) mask.data[p] = 1;
  return mask;
}
