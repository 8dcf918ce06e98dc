import { installedKernels, placesIn, type PlaneKernel } from '../kernels/kernels.ts';
import type { LinearRaster, Mask } from './raster.ts';

/**
 * Fills unknown pixels smoothly from the known ones: averages of known pixels are carried up a pyramid of
 * halved sizes, then down again into the gaps (push–pull; Gortler et al. 1996, "The Lumigraph", sec. 3.3).
 * Known pixels keep their value. With nothing known the result is zero. Any number of channels.
 */
export function fillUnknown(values: LinearRaster, known: Mask): LinearRaster {
  const { width, height, channels } = values;
  const weight = new Float32Array(width * height);
  const data = new Float32Array(values.data.length);
  for (let i = 0; i < weight.length; i++) {
    if (!known.data[i]) continue;
    weight[i] = 1;
    for (let c = 0; c < channels; c++) data[i * channels + c] = values.data[i * channels + c];
  }
  const kernel = channels === 3 ? installedKernels()?.planes : undefined;
  if (kernel) fillCompiled(kernel, data, weight, width, height);
  else pushPull(data, weight, width, height, channels);
  return { width, height, channels, data };
}

function fillCompiled(
  kernel: PlaneKernel,
  data: Float32Array,
  weight: Float32Array,
  width: number,
  height: number,
): void {
  const [dataAt, weightAt, coarserAt] = placesIn(
    kernel,
    data.byteLength,
    weight.byteLength,
    kernel.coarserBytes(width, height),
  );
  const filled = new Float32Array(kernel.memory.buffer, dataAt, data.length);
  filled.set(data);
  new Float32Array(kernel.memory.buffer, weightAt, weight.length).set(weight);
  kernel.pushPull(dataAt, weightAt, width, height, coarserAt);
  data.set(filled);
}

/** Works in place: where weight < 1 the value becomes a mix of itself and the coarser level. */
function pushPull(data: Float32Array, weight: Float32Array, width: number, height: number, channels: number): void {
  if ((width === 1 && height === 1) || !weight.some((w) => w < 1)) return;
  const halfWidth = (width + 1) >> 1;
  const halfHeight = (height + 1) >> 1;
  const coarse = new Float32Array(halfWidth * halfHeight * channels);
  const coarseWeight = new Float32Array(halfWidth * halfHeight);
  for (let y = 0; y < height; y++) pushRow(data, weight, width, channels, y, coarse, coarseWeight, halfWidth);
  for (let o = 0; o < coarseWeight.length; o++) {
    const w = coarseWeight[o];
    if (w === 0) continue;
    for (let c = o * channels; c < (o + 1) * channels; c++) coarse[c] /= w;
    if (w > 1) coarseWeight[o] = 1;
  }
  pushPull(coarse, coarseWeight, halfWidth, halfHeight, channels);
  for (let y = 0; y < height; y++) pullRow(data, weight, width, channels, y, coarse, halfWidth, halfHeight);
}

/** Adds a row to the level of half the size. */
function pushRow(
  data: Float32Array,
  weight: Float32Array,
  width: number,
  channels: number,
  y: number,
  coarse: Float32Array,
  coarseWeight: Float32Array,
  halfWidth: number,
): void {
  for (let x = 0; x < width; x++) {
    const i = y * width + x;
    const w = weight[i];
    if (w === 0) continue;
    const o = (y >> 1) * halfWidth + (x >> 1);
    coarseWeight[o] += w;
    for (let c = 0; c < channels; c++) coarse[o * channels + c] += w * data[i * channels + c];
  }
}

/** Fills the gaps of a row from the level of half the size. */
function pullRow(
  data: Float32Array,
  weight: Float32Array,
  width: number,
  channels: number,
  y: number,
  coarse: Float32Array,
  halfWidth: number,
  halfHeight: number,
): void {
  const sy = Math.max(0, Math.min(halfHeight - 1, (y - 0.5) / 2));
  const y0 = sy | 0;
  const y1 = Math.min(halfHeight - 1, y0 + 1);
  const fy = sy - y0;
  for (let x = 0; x < width; x++) {
    const i = y * width + x;
    const w = weight[i];
    if (w >= 1) continue;
    const sx = Math.max(0, Math.min(halfWidth - 1, (x - 0.5) / 2));
    const x0 = sx | 0;
    const fx = sx - x0;
    const step = x0 + 1 < halfWidth ? channels : 0;
    const above = (y0 * halfWidth + x0) * channels;
    const below = (y1 * halfWidth + x0) * channels;
    for (let c = 0, k = i * channels; c < channels; c++, k++) {
      const top = coarse[above + c] * (1 - fx) + coarse[above + step + c] * fx;
      const bottom = coarse[below + c] * (1 - fx) + coarse[below + step + c] * fx;
      data[k] = w * data[k] + (1 - w) * (top * (1 - fy) + bottom * fy);
    }
    weight[i] = 1;
  }
}
