import type { Random } from '../../core/random.ts';
import { ripple } from './noise.ts';
import { dab, type Colour, type Painted } from './picture.ts';

/**
 * A thin line through points in pixels, its coverage smooth and, where thinner than a pixel, faint.
 * @param taper thickness at its end as a share of that at its root.
 */
export function stroke(
  picture: Painted,
  points: Float32Array,
  count: number,
  thick: number,
  taper: number,
  r: number,
  g: number,
  b: number,
  opacity = 1,
): void {
  const { width, height } = picture;
  for (let n = 0; n + 1 < count; n++) {
    const ax = points[2 * n];
    const ay = points[2 * n + 1];
    const bx = points[2 * n + 2];
    const by = points[2 * n + 3];
    const size = thick * (1 + ((taper - 1) * n) / Math.max(1, count - 1));
    const half = Math.max(0.5, size / 2);
    const strength = opacity * Math.min(1, size);
    const dx = bx - ax;
    const dy = by - ay;
    const length = dx * dx + dy * dy;
    const y1 = Math.min(height - 1, Math.ceil(Math.max(ay, by) + half));
    const x1 = Math.min(width - 1, Math.ceil(Math.max(ax, bx) + half));
    for (let y = Math.max(0, Math.floor(Math.min(ay, by) - half)); y <= y1; y++) {
      for (let x = Math.max(0, Math.floor(Math.min(ax, bx) - half)); x <= x1; x++) {
        const px = x + 0.5 - ax;
        const py = y + 0.5 - ay;
        const t = length > 0 ? (px * dx + py * dy) / length : 0;
        // Each piece covers its own stretch only, or joints would be painted twice.
        if (t < 0 || t >= 1) continue;
        const d = Math.abs(px * dy - py * dx) / Math.sqrt(length);
        const cover = half + 0.5 - d;
        if (cover > 0) dab(picture, y * width + x, strength * Math.min(1, cover), r, g, b);
      }
    }
  }
}

export interface StrandField {
  colour: Colour;
  /** Roots and their directions (radians, 0 to the right, down positive). */
  root: (random: Random) => { x: number; y: number; direction: number };
  count: number;
  /** Pixels: length of a strand, its thickness, a wave of its curl. */
  length: number;
  thick: number;
  wave: number;
  /** How strongly it curls, falls, and strays from its neighbours; 0–1. */
  curl: number;
  fall: number;
  stray: number;
  /** Pull to the right by the wind. */
  wind: number;
  seed: number;
}

const MOST_POINTS = 160;

/** Hair, fur, grass: many strands that follow a common flow and leave it a little. */
export function strands(picture: Painted, random: Random, field: StrandField): void {
  const { colour, root, count, length, thick, wave, curl, fall, stray, wind, seed } = field;
  const points = new Float32Array(2 * MOST_POINTS);
  for (let n = 0; n < count; n++) {
    const start = root(random);
    let { x, y } = start;
    let direction = start.direction + stray * 0.9 * (random() - 0.5);
    const own = length * (0.55 + 0.6 * random());
    const step = Math.max(2.5, own / (MOST_POINTS - 2));
    const phase = 6.28 * random();
    const turn = curl * (0.7 + 0.6 * random());
    let k = 0;
    for (let gone = 0; gone < own && k < MOST_POINTS; gone += step, k++) {
      points[2 * k] = x;
      points[2 * k + 1] = y;
      const bend =
        turn * Math.sin((6.28 * gone) / wave + phase) +
        0.5 * curl * ripple(x / wave, y / wave, seed) +
        stray * 0.25 * ripple(x / 9 + n, y / 9, seed + 1);
      const vx = Math.cos(direction) * (1 - fall * 0.12) + 0.1 * wind;
      const vy = Math.sin(direction) * (1 - fall * 0.12) + 0.12 * fall;
      direction = Math.atan2(vy, vx);
      x += step * Math.cos(direction + bend);
      y += step * Math.sin(direction + bend);
    }
    const bright =
      (0.45 + 0.9 * random() * random() + 0.25 * ripple(start.x / (0.2 * wave + 6), n / 60, seed + 2)) *
      (1 + 0.25 * random());
    const grey = 0.06 * random();
    stroke(
      picture,
      points,
      k,
      thick * (0.6 + 0.7 * random()),
      0.5,
      colour[0] * bright + grey * bright * 0.2,
      colour[1] * bright + grey * bright * 0.2,
      colour[2] * bright + grey * bright * 0.2,
    );
  }
}
