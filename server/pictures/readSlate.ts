import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import { numberOnSlate } from '../../core/gather/slate.ts';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { fromRaster, toEight } from './encode.ts';
import { rgbaOf } from './views.ts';

/**
 * How a code is looked for: pixels of the picture, and how much it is brightened. The first finds nearly all; a slate
 * in the dark, or small in a small frame, is found by the second, enlarged up to twice.
 */
const LOOKS = [
  { pixels: 2_000_000, brighter: 1, enlarged: 1 },
  { pixels: 4_000_000, brighter: 3, enlarged: 2 },
];

let loaded: Promise<unknown> | undefined;

/** The reader's own file, since nothing may be fetched. */
async function load(): Promise<void> {
  const wasmBinary = await readFile(createRequire(import.meta.url).resolve('zxing-wasm/reader/zxing_reader.wasm'));
  await prepareZXingModule({
    overrides: {
      wasmBinary: wasmBinary.buffer.slice(wasmBinary.byteOffset, wasmBinary.byteOffset + wasmBinary.length),
    },
    fireImmediately: true,
  });
}

/** The number on a slate somewhere in a frame, whichever way it is held; null if there is none. About 0.1 s. */
export async function readSlate(frame: EncodedRaster): Promise<string | null> {
  await (loaded ??= load());
  const eight = toEight(frame);
  for (const { pixels, brighter, enlarged } of LOOKS) {
    const width = Math.round(frame.width * Math.min(enlarged, Math.sqrt(pixels / (frame.width * frame.height))));
    const look = fromRaster(eight).linear(brighter, 0).resize({ width }).ensureAlpha();
    const { data, ...size } = await rgbaOf(look);
    const picture = { ...size, data: new Uint8ClampedArray(data), colorSpace: 'srgb' as const };
    for (const { text } of await readBarcodes(picture, { formats: ['QRCode'], tryHarder: true })) {
      const number = numberOnSlate(text);
      if (number !== undefined) return number;
    }
  }
  return null;
}
