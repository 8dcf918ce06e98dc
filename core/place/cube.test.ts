import { describe, expect, test } from 'vitest';
import { linearToSrgb, srgbToLinear } from '../colour/transfer.ts';
import { seededRandom } from '../random.ts';
import { cubeChanger, cubeOf, readCube, writeCube, type Cube } from './cube.ts';

/** Look-up tables: read, written, applied. */

const identity = (size: number): Cube => cubeOf('Nothing', size, () => undefined);
const through = (cube: Cube, rgb: number[], strength = 1): number[] => {
  const colour = Float32Array.from(rgb);
  cubeChanger(cube, strength)(colour);
  return [...colour];
};
const read = (text: string): Cube => {
  const result = readCube(text);
  if (!result.ok) throw new Error(result.reason);
  return result.cube;
};
const refusal = (text: string): string => {
  const result = readCube(text);
  return result.ok ? 'read' : result.reason;
};

describe('a table that does nothing', () => {
  test('leaves every colour as it is', () => {
    const random = seededRandom(4);
    for (let n = 0; n < 500; n++) {
      const rgb = [random(), random(), random()].map((v) => v ** 2);
      through(identity(17), rgb).forEach((v, c) => expect(Math.abs(v - rgb[c])).toBeLessThan(4e-4));
    }
  });

  test('is the same after it was written and read', () => {
    const cube = identity(9);
    const again = read(writeCube(cube));
    expect(again).toMatchObject({ title: 'Nothing', size: 9, from: [0, 0, 0], to: [1, 1, 1] });
    again.data.forEach((v, i) => expect(Math.abs(v - cube.data[i])).toBeLessThan(1e-6));
  });
});

test('between its places it is straight: what is straight in display colours comes out exactly', () => {
  // Swaps two channels and halves the third, with five places only.
  const cube = cubeOf('Swapped', 5, (rgb) => {
    const [r, g, b] = rgb;
    rgb[0] = g;
    rgb[1] = r;
    rgb[2] = srgbToLinear(linearToSrgb(b) / 2);
  });
  const random = seededRandom(5);
  for (let n = 0; n < 300; n++) {
    const rgb = [random(), random(), random()];
    const [r, g, b] = through(cube, rgb);
    expect(linearToSrgb(r)).toBeCloseTo(linearToSrgb(rgb[1]), 3);
    expect(linearToSrgb(g)).toBeCloseTo(linearToSrgb(rgb[0]), 3);
    expect(linearToSrgb(b)).toBeCloseTo(linearToSrgb(rgb[2]) / 2, 3);
  }
});

test('greys stay greys between the places of a table that bends them', () => {
  const cube = cubeOf('Bent', 4, (rgb) => {
    for (let c = 0; c < 3; c++) rgb[c] = rgb[c] ** 1.4;
  });
  for (let n = 0; n <= 100; n++) {
    const [r, g, b] = through(cube, [n / 100, n / 100, n / 100]);
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(1e-6);
  }
});

test('strength goes evenly from nothing to all of it', () => {
  const dark = cubeOf('Dark', 9, (rgb) => rgb.fill(0));
  expect(through(dark, [0.4, 0.2, 0.6], 0)).toEqual([...Float32Array.from([0.4, 0.2, 0.6])]);
  through(dark, [0.4, 0.2, 0.6], 0.5).forEach((v, c) => expect(v).toBeCloseTo([0.2, 0.1, 0.3][c]));
  expect(through(dark, [0.4, 0.2, 0.6])).toEqual([0, 0, 0]);
});

describe('reading', () => {
  const two = ['0 0 0', '1 0 0', '0 1 0', '1 1 0', '0 0 1', '1 0 1', '0 1 1', '1 1 1'];
  test('takes comments, domains, empty lines and Windows line ends', () => {
    const text = ['# made by hand', 'TITLE "Two # places"', 'DOMAIN_MIN -1 0 0', '', 'LUT_3D_SIZE 2', ...two].join(
      '\r\n',
    );
    expect(read(text)).toMatchObject({ size: 2, from: [-1, 0, 0], to: [1, 1, 1] });
  });

  test('says what is wrong, and in which line', () => {
    expect(refusal('LUT_1D_SIZE 16')).toContain('no 3D table');
    expect(refusal('LUT_3D_SIZE 900')).toContain('line 1');
    expect(refusal(['LUT_3D_SIZE 2', ...two.slice(0, 5)].join('\n'))).toContain('5 colours and not 2³ = 8');
    expect(refusal(['LUT_3D_SIZE 2', ...two, '1 1 1'].join('\n'))).toContain('more colours');
    expect(refusal(['LUT_3D_SIZE 2', '0 0', ...two].join('\n'))).toContain('line 2');
    expect(refusal(['LUT_3D_SIZE 2', '0 0 1e9', ...two].join('\n'))).toContain('line 2');
    expect(refusal(['LUT_3D_SIZE 2', 'DOMAIN_MAX 0 1 1', ...two].join('\n'))).toContain('domain');
    expect(refusal(two.join('\n'))).toContain('its size');
    expect(refusal('')).toContain('its size');
  });

  test('of anything at all it makes a table or a reason, never a number that is none', () => {
    const random = seededRandom(6);
    const letters = 'LUT_3D_SIZE 0123456789.-e\n\t"#xyz';
    for (let n = 0; n < 400; n++) {
      const text = Array.from({ length: 80 }, () => letters[Math.floor(random() * letters.length)]).join('');
      const result = readCube(`LUT_3D_SIZE 2\n${text}`);
      if (result.ok) expect(result.cube.data.every(Number.isFinite)).toBe(true);
      else expect(result.reason.length).toBeGreaterThan(5);
    }
  });
});
