/**
 * The sRGB transfer curve (IEC 61966-2-1), encoded ↔ linear light, by table where a table is exact enough.
 */

/** Encoded 0–1 → linear 0–1. */
export function srgbToLinear(encoded: number): number {
  return encoded <= 0.04045 ? encoded / 12.92 : Math.pow((encoded + 0.055) / 1.055, 2.4);
}

/** Linear 0–1 → encoded 0–1; values outside are clamped. */
export function linearToSrgb(linear: number): number {
  if (!(linear > 0)) return 0;
  if (linear >= 1) return 1;
  return linear <= 0.0031308 ? linear * 12.92 : 1.055 * Math.pow(linear, 1 / 2.4) - 0.055;
}

let decode8: Float32Array | undefined;
let decode16: Float32Array | undefined;

/** Table from encoded integer to linear light: 256 entries for 8 bit, 65536 for 16 bit. Built once. */
export function linearTable(data: Uint8Array | Uint16Array): Float32Array {
  if (data instanceof Uint16Array) return (decode16 ??= buildTable(65536));
  return (decode8 ??= buildTable(256));
}

function buildTable(size: number): Float32Array {
  const table = new Float32Array(size);
  for (let i = 0; i < size; i++) table[i] = srgbToLinear(i / (size - 1));
  return table;
}

const ENCODE_STEPS = 65535;
let encode8: Uint8Array | undefined;

/**
 * Table from linear light × 65535 (rounded) to 8-bit sRGB. The steepest part of the curve moves 0.05 of
 * an 8-bit level per entry, so the table never errs by more than one rounding.
 */
export function encodeTable8(): Uint8Array {
  if (!encode8) {
    encode8 = new Uint8Array(ENCODE_STEPS + 1);
    for (let i = 0; i <= ENCODE_STEPS; i++) encode8[i] = Math.round(linearToSrgb(i / ENCODE_STEPS) * 255);
  }
  return encode8;
}

/** A function that writes one linear value, clamped to 0–1, as an sRGB integer of the depth of `data`. */
export function encoderFor(data: Uint8Array | Uint16Array): (linear: number) => number {
  if (data instanceof Uint16Array) return (encode16 ??= buildEncode16());
  const table = encodeTable8();
  return (linear) => (linear <= 0 ? 0 : linear >= 1 ? 255 : (table[(linear * ENCODE_STEPS + 0.5) | 0] as number));
}

const CURVE_STEPS = 16384;
let curve16: Float32Array | undefined;

/** Points of the 16-bit curve: linear light n / 16384 → sRGB 0–65535, and one beyond the end. */
export function encodeCurve16(): Float32Array {
  return (curve16 ??= Float32Array.from({ length: CURVE_STEPS + 2 }, (_, n) => linearToSrgb(n / CURVE_STEPS) * 65535));
}

let encode16: ((linear: number) => number) | undefined;

/** 16-bit sRGB, straight between 16384 points of the curve; errs by less than a tenth of a step. */
function buildEncode16(): (linear: number) => number {
  const curve = encodeCurve16();
  return (linear) => {
    if (!(linear > 0)) return 0;
    if (linear >= 1) return 65535;
    const at = linear * CURVE_STEPS;
    const n = at | 0;
    return (curve[n] + (at - n) * (curve[n + 1] - curve[n]) + 0.5) | 0;
  };
}
