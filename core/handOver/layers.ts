import { fillUnknown } from '../image/fillUnknown.ts';
import { createLinear, createMask, sameDepth, whiteLevel, type EncodedRaster } from '../image/raster.ts';
import type { Placement } from '../place/placement.ts';
import { forPlacedRows } from '../place/resample.ts';
import { turned } from '../place/turned.ts';

/** A finished picture taken apart: laid over each other in the usual way (encoded values, source over) they are it. */
export interface Layers {
  background: EncodedRaster & { channels: 3; data: Uint8Array };
  /** Black, as dense as people darken the background. */
  shadow: EncodedRaster & { channels: 4; data: Uint8Array };
  people: EncodedRaster & { channels: 4; data: Uint8Array };
}

/** Shadows weaker than this, of 255, are left to the people's layer. */
const FAINT = 1.5 / 255;

/**
 * Takes a finished picture apart for programs that lay layers over each other in encoded values.
 * @param finished RGB.
 * @param empty the same without people, of its size.
 * @param coverage of all people in it, 0–255.
 */
export function layersOf(finished: EncodedRaster, empty: EncodedRaster, coverage: Uint8Array): Layers {
  const { width, height } = finished;
  const all = eightBits(finished);
  const behind = eightBits(empty);
  const dense = shadowOf(all, behind, coverage, width, height);
  const shadow = new Uint8Array(width * height * 4);
  const people = new Uint8Array(width * height * 4);
  for (let p = 0; p < coverage.length; p++) {
    const shade = Math.round(dense[p] * 255);
    shadow[p * 4 + 3] = shade;
    let alpha = coverage[p] / 255;
    const keep = 1 - shade / 255;
    // So much at least that a colour between black and white can make the difference.
    for (let c = 0; c < 3; c++) {
      const under = behind[p * 3 + c] * keep;
      const wanted = all[p * 3 + c];
      const least = wanted > under ? (wanted - under) / (255 - under) : wanted < under ? (under - wanted) / under : 0;
      if (Math.abs(wanted - under) > 1 && least > alpha) alpha = least;
    }
    const a = Math.min(255, Math.ceil(alpha * 255));
    if (!a) continue;
    for (let c = 0; c < 3; c++) {
      const under = behind[p * 3 + c] * keep;
      people[p * 4 + c] = Math.max(0, Math.min(255, Math.round((all[p * 3 + c] - (1 - a / 255) * under) / (a / 255))));
    }
    people[p * 4 + 3] = a;
  }
  return {
    background: { width, height, channels: 3, data: behind },
    shadow: { width, height, channels: 4, data: shadow },
    people: { width, height, channels: 4, data: people },
  };
}

/** How far the background is darkened, 0–1: read beside the people, carried on behind them. */
function shadowOf(
  all: Uint8Array,
  behind: Uint8Array,
  coverage: Uint8Array,
  width: number,
  height: number,
): Float32Array {
  const seen = createLinear(width, height, 1);
  const known = createMask(width, height);
  for (let p = 0; p < coverage.length; p++) {
    if (coverage[p] > 0) continue;
    known.data[p] = 1;
    // The lightest of what all three channels say, so that a tint is no shadow.
    let dense = 1;
    for (let c = 0; c < 3; c++) {
      const under = behind[p * 3 + c];
      dense = Math.min(dense, under > 0 ? 1 - all[p * 3 + c] / under : 1);
    }
    seen.data[p] = dense > FAINT && dense < 1 ? dense : 0;
  }
  return fillUnknown(seen, known).data;
}

function eightBits({ data }: EncodedRaster): Uint8Array {
  if (data instanceof Uint8Array) return data;
  const out = new Uint8Array(data.length);
  for (let i = 0; i < out.length; i++) out[i] = Math.round(data[i] / 257);
  return out;
}

/** A cut as it stands in a picture. */
export interface Standing {
  cutout: EncodedRaster;
  placement: Placement;
  mirrored: boolean;
  /** Degrees clockwise. */
  turn: number;
}

/** Another picture of a cut's frame, as RGBA, put where the cut stands. @returns RGBA as large as the picture, 8 bits. */
export function placedLayer(
  { cutout: upright, placement: standing, mirrored, turn }: Standing,
  { width, height }: { width: number; height: number },
  encode: (linear: number) => number,
): EncodedRaster & { channels: 4; data: Uint8Array } {
  const data = new Uint8Array(width * height * 4);
  const { cutout, placement } = turn
    ? turned(upright, standing, mirrored ? -turn : turn)
    : { cutout: upright, placement: standing };
  forPlacedRows(cutout, { width, height }, placement, { mirrored }, (y, first, row) => {
    for (let i = 0, o = (y * width + first) * 4; i < row.length; i += 4, o += 4) {
      const a = Math.min(1, row[i + 3]);
      if (a <= 0) continue;
      for (let c = 0; c < 3; c++) data[o + c] = encode(row[i + c] / row[i + 3]);
      data[o + 3] = Math.round(a * 255);
    }
  });
  return { width, height, channels: 4, data };
}

/** What covers a picture when several layers lie over each other, 0–255. */
export function coverageOf(layers: readonly (EncodedRaster & { channels: 4; data: Uint8Array })[]): Uint8Array {
  const out = new Uint8Array(layers[0].width * layers[0].height);
  for (let p = 0; p < out.length; p++) {
    let clear = 1;
    for (const { data } of layers) clear *= 1 - data[p * 4 + 3] / 255;
    out[p] = Math.round((1 - clear) * 255);
  }
  return out;
}

/** Coverage as a grey picture. */
export function matteOf(cutout: EncodedRaster): EncodedRaster & { channels: 1 } {
  const { width, height, data } = cutout;
  const grey = sameDepth(data, width * height);
  for (let p = 0; p < grey.length; p++) grey[p] = data[p * 4 + 3];
  return { width, height, channels: 1, data: grey };
}

/** A photograph with the coverage of its cut: the person with all the screen's light still on it. */
export function uncleaned(photograph: EncodedRaster, cutout: EncodedRaster): EncodedRaster & { channels: 4 } {
  const { width, height, data: cut } = cutout;
  const { data: seen, channels } = photograph;
  const data = sameDepth(seen, cut.length);
  const scale = whiteLevel(photograph) / whiteLevel(cutout);
  for (let p = 0; p < width * height; p++) {
    for (let c = 0; c < 3; c++) data[p * 4 + c] = seen[p * channels + (channels < 3 ? 0 : c)];
    data[p * 4 + 3] = Math.round(cut[p * 4 + 3] * scale);
  }
  return { width, height, channels: 4, data };
}

/** The part of a cut that is not wholly clear: left, top, width, height in pixels; the whole if nothing is. */
export function trimmedTo({ width, height, data }: EncodedRaster): {
  left: number;
  top: number;
  width: number;
  height: number;
} {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (!data[(y * width + x) * 4 + 3]) continue;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      bottom = y;
    }
  return right < 0
    ? { left: 0, top: 0, width, height }
    : { left, top, width: right - left + 1, height: bottom - top + 1 };
}
