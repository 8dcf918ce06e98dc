import { encoderFor, linearTable } from '../colour/transfer.ts';
import { installedKernels, placesIn, type PlaneKernel } from '../kernels/kernels.ts';
import { createLinear, sameDepth, type EncodedRaster, type LinearRaster } from './raster.ts';

/** The whole factor by which a picture is reduced so that it has at most `maxPixels` pixels; at least 1. */
export function reductionFactor(width: number, height: number, maxPixels: number): number {
  return Math.max(1, Math.ceil(Math.sqrt((width * height) / maxPixels)));
}

/** From this factor on blocks are large. */
const LARGE = 7;

/**
 * Reduces an encoded picture by a whole factor, averaging linear light over each block; the last row and column of
 * blocks may be smaller. Of large blocks every second or third pixel each way is averaged, which is still many. Alpha,
 * if there is any, is left out.
 */
export function reduceToLinear(source: EncodedRaster, factor: number): LinearRaster {
  const { width, height } = source;
  const out = createLinear(Math.ceil(width / factor), Math.ceil(height / factor));
  const step = factor >= LARGE ? Math.round(factor / 4) : 1;
  const kernel = installedKernels()?.planes;
  if (kernel) reduceCompiled(kernel, source, factor, step, out);
  else for (let row = 0; row < out.height; row++) reduceRow(source, factor, step, row, out);
  return out;
}

/** The same, encoded again: a smaller copy of the picture, of its depth and with three channels. */
export function reducedCopy(source: EncodedRaster, factor: number): EncodedRaster {
  const { width, height, data: light } = reduceToLinear(source, factor);
  const data = sameDepth(source.data, light.length);
  const encode = encoderFor(data);
  for (let i = 0; i < data.length; i++) data[i] = encode(light[i]);
  return { width, height, channels: 3, data };
}

function reduceCompiled(
  kernel: PlaneKernel,
  { width, height, channels, data }: EncodedRaster,
  factor: number,
  step: number,
  out: LinearRaster,
): void {
  const table = linearTable(data);
  const length = width * channels;
  const [rowsAt, tableAt, outAt] = placesIn(
    kernel,
    factor * length * data.BYTES_PER_ELEMENT,
    table.byteLength,
    out.width * 12,
  );
  const { buffer } = kernel.memory;
  new Float32Array(buffer, tableAt, table.length).set(table);
  const rows =
    data instanceof Uint16Array
      ? new Uint16Array(buffer, rowsAt, factor * length)
      : new Uint8Array(buffer, rowsAt, factor * length);
  const reduced = new Float32Array(buffer, outAt, out.width * 3);
  for (let row = 0; row < out.height; row++) {
    const count = Math.min(factor, height - row * factor);
    rows.set(data.subarray(row * factor * length, (row * factor + count) * length));
    kernel.reduce(rowsAt, count, width, channels, data instanceof Uint16Array, factor, step, tableAt, outAt);
    out.data.set(reduced, row * reduced.length);
  }
}

function reduceRow(
  { width, height, channels, data }: EncodedRaster,
  factor: number,
  step: number,
  row: number,
  out: LinearRaster,
): void {
  const table = linearTable(data);
  const green = channels === 1 ? 0 : 1;
  const blue = channels === 1 ? 0 : 2;
  const yEnd = Math.min(height, (row + 1) * factor);
  for (let ox = 0; ox < out.width; ox++) {
    const xStart = ox * factor;
    const xEnd = Math.min(width, xStart + factor);
    let r = 0;
    let g = 0;
    let b = 0;
    for (let y = row * factor; y < yEnd; y += step) {
      let i = (y * width + xStart) * channels;
      for (let x = xStart; x < xEnd; x += step, i += channels * step) {
        r += table[data[i]];
        g += table[data[i + green]];
        b += table[data[i + blue]];
      }
    }
    const scale = 1 / (Math.ceil((xEnd - xStart) / step) * Math.ceil((yEnd - row * factor) / step));
    const o = (row * out.width + ox) * 3;
    out.data[o] = r * scale;
    out.data[o + 1] = g * scale;
    out.data[o + 2] = b * scale;
  }
}
