import type { EncodedRaster } from '../image/raster.ts';
import { encoderFor, linearTable } from '../colour/transfer.ts';
import type { Look } from './look.ts';
import type { Size } from './placement.ts';
import { radians } from './turned.ts';

export type Framing = Pick<Look, 'behindTurn' | 'behindZoom' | 'behindAcross' | 'behindDown'>;

/**
 * Which part of a background is seen: its middle as shares of width and height, how many times larger it is, turned
 * clockwise by an angle (sine and cosine). Turned, it is as much larger as keeps its corners out of sight.
 */
export function partSeen({ behindTurn, behindZoom, behindAcross, behindDown }: Framing, { width, height }: Size) {
  const [sin, cos] = [Math.sin(radians(behindTurn)), Math.cos(radians(behindTurn))];
  const zoom = behindZoom * (cos + Math.abs(sin) * Math.max(width / height, height / width));
  const hidden = (own: number, other: number): number => 1 - (cos + (Math.abs(sin) * other) / own) / zoom;
  return {
    x: (1 + behindAcross * hidden(width, height)) / 2,
    y: (1 + behindDown * hidden(height, width)) / 2,
    zoom,
    sin,
    cos,
  };
}

/** Where something that lies at a share of the background's height from its top lies in the middle of what is seen. */
export function seenAt(look: Framing, background: Size, y: number): number {
  const part = partSeen(look, background);
  return 0.5 + ((y - part.y) * part.zoom) / part.cos;
}

/** The other way round: what is seen there lies at this share of the whole. */
export function markedAt(look: Framing, background: Size, seen: number): number {
  const part = partSeen(look, background);
  return part.y + ((seen - 0.5) * part.cos) / part.zoom;
}

/**
 * A background of which a part fills the picture, maybe turned, in its own size and at 16 bits; between pixels it goes
 * straight, in linear light. The same picture where all of it is seen.
 */
export function reframed(background: EncodedRaster, look: Framing): EncodedRaster {
  if (look.behindZoom <= 1 && look.behindTurn === 0) return background;
  const { width, height, channels, data } = background;
  const { x: middle, y: half, zoom, sin, cos } = partSeen(look, background);
  const out = new Uint16Array(width * height * 3);
  const table = linearTable(data);
  const encode = encoderFor(out);
  const within = (at: number, size: number): number => Math.min(size - 1, Math.max(0, at - 0.5));
  for (let y = 0, o = 0; y < height; y++) {
    const dy = (y + 0.5 - height / 2) / zoom;
    for (let x = 0; x < width; x++, o += 3) {
      const dx = (x + 0.5 - width / 2) / zoom;
      const sx = within(middle * width + dx * cos + dy * sin, width);
      const sy = within(half * height - dx * sin + dy * cos, height);
      const top = sy | 0;
      const below = Math.min(height - 1, top + 1);
      const v = sy - top;
      const left = sx | 0;
      const right = Math.min(width - 1, left + 1);
      const u = sx - left;
      for (let c = 0; c < 3; c++) {
        const value = (row: number, column: number): number => table[data[(row * width + column) * channels + c]];
        const upper = value(top, left) + u * (value(top, right) - value(top, left));
        const lower = value(below, left) + u * (value(below, right) - value(below, left));
        out[o + c] = encode(upper + v * (lower - upper));
      }
    }
  }
  return { width, height, channels: 3, data: out };
}
