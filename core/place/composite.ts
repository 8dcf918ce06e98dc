import { encoderFor, encodeTable8, linearTable } from '../colour/transfer.ts';
import { installedKernels, placesIn, type PlaneKernel } from '../kernels/kernels.ts';
import { whiteLevel, type EncodedRaster } from '../image/raster.ts';
import type { Placement } from './placement.ts';
import { forPlacedRows } from './resample.ts';

/** A tone from the encoded range 0–255 that a cut is judged on. */
export type Tone = readonly [number, number, number];

/** Mid-grey first; red and near black show a green fringe worst, white next. */
export const judgingTones = {
  grey: { title: 'Mid-grey', tone: [118, 118, 118] as Tone },
  white: { title: 'White', tone: [255, 255, 255] as Tone },
  red: { title: 'Red', tone: [190, 24, 24] as Tone },
  black: { title: 'Near black', tone: [18, 18, 20] as Tone },
} as const;

export type ToneName = keyof typeof judgingTones;

/** The tone among those for judging that lies farthest from the colours of a cut's half-covered pixels. */
export function worstTone({ data }: EncodedRaster & { channels: 4 }): Tone {
  const white = data instanceof Uint16Array ? 65535 : 255;
  const mean = [0, 0, 0];
  let weight = 0;
  for (let i = 0; i < data.length; i += 4) {
    const a = data[i + 3] / white;
    for (let c = 0; c < 3; c++) mean[c] += a * (1 - a) * (data[i + c] / white) * 255;
    weight += a * (1 - a);
  }
  const apart = (tone: Tone): number =>
    tone.reduce((sum, v, c) => sum + Math.abs(v - (weight ? mean[c] / weight : 0)), 0);
  return Object.values(judgingTones).reduce(
    (worst, { tone }) => (apart(tone) > apart(worst) ? tone : worst),
    judgingTones.grey.tone as Tone,
  );
}

/** The cut over one even tone, mixed in linear light. Same size and depth, opaque. */
export function compositeOnTone(cutout: EncodedRaster, tone: Tone): EncodedRaster & { channels: 4 } {
  const { width, height } = cutout;
  const white = whiteLevel(cutout);
  const table = linearTable(cutout.data);
  const level = tone.map((v) => table[v * (white / 255)]);
  const kernel = installedKernels()?.planes;
  const data =
    kernel && cutout.data instanceof Uint8Array
      ? overToneCompiled(kernel, cutout.data, tone, level)
      : overTone(cutout.data.slice(), tone, level, white);
  return { width, height, channels: 4, data };
}

function overToneCompiled(
  kernel: PlaneKernel,
  data: Uint8Array,
  [red, green, blue]: Tone,
  level: number[],
): Uint8Array {
  const table = linearTable(data);
  const encode = encodeTable8();
  const [pixels, tableAt, encodeAt, levelAt] = placesIn(kernel, data.length, table.byteLength, encode.length, 12);
  const { buffer } = kernel.memory;
  const whole = new Uint8Array(buffer, pixels, data.length);
  whole.set(data);
  new Float32Array(buffer, tableAt, table.length).set(table);
  new Uint8Array(buffer, encodeAt, encode.length).set(encode);
  new Float32Array(buffer, levelAt, 3).set(level);
  kernel.overTone(pixels, data.length / 4, tableAt, encodeAt, levelAt, red | (green << 8) | (blue << 16) | (255 << 24));
  return whole.slice();
}

function overTone(
  data: Uint8Array | Uint16Array,
  tone: Tone,
  level: number[],
  white: number,
): Uint8Array | Uint16Array {
  const table = linearTable(data);
  const encode = encoderFor(data);
  for (let i = 0; i < data.length; i += 4) {
    const a = data[i + 3] / white;
    if (a === 1) continue;
    for (let c = 0; c < 3; c++)
      data[i + c] = a === 0 ? tone[c] * (white / 255) : encode(a * table[data[i + c]] + (1 - a) * level[c]);
    data[i + 3] = white;
  }
  return data;
}

/** The cut over a picture of its size, mixed in linear light. @returns RGB of that picture's depth. */
export function onBackground(cutout: EncodedRaster, behind: EncodedRaster): EncodedRaster & { channels: 3 } {
  return compositeOnBackground(cutout, behind, { x: 0.5, y: 1, height: 1 });
}

/**
 * Places a cut (RGBA, straight alpha) on a background (RGB) and mixes in linear light. The cut is resampled with a
 * tent as wide as the reduction asks for, on premultiplied linear values, so that edges neither darken nor glow.
 * @returns RGB in the background's size and depth. Inputs are not changed.
 */
export function compositeOnBackground(
  cutout: EncodedRaster,
  background: EncodedRaster,
  placement: Placement,
): EncodedRaster & { channels: 3 } {
  const { width, height, channels } = background;
  const out = background.data.slice();
  const table = linearTable(out);
  const encode = encoderFor(out);
  forPlacedRows(cutout, background, placement, {}, (y, first, row) => {
    for (let i = 0, o = (y * width + first) * channels; i < row.length; i += 4, o += channels) {
      const a = row[i + 3];
      if (a <= 0) continue;
      const keep = 1 - a;
      for (let c = 0; c < 3; c++) out[o + c] = encode(row[i + c] + keep * table[out[o + c]]);
    }
  });
  return { width, height, channels: 3, data: out };
}
