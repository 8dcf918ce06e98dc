import { expect, test } from 'vitest';
import { encoderFor, linearTable, linearToSrgb, srgbToLinear } from './transfer.ts';

test('published points of the sRGB curve', () => {
  expect(srgbToLinear(0.5)).toBeCloseTo(0.21404, 5);
  expect(linearToSrgb(0.18)).toBeCloseTo(0.46136, 5);
  expect(linearToSrgb(-1)).toBe(0);
  expect(linearToSrgb(NaN)).toBe(0);
  expect(linearToSrgb(7)).toBe(1);
});

test('every 8-bit value survives decoding and encoding', () => {
  const data = new Uint8Array(1);
  const encode = encoderFor(data);
  linearTable(data).forEach((linear, value) => expect(encode(linear)).toBe(value));
});

test('every 97th 16-bit value survives', () => {
  const data = new Uint16Array(1);
  const encode = encoderFor(data);
  const table = linearTable(data);
  for (let value = 0; value < 65536; value += 97) expect(encode(table[value])).toBe(value);
});
