import { installedKernels, placesIn, type PlaneKernel } from '../kernels/kernels.ts';
import type { Mask } from './raster.ts';

/**
 * Grows (`radius` > 0) or shrinks (`radius` < 0) a mask by a square of 2·|radius|+1 pixels, counting steps since it was
 * last met, so the cost does not depend on the radius. The outside of the picture neither grows nor shrinks it. Returns
 * a new mask.
 */
export function growMask(mask: Mask, radius: number): Mask {
  const { width, height, data } = mask;
  const reach = Math.abs(Math.round(radius));
  if (reach === 0) return { width, height, data: data.slice() };
  const target = radius > 0 ? 1 : 0;
  const kernel = installedKernels()?.planes;
  if (kernel && reach <= MOST_REACH) return growCompiled(kernel, mask, reach, target);
  const rows = new Uint8Array(data.length);
  for (let y = 0; y < height; y++) growRow(data, rows, y * width, width, reach, target);
  return { width, height, data: growColumns(rows, width, height, reach, target) };
}

/** The kernel counts steps in bytes. */
const MOST_REACH = 250;

function growCompiled(kernel: PlaneKernel, { width, height, data }: Mask, reach: number, target: number): Mask {
  const [source, rows, since, out] = placesIn(kernel, data.length, data.length, width + 16, data.length);
  const bytes = new Uint8Array(kernel.memory.buffer);
  bytes.set(data, source);
  kernel.grow(source, rows, since, out, width, height, reach, target);
  return { width, height, data: bytes.slice(out, out + data.length) };
}

/** Writes `target` wherever the window of 2·reach+1 values holds it, the other value elsewhere. */
function growRow(
  source: Uint8Array,
  out: Uint8Array,
  start: number,
  length: number,
  reach: number,
  target: number,
): void {
  // Steps since the window last held it: first behind, then ahead.
  for (let i = start, since = reach + 1; i < start + length; i++) {
    since = source[i] === target ? 0 : since + 1;
    out[i] = since <= reach ? target : 1 - target;
  }
  for (let i = start + length - 1, since = reach + 1; i >= start; i--) {
    since = source[i] === target ? 0 : since + 1;
    if (since <= reach) out[i] = target;
  }
}

/** The same along columns, row by row: memory is read in order. */
function growColumns(source: Uint8Array, width: number, height: number, reach: number, target: number): Uint8Array {
  const out = new Uint8Array(source.length);
  const since = new Int32Array(width).fill(reach + 1);
  for (let y = 0; y < height; y++) {
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const steps = source[i] === target ? 0 : since[x] + 1;
      since[x] = steps;
      out[i] = steps <= reach ? target : 1 - target;
    }
  }
  since.fill(reach + 1);
  for (let y = height - 1; y >= 0; y--) {
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const steps = source[i] === target ? 0 : since[x] + 1;
      since[x] = steps;
      if (steps <= reach) out[i] = target;
    }
  }
  return out;
}
