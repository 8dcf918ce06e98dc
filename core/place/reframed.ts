import type { EncodedRaster } from '../image/raster.ts';
import { encoderFor, linearTable } from '../colour/transfer.ts';
import type { Look } from './look.ts';

type Framing = Pick<Look, 'behindZoom' | 'behindAcross' | 'behindDown'>;

/** Which part of a background is seen: left, top, width and height as shares of it. */
export function partSeen({ behindZoom, behindAcross, behindDown }: Framing) {
  const size = 1 / behindZoom;
  const hidden = 1 - size;
  return { x: ((1 + behindAcross) / 2) * hidden, y: ((1 + behindDown) / 2) * hidden, size };
}

/** Where something that lies at a share of the background's height from its top lies in the part that is seen. */
export function seenAt(look: Framing, y: number): number {
  const part = partSeen(look);
  return (y - part.y) / part.size;
}

/** The other way round: what is seen there lies at this share of the whole. */
export function markedAt(look: Framing, seen: number): number {
  const part = partSeen(look);
  return part.y + seen * part.size;
}

/**
 * A background of which a part fills the picture, in its own size and at 16 bits; between pixels it goes straight, in
 * linear light. The same picture where all of it is seen.
 */
export function reframed(background: EncodedRaster, look: Framing): EncodedRaster {
  if (look.behindZoom <= 1) return background;
  const { width, height, channels, data } = background;
  const part = partSeen(look);
  const out = new Uint16Array(width * height * 3);
  const table = linearTable(data);
  const encode = encoderFor(out);
  const at = (n: number, size: number, from: number): number =>
    Math.min(size - 1, Math.max(0, from * size + (n + 0.5) * part.size - 0.5));
  for (let y = 0, o = 0; y < height; y++) {
    const sy = at(y, height, part.y);
    const top = Math.min(height - 1, sy | 0);
    const below = Math.min(height - 1, top + 1);
    const v = sy - top;
    for (let x = 0; x < width; x++, o += 3) {
      const sx = at(x, width, part.x);
      const left = Math.min(width - 1, sx | 0);
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
