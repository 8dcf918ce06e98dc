import { luminance } from '../colour/luminance.ts';
import { linearTable, encoderFor } from '../colour/transfer.ts';
import type { LinearRaster } from '../image/raster.ts';
import { stampsOf, type LitStamp, type Stamp } from './stamp.ts';
import { strokesAbout, touchKinds, type Stroke } from './touch.ts';

interface Laid extends LitStamp {
  stroke: Stroke;
}

/** The touches on colour, row by row of a frame of a size. */
export class ColourTouches {
  private readonly spill: Laid[];
  private readonly edge: Laid[];

  constructor(strokes: readonly Stroke[], width: number, height: number) {
    const laid = (what: Stroke[]): Laid[] =>
      what.flatMap((stroke) => stampsOf(stroke, width, height).map((lit) => ({ stroke, ...lit })));
    this.spill = laid(strokesAbout(strokes, 'spill'));
    this.edge = laid(strokes.filter(({ kind }) => kind === 'strand' || touchKinds[kind].about === 'edge'));
  }

  /** Whether any of them is about spill. */
  get aboutSpill(): boolean {
    return this.spill.length > 0;
  }

  /** Whether any of them takes colours from inside. */
  get aboutEdges(): boolean {
    return this.edge.length > 0;
  }

  /**
   * Says how much spill goes along row y.
   * @param amount 0–1 for each pixel, changed.
   * @param gone 1 where all of it goes, even from green that is kept; changed.
   */
  spillAlong(y: number, amount: Float32Array, gone: Uint8Array): void {
    for (const { stroke, stamp } of this.spill) {
      const to = stroke.kind === 'spillGone' ? 1 : 0;
      alongRow(stamp, y, (x, share) => {
        amount[x] += (to - amount[x]) * share * stroke.strength;
        if (share > 0.5) gone[x] = to;
      });
    }
  }

  /**
   * Gives row y the colours from inside.
   * @param pixels RGBA of the row, sRGB, changed.
   * @param inside colours of the person inside, at reduced size, linear.
   * @param factor pixels to a reduced one, along a side.
   */
  colourAlong(y: number, pixels: Uint8Array | Uint16Array, inside: LinearRaster, factor: number): void {
    const table = linearTable(pixels);
    const encode = encoderFor(pixels);
    const white = pixels instanceof Uint16Array ? 65535 : 255;
    const row = ((y / factor) | 0) * inside.width;
    for (const { stroke, stamp, light } of this.edge) {
      const root = stroke.kind === 'strand' ? rootOf(stroke, inside) : undefined;
      alongRow(stamp, y, (x, laid) => {
        const cover = pixels[x * 4 + 3];
        if (cover === 0) return;
        // Of what covers the pixel, a strand is as much as it covers itself.
        const part = laid * stroke.strength;
        const share = root === undefined ? part : Math.min(1, (part * white) / cover);
        const at = (root ?? row + ((x / factor) | 0)) * 3;
        const [r, g, b] = [inside.data[at], inside.data[at + 1], inside.data[at + 2]];
        const own = [table[pixels[x * 4]], table[pixels[x * 4 + 1]], table[pixels[x * 4 + 2]]] as const;
        const level = luminance(r, g, b);
        const scale = stroke.kind !== 'edgeColour' || level <= 0 ? 1 : luminance(...own) / level;
        [r, g, b].forEach((v, c) => {
          const to = Math.min(1, v * scale * light);
          pixels[x * 4 + c] = encode(own[c] + (to - own[c]) * share);
        });
      });
    }
  }
}

function alongRow({ left, top, width, height, data }: Stamp, y: number, use: (x: number, share: number) => void): void {
  if (y < top || y >= top + height) return;
  for (let x = 0, k = (y - top) * width; x < width; x++, k++) if (data[k]) use(left + x, data[k] / 255);
}

/** The reduced pixel that a stroke begins in. */
function rootOf({ line }: Stroke, { width, height }: LinearRaster): number {
  const [{ x, y }] = line.points;
  const at = (share: number, size: number): number => Math.min(size - 1, Math.max(0, Math.floor(share * size)));
  return at(y, height) * width + at(x, width);
}
