import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import { numberOnSlate } from '../../core/gather/slate.ts';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { fromRaster, toEight } from './encode.ts';
import { rgbaOf } from './views.ts';

/** A code is looked for at these sizes, pixels; the smaller is quicker and finds nearly all. */
const SIZES = [2_000_000, 12_000_000];

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

/** The number on a slate somewhere in a frame, whichever way it is held; null if there is none. About 50 ms. */
export async function readSlate(frame: EncodedRaster): Promise<string | null> {
  await (loaded ??= load());
  const pixels = frame.width * frame.height;
  for (const most of SIZES) {
    const width = Math.round(frame.width * Math.min(1, Math.sqrt(most / pixels)));
    const { data, ...size } = await rgbaOf(fromRaster(toEight(frame)).resize({ width }).ensureAlpha());
    const picture = { ...size, data: new Uint8ClampedArray(data), colorSpace: 'srgb' as const };
    for (const { text } of await readBarcodes(picture, { formats: ['QRCode'], tryHarder: true })) {
      const number = numberOnSlate(text);
      if (number !== undefined) return number;
    }
    if (pixels <= most) break;
  }
  return null;
}
