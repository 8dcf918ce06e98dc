import { encodeCurve16, linearTable, linearToSrgb, srgbToLinear } from '../colour/transfer.ts';

/**
 * A three-dimensional look-up table as `.cube` files hold it: what becomes of each display colour (sRGB, 0–1). Red runs
 * fastest.
 */
export interface Cube {
  title: string;
  /** Places to a side. */
  size: number;
  /** Colours that the first and the last place stand for. */
  from: [number, number, number];
  to: [number, number, number];
  /** size³ · 3. */
  data: Float32Array;
}
export type ReadCube = { ok: true; cube: Cube } | { ok: false; reason: string; remedy: string };

const LEAST = 2;
const MOST = 129;
/** Colours of a table lie within this; anything beyond is no picture. */
const BEYOND = 16;

/** Reads the text of a `.cube` file. */
export function readCube(text: string): ReadCube {
  const wrong = (reason: string): ReadCube => ({
    ok: false,
    reason,
    remedy: 'Export it again as a 3D table in the .cube format, for sRGB.',
  });
  let title = '';
  let size = 0;
  let from: Cube['from'] = [0, 0, 0];
  let to: Cube['to'] = [1, 1, 1];
  const values: number[] = [];
  const lines = text.split(/\r?\n/);
  for (const [n, raw] of lines.entries()) {
    const line = raw.replace(/#.*/, '').trim();
    if (!line) continue;
    const [word, ...rest] = line.split(/\s+/);
    const numbers = rest.map(Number);
    switch (word) {
      case 'TITLE':
        title = line.slice(5).trim().replace(/^"|"$/g, '').slice(0, 120);
        continue;
      case 'LUT_1D_SIZE':
        return wrong('it holds a curve for each channel and no 3D table');
      case 'LUT_3D_SIZE':
        [size] = numbers;
        if (!Number.isInteger(size) || size < LEAST || size > MOST)
          return wrong(`line ${n + 1}: a table has from ${LEAST} to ${MOST} places to a side, not “${rest.join(' ')}”`);
        continue;
      case 'DOMAIN_MIN':
      case 'DOMAIN_MAX':
        if (numbers.length !== 3 || !numbers.every(Number.isFinite))
          return wrong(`line ${n + 1}: three numbers belong there`);
        if (word === 'DOMAIN_MIN') from = numbers as Cube['from'];
        else to = numbers as Cube['to'];
        continue;
      case 'LUT_3D_INPUT_RANGE':
        if (numbers.length !== 2 || !numbers.every(Number.isFinite))
          return wrong(`line ${n + 1}: two numbers belong there`);
        from = [numbers[0], numbers[0], numbers[0]];
        to = [numbers[1], numbers[1], numbers[1]];
        continue;
    }
    const colour = [Number(word), ...numbers];
    if (colour.length !== 3 || !colour.every((v) => Number.isFinite(v) && Math.abs(v) <= BEYOND))
      return wrong(`line ${n + 1} is neither a colour nor a known word: “${line.slice(0, 40)}”`);
    if (values.length >= 3 * (size || MOST) ** 3) return wrong(`it has more colours than its ${size}³ places`);
    values.push(...colour);
  }
  if (!size) return wrong('it does not say its size (LUT_3D_SIZE)');
  if (values.length !== 3 * size ** 3)
    return wrong(`it has ${values.length / 3} colours and not ${size}³ = ${size ** 3}; it may be cut short`);
  if (from.some((low, c) => !(to[c] > low))) return wrong('its domain ends before it begins');
  return { ok: true, cube: { title, size, from, to, data: Float32Array.from(values) } };
}

/** The text of a `.cube` file. */
export function writeCube({ title, size, from, to, data }: Cube): string {
  const lines = [`TITLE "${title.replace(/["\r\n]/g, '')}"`, `LUT_3D_SIZE ${size}`];
  if (from.some((v) => v !== 0) || to.some((v) => v !== 1))
    lines.push(`DOMAIN_MIN ${from.join(' ')}`, `DOMAIN_MAX ${to.join(' ')}`);
  for (let i = 0; i < data.length; i += 3)
    lines.push([data[i], data[i + 1], data[i + 2]].map((v) => v.toFixed(6)).join(' '));
  return `${lines.join('\n')}\n`;
}

/** The table of a change of linear colours, given for display colours. */
export function cubeOf(title: string, size: number, change: (rgb: Float32Array) => void): Cube {
  const data = new Float32Array(size ** 3 * 3);
  const rgb = new Float32Array(3);
  let i = 0;
  for (let b = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++, i += 3) {
        rgb[0] = srgbToLinear(r / (size - 1));
        rgb[1] = srgbToLinear(g / (size - 1));
        rgb[2] = srgbToLinear(b / (size - 1));
        change(rgb);
        for (let c = 0; c < 3; c++) data[i + c] = linearToSrgb(rgb[c]);
      }
  return { title, size, from: [0, 0, 0], to: [1, 1, 1], data };
}

/**
 * A function that takes a linear colour through a table, in place, by so much (0–1). Between places it goes through the
 * tetrahedron that holds the colour (Kasson and others 1995), so that greys stay on the line between greys.
 */
export function cubeChanger({ size, from, to, data }: Cube, strength: number): (rgb: Float32Array) => void {
  const last = size - 1;
  const scale = from.map((low, c) => last / (to[c] - low));
  const stride = [3, 3 * size, 3 * size * size];
  const curve = encodeCurve16();
  const table = linearTable(new Uint16Array(0));
  const encoded = (linear: number): number => {
    if (!(linear > 0)) return 0;
    if (linear >= 1) return 1;
    const point = linear * (curve.length - 2);
    const n = point | 0;
    return (curve[n] + (point - n) * (curve[n + 1] - curve[n])) / 65535;
  };
  const at = new Float32Array(3);
  const base = new Int32Array(3);
  return (rgb) => {
    for (let c = 0; c < 3; c++) {
      const place = Math.min(last, Math.max(0, (encoded(rgb[c]) - from[c]) * scale[c]));
      base[c] = Math.min(last - 1, place | 0);
      at[c] = place - base[c];
    }
    const low = base[0] * stride[0] + base[1] * stride[1] + base[2] * stride[2];
    // The corners on the way from the lowest to the highest, along the channel that is farthest first.
    const first = at[0] >= at[1] ? (at[0] >= at[2] ? 0 : 2) : at[1] >= at[2] ? 1 : 2;
    const least = at[2] <= at[1] ? (at[2] <= at[0] ? 2 : 0) : at[1] <= at[0] ? 1 : 0;
    const lastOne = least === first ? (first + 2) % 3 : least;
    const second = 3 - first - lastOne;
    const one = low + stride[first];
    const two = one + stride[second];
    const high = two + stride[lastOne];
    for (let c = 0; c < 3; c++) {
      const value =
        data[low + c] * (1 - at[first]) +
        data[one + c] * (at[first] - at[second]) +
        data[two + c] * (at[second] - at[lastOne]) +
        data[high + c] * at[lastOne];
      const linear = table[(Math.min(1, Math.max(0, value)) * 65535 + 0.5) | 0];
      rgb[c] += strength * (linear - rgb[c]);
    }
  };
}
