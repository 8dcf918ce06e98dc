const DIGITS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Numbers that are written as base64 of halves (IEEE 754 binary16), low byte first. */
export function readHalves(base64: string): Float32Array {
  const text = base64.replace(/=+$/, '');
  const bytes = new Uint8Array(Math.floor((text.length * 3) / 4));
  let bits = 0;
  let held = 0;
  let n = 0;
  for (const digit of text) {
    bits = ((bits << 6) | DIGITS.indexOf(digit)) & 0xffff;
    held += 6;
    if (held >= 8) {
      held -= 8;
      bytes[n++] = bits >> held;
    }
  }
  return Float32Array.from({ length: bytes.length >> 1 }, (_, k) => halfOf(bytes[2 * k] | (bytes[2 * k + 1] << 8)));
}

function halfOf(bits: number): number {
  const exponent = (bits >> 10) & 31;
  const fraction = bits & 1023;
  const size =
    exponent === 0
      ? fraction * 2 ** -24
      : exponent === 31
        ? fraction
          ? NaN
          : Infinity
        : (1 + fraction / 1024) * 2 ** (exponent - 15);
  return bits & 0x8000 ? -size : size;
}
