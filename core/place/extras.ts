import { sameDepth, whiteLevel, type EncodedRaster } from '../image/raster.ts';
import { encoderFor, linearTable } from '../colour/transfer.ts';
import type { Card } from './card.ts';
import type { Cube } from './cube.ts';
import type { Curves } from './curves.ts';
import type { Placement, Size } from './placement.ts';
import { forPlacedRows } from './resample.ts';

/** What a finished picture has beside person and background: other pictures over it, a look-up table, a card. */
export interface Extras {
  /** Of a look-up table in the library. */
  lut: number | null;
  /** From the farthest to the nearest. */
  layers: Layer[];
  card: Card | null;
  /** Over all, before the table. */
  curves: Curves | null;
}
export const noExtras: Extras = { lut: null, layers: [], card: null, curves: null };

/** A picture of the library, with transparency or not, laid over the background or over the person. */
export interface Layer {
  id: string;
  backgroundId: number;
  where: LayerPlace;
  way: LayerWay;
  /** 0–1. */
  strength: number;
  /** Where it lies, as a person stands; it fills the picture without. */
  at?: Placement | null;
}
export const layerPlaces = { behind: 'Behind the person', front: 'Before the person' } as const;
export type LayerPlace = keyof typeof layerPlaces;
/** `light` adds its light to what is there, as sparks, rain and reflections on glass do. */
export const layerWays = { over: 'Covers', light: 'Adds light' } as const;
export type LayerWay = keyof typeof layerWays;
export const MOST_LAYERS = 8;

export function isNoExtras({ lut, layers, card, curves }: Extras): boolean {
  return lut === null && layers.length === 0 && card === null && !curves;
}

/** What the extras come to: pixels and tables. */
export interface Also {
  curves?: Curves;
  lut?: Cube;
  behind?: Laid[];
  front?: Laid[];
  /** Over everything, after the grade. */
  card?: EncodedRaster;
}
/** RGBA with straight alpha; laid over at a place, or so that it fills the picture. */
export interface Laid {
  picture: EncodedRaster;
  at?: Placement | null;
  strength: number;
  way: LayerWay;
}

/**
 * A picture of another size with this one at a place in it, else so large that it fills it, its middle in the middle;
 * RGBA, its depth.
 */
export function laidIn(picture: EncodedRaster, size: Size, at?: Placement | null): EncodedRaster & { channels: 4 } {
  const { width, height } = size;
  if (!at && picture.channels === 4 && picture.width === width && picture.height === height)
    return { ...picture, channels: 4 };
  const rgba = picture.channels === 4 ? picture : withAlpha(picture);
  const scale = Math.max(width / rgba.width, height / rgba.height);
  const high = (rgba.height * scale) / height;
  const data = sameDepth(rgba.data, width * height * 4);
  const encode = encoderFor(data);
  const white = whiteLevel(rgba);
  // With any blur at all the frame's own sides are not softened.
  const place = at ?? { x: 0.5, y: 0.5 + high / 2, height: high };
  forPlacedRows(rgba, size, place, { blur: 1e-6 }, (y, first, row) => {
    for (let i = 0, o = (y * width + first) * 4; i < row.length; i += 4, o += 4) {
      const a = row[i + 3];
      if (a <= 0) continue;
      for (let c = 0; c < 3; c++) data[o + c] = encode(row[i + c] / a);
      data[o + 3] = Math.round(Math.min(1, a) * white);
    }
  });
  return { width, height, channels: 4, data };
}

function withAlpha({ width, height, channels, data }: EncodedRaster): EncodedRaster & { channels: 4 } {
  const out = sameDepth(data, width * height * 4);
  const white = data instanceof Uint16Array ? 65535 : 255;
  const [green, blue] = channels === 1 ? [0, 0] : [1, 2];
  for (let i = 0, o = 0; i < data.length; i += channels, o += 4) {
    out[o] = data[i];
    out[o + 1] = data[i + green];
    out[o + 2] = data[i + blue];
    out[o + 3] = white;
  }
  return { width, height, channels: 4, data: out };
}

/** A card, as large as a picture, laid over it: what `placedPicture` does last, for a picture that is there already. */
export function withCard(
  picture: EncodedRaster & { channels: 3 },
  card: EncodedRaster,
): EncodedRaster & { channels: 3 } {
  const { width, height } = picture;
  const data = sameDepth(picture.data, width * height * 3);
  const [encode, table] = [encoderFor(data), linearTable(picture.data)];
  const lay = layerRows([{ picture: card, strength: 1, way: 'over' }]);
  const line = new Float32Array(width * 3);
  for (let y = 0; y < height; y++) {
    const o = y * width * 3;
    for (let i = 0; i < line.length; i++) line[i] = table[picture.data[o + i]];
    lay?.(y, line);
    for (let i = 0; i < line.length; i++) data[o + i] = encode(line[i]);
  }
  return { ...picture, data };
}

/** A function that lays pictures, each already as large as the whole, over a row of linear RGB. */
export function layerRows(layers: readonly Laid[]): ((y: number, line: Float32Array) => void) | undefined {
  if (!layers.length) return undefined;
  return (y, line) => {
    for (const { picture, strength, way } of layers) {
      const { width, data } = picture;
      const table = linearTable(data);
      const share = strength / whiteLevel(picture);
      for (let x = 0, i = y * width * 4, o = 0; x < width; x++, i += 4, o += 3) {
        const a = data[i + 3] * share;
        if (a === 0) continue;
        const keep = way === 'over' ? 1 - a : 1;
        line[o] = keep * line[o] + a * table[data[i]];
        line[o + 1] = keep * line[o + 1] + a * table[data[i + 1]];
        line[o + 2] = keep * line[o + 2] + a * table[data[i + 2]];
      }
    }
  };
}
