/** What a JPEG file tells about its own losses. */
export interface JpegFacts {
  /**
   * Quality 1–100 whose standard luminance table (ITU-T T.81, annex K, scaled as the reference library does) comes
   * nearest.
   */
  quality: number;
  /** Colour is stored at half the resolution. */
  halvedChroma: boolean;
}

/** Sum of the standard luminance quantisation table. */
const STANDARD_SUM = 3688;

/** @returns undefined if the bytes are not a JPEG with the usual tables. */
export function jpegFacts(bytes: Uint8Array): JpegFacts | undefined {
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8) return undefined;
  let sum = 0;
  let halvedChroma: boolean | undefined;
  for (let i = 2; i + 4 < bytes.length && bytes[i] === 0xff;) {
    const marker = bytes[i + 1];
    const length = (bytes[i + 2] << 8) | bytes[i + 3];
    if (marker === 0xda) break;
    if (marker === 0xdb) {
      for (let k = i + 4; k < i + 2 + length;) {
        const wide = bytes[k] >> 4;
        const isLuma = (bytes[k] & 15) === 0;
        k++;
        for (let n = 0; n < 64; n++, k += wide ? 2 : 1)
          if (isLuma) sum += wide ? (bytes[k] << 8) | bytes[k + 1] : bytes[k];
      }
    }
    // Start of frame: sampling factors of the first component against the second.
    if (marker >= 0xc0 && marker <= 0xc2 && bytes[i + 9] >= 3) halvedChroma = bytes[i + 11] > bytes[i + 14];
    i += 2 + length;
  }
  if (!sum || halvedChroma === undefined) return undefined;
  const scale = (100 * sum) / STANDARD_SUM;
  const quality = scale <= 100 ? (200 - scale) / 2 : 5000 / scale;
  return { quality: Math.round(Math.max(1, Math.min(100, quality))), halvedChroma };
}
