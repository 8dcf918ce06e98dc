/** A closed line through a picture, in pixels; pixel (0, 0) has its middle at (0.5, 0.5). */
export interface Loop {
  /** x and y of each point, the last joins the first. What is inside lies to the right of the way, as one sees it. */
  points: Float32Array;
  /** Area that the line goes round, square pixels; negative around an opening. */
  area: number;
}

/**
 * Where a picture crosses a level, as closed lines between pixels (marching squares, crossings interpolated). Beyond
 * the border everything counts as 0, so lines close along it.
 * @param data values row by row, one of them every `stride`.
 * @param level above 0.
 * @param stride values from one pixel to the next, the last of which counts: 4 for the coverage of RGBA.
 */
export function contours(data: ArrayLike<number>, width: number, height: number, level: number, stride = 1): Loop[] {
  const across = widthOf(width);
  const next = crossings(data, width, height, level, stride);
  const value = (x: number, y: number): number =>
    x < 0 || y < 0 || x >= width || y >= height ? 0 : data[(y * width + x + 1) * stride - 1];
  const loops: Loop[] = [];
  while (next.size) {
    const [begin] = next.keys();
    const points: number[] = [];
    for (let edge: number | undefined = begin; edge !== undefined;) {
      const following: number | undefined = next.get(edge);
      next.delete(edge);
      if (following === undefined) break;
      const cell = edge >> 1;
      const x = (cell % across) - 1;
      const y = ((cell / across) | 0) - 1;
      const down = edge & 1;
      const a = value(x, y);
      const b = down ? value(x, y + 1) : value(x + 1, y);
      const share = (level - a) / (b - a);
      points.push(x + 0.5 + (down ? 0 : share), y + 0.5 + (down ? share : 0));
      edge = following;
    }
    loops.push({ points: Float32Array.from(points), area: areaOf(points) });
  }
  return loops;
}

/** Width of a picture with a border of one, or more, so that rows are of whole words of four. */
function widthOf(width: number): number {
  return (width + 5) & ~3;
}

/**
 * For each edge between two neighbouring pixels that a line crosses, the edge that it crosses next. Edges are numbered
 * by their left or upper pixel on the picture with its border: twice its number, and one more for a downward edge.
 */
function crossings(
  data: ArrayLike<number>,
  width: number,
  height: number,
  level: number,
  stride: number,
): Map<number, number> {
  const next = new Map<number, number>();
  const across = widthOf(width);
  const inside = insideOf(data, width, height, level, stride);
  const words = new Uint32Array(inside.buffer);
  const down = across >> 2;
  const end = across * (height + 1) - 1;
  for (let cell = 0; cell < end; cell++) {
    if ((cell & 3) === 0) {
      // Most of a picture is plainly in or out: four squares at once.
      const word = words[cell >> 2];
      if (
        (word === 0 || word === ALL_IN) &&
        words[(cell >> 2) + 1] === word &&
        words[(cell >> 2) + down] === word &&
        words[(cell >> 2) + down + 1] === word
      ) {
        cell += 3;
        continue;
      }
    }
    const corners = 8 * inside[cell] + 4 * inside[cell + 1] + 2 * inside[cell + across] + inside[cell + across + 1];
    if (corners !== 0 && corners !== 15)
      link(next, corners, 2 * cell, 2 * cell + 1, 2 * (cell + 1) + 1, 2 * (cell + across));
  }
  return next;
}
const ALL_IN = 0x01010101;

/** 1 for each pixel from the level on, with a border of 0. */
function insideOf(data: ArrayLike<number>, width: number, height: number, level: number, stride: number): Uint8Array {
  const across = widthOf(width);
  const inside = new Uint8Array(across * (height + 2));
  const pixels = stride === 4 && data instanceof Uint8Array && data.byteOffset % 4 === 0;
  // Four bytes of RGBA in one reading: coverage is the highest.
  const whole = pixels ? new Uint32Array(data.buffer, data.byteOffset, width * height) : undefined;
  const least = Math.ceil(level);
  for (let y = 0, p = 0; y < height; y++) {
    const row = (y + 1) * across + 1;
    if (whole) for (let x = 0; x < width; x++, p++) inside[row + x] = whole[p] >>> 24 >= least ? 1 : 0;
    else for (let x = 0; x < width; x++, p++) inside[row + x] = data[(p + 1) * stride - 1] >= level ? 1 : 0;
  }
  return inside;
}

/**
 * Joins the edges of a square of four pixels that lines cross, with the inside to their right.
 * @param corners which of them are inside: 8 and 4 above, 2 and 1 below.
 */
function link(
  next: Map<number, number>,
  corners: number,
  top: number,
  left: number,
  right: number,
  bottom: number,
): void {
  switch (corners) {
    case 8:
      return void next.set(top, left);
    case 4:
      return void next.set(right, top);
    case 2:
      return void next.set(left, bottom);
    case 1:
      return void next.set(bottom, right);
    case 12:
      return void next.set(right, left);
    case 3:
      return void next.set(left, right);
    case 10:
      return void next.set(top, bottom);
    case 5:
      return void next.set(bottom, top);
    case 7:
      return void next.set(left, top);
    case 11:
      return void next.set(top, right);
    case 13:
      return void next.set(bottom, left);
    case 14:
      return void next.set(right, bottom);
    // Two that touch at a corner are two.
    case 9:
      return void next.set(top, left).set(bottom, right);
    case 6:
      return void next.set(right, top).set(left, bottom);
  }
}

function areaOf(points: readonly number[]): number {
  let twice = 0;
  for (let n = 0; n < points.length; n += 2) {
    const m = (n + 2) % points.length;
    twice += points[n] * points[m + 1] - points[m] * points[n + 1];
  }
  return twice / 2;
}

/** Length of a loop, pixels. */
export function lengthOfLoop({ points }: Loop): number {
  let length = 0;
  for (let n = 0; n < points.length; n += 2) {
    const m = (n + 2) % points.length;
    length += Math.hypot(points[m] - points[n], points[m + 1] - points[n + 1]);
  }
  return length;
}
