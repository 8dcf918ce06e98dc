import type { LinearRaster } from '../image/raster.ts';
import type { Colour } from './figure.ts';
import type { View } from './march.ts';
import { fractalNoise } from '../random.ts';
import type { Lights } from './lights.ts';
import type { Vector } from './solids.ts';

/** A diamond kite of sheer cloth on two spars, with a bridle line down to the hand; drawn behind the body. */
export interface Kite {
  /** Where the spars cross, metres. */
  centre: Vector;
  halfWidth: number;
  halfHeight: number;
  /** Turn in the picture plane, radians. */
  angle: number;
  cloth: readonly [Colour, Colour];
  /** Share of light that a single layer of the cloth stops, 0–1. */
  coverage: number;
  hand: Vector;
  seed: number;
}

/** Draws the kite over premultiplied linear RGBA with its true partial coverage. */
export function drawKite(target: LinearRaster, kite: Kite, view: View, lights: Lights): void {
  const { width, height, scale, originX, originY } = view;
  const cos = Math.cos(kite.angle);
  const sin = Math.sin(kite.angle);
  const reach = Math.max(kite.halfWidth, kite.halfHeight) + 0.02;
  const left = Math.max(0, Math.floor(originX + (kite.centre[0] - reach) * scale));
  const right = Math.min(width, Math.ceil(originX + (kite.centre[0] + reach) * scale));
  const top = Math.max(0, Math.floor(originY - (kite.centre[1] + reach) * scale));
  const bottom = Math.min(height, Math.ceil(originY - Math.min(kite.centre[1] - reach, kite.hand[1] - 0.05) * scale));
  const level =
    0.55 * lights.key.colour[0] +
    lights.others.reduce((sum, beam) => sum + 0.3 * beam.colour[0] * Math.abs(beam.direction[2]), 0) +
    lights.ambient[0];
  for (let y = top; y < bottom; y++) {
    const wy = (originY - y - 0.5) / scale - kite.centre[1];
    for (let x = left; x < right; x++) {
      const wx = (x + 0.5 - originX) / scale - kite.centre[0];
      const u = wx * cos + wy * sin;
      const v = -wx * sin + wy * cos;
      const o = (y * width + x) * 4;
      // The diamond's lower half is longer, as kites are.
      const half = v > 0 ? kite.halfHeight * 0.75 : kite.halfHeight * 1.25;
      const edge = (1 - Math.abs(u) / kite.halfWidth - Math.abs(v) / half) * kite.halfWidth * 0.8 * scale;
      if (edge > -1) {
        const inside = Math.min(1, edge + 1);
        const hem = edge < 0.006 * scale ? 0.35 : 0;
        const fold = fractalNoise(u * 9 + v * 3, v * 7, kite.seed, 3);
        const weave = 0.04 * Math.sin(u * 2600) * Math.sin(v * 2600);
        const a = inside * Math.min(1, Math.max(0.1, kite.coverage + hem + 0.16 * fold + weave));
        const colour = kite.cloth[u * v > 0 ? 0 : 1];
        const shade = level * (0.85 + 0.3 * fold + 0.25 * (v / kite.halfHeight));
        over(target.data, o, colour, shade, a);
      }
      const spar = Math.min(Math.abs(u) - 0, Math.abs(v) * (Math.abs(u) < kite.halfWidth ? 1 : 9)) - 0.0028;
      const sparEdge = Math.min(-spar * scale, edge + 3);
      if (sparEdge > -0.5)
        over(target.data, o, [0.36, 0.22, 0.11], level * (0.8 + 0.2 * Math.sign(u + v)), Math.min(1, sparEdge + 0.5));
    }
  }
  drawLine(target, [kite.centre[0], kite.centre[1] - 0.02, 0], kite.hand, view, level);
}

function drawLine(target: LinearRaster, a: Vector, b: Vector, view: View, level: number): void {
  const { width, height, scale, originX, originY } = view;
  const steps = Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) * scale);
  const cover = Math.min(1, 0.0009 * scale);
  for (let n = 0; n <= steps; n++) {
    const t = n / Math.max(1, steps);
    const x = originX + (a[0] + t * (b[0] - a[0]) + 0.012 * Math.sin(t * Math.PI)) * scale - 0.5;
    const y = Math.floor(originY - (a[1] + t * (b[1] - a[1])) * scale);
    const base = Math.floor(x);
    for (let k = 0; k < 2; k++) {
      const px = base + k;
      if (px < 0 || y < 0 || px >= width || y >= height) continue;
      over(target.data, (y * width + px) * 4, [0.7, 0.7, 0.66], level, cover * (k ? x - base : 1 - x + base));
    }
  }
}

/** Lays a colour at a level over premultiplied RGBA. */
export function over(data: Float32Array, o: number, colour: Colour, level: number, a: number): void {
  for (let c = 0; c < 3; c++) data[o + c] = data[o + c] * (1 - a) + colour[c] * level * a;
  data[o + 3] = data[o + 3] * (1 - a) + a;
}
