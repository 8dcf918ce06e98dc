import type { Random } from '../../core/random.ts';
import { cellAt, cloudy, hashed, ripple } from './noise.ts';
import type { Colour, Shader } from './picture.ts';

export const clothKinds = [
  'smooth',
  'knitted',
  'woven',
  'striped',
  'checked',
  'printed',
  'shiny',
  'sequins',
  'furry',
  'denim',
] as const;
export type ClothKind = (typeof clothKinds)[number];

export interface Cloth {
  kind: ClothKind;
  colour: Colour;
  second: Colour;
  /** Length of a fold, pixels, and its strength. */
  fold: number;
  depth: number;
  /** Size of what repeats, pixels. */
  size: number;
  seed: number;
}

/** @param head the head's height in pixels, by which cloth is scaled. */
export function someCloth(
  random: Random,
  colour: Colour,
  second: Colour,
  head: number,
  kinds: readonly ClothKind[] = clothKinds,
): Cloth {
  return {
    kind: kinds[Math.floor(random() * kinds.length)],
    colour,
    second,
    fold: head * (0.3 + random()),
    depth: 0.1 + 0.7 * random() * random(),
    size: head * (0.015 + 0.15 * random() * random()),
    seed: Math.floor(random() * 1e6),
  };
}

/** Grey values that texture multiplies a colour by, and the share of the second colour. */
export function clothShader({ kind, colour, second, fold, depth, size, seed }: Cloth): Shader {
  const lean = hashed(1, 2, seed) * 6.28;
  const c = Math.cos(lean);
  const s = Math.sin(lean);
  const fine = Math.max(1.2, size * 0.25);
  // Sharp folds, and shadow of other parts: not on every cloth.
  const crease = hashed(3, 4, seed) < 0.5 ? 0 : 0.7 * hashed(5, 6, seed);
  const shade = hashed(7, 8, seed) < 0.5 ? 0 : 0.85 * hashed(9, 10, seed);
  return (x, y, light, out) => {
    const u = (x * c + y * s) / fold;
    const v = (y * c - x * s) / (fold * 2.6);
    let bright = light * (1 + depth * cloudy(u, v, seed, 3));
    const edge = ripple(u * 1.7 + 0.5 * ripple(v, u, seed + 21), v * 1.7, seed + 20);
    if (crease > 0)
      bright *=
        1 - crease * Math.exp(-edge * edge * 900) + 0.4 * crease * Math.exp(-(edge - 0.06) * (edge - 0.06) * 900);
    if (shade > 0) bright *= 1 - shade * Math.min(1, Math.max(0, 1.6 * ripple(u * 0.6, v * 0.9, seed + 22)));
    let share = 0;
    let gloss = 0;
    if (kind === 'knitted')
      bright *=
        0.82 +
        0.22 * Math.sin((6.28 * y) / size + 1.6 * Math.sin((6.28 * x) / size)) +
        0.2 * ripple(x / fine, y / fine, seed + 5);
    else if (kind === 'woven')
      bright *= 1 + 0.16 * ripple(x / 1.6, y / 2.4, seed + 6) + 0.1 * ripple(x / fine, y / fine, seed + 7);
    else if (kind === 'denim')
      bright *=
        1 +
        0.18 * ripple((x + y) / 1.9, (x - y) / 5, seed + 8) +
        0.22 * cloudy(x / fold / 0.4, y / fold / 0.4, seed + 9, 2);
    else if (kind === 'striped')
      share = Math.sin((3.14 * (x * c + y * s)) / (size * 2) + 0.6 * cloudy(u, v, seed + 4, 2)) > 0 ? 1 : 0;
    else if (kind === 'checked')
      share =
        ((Math.floor((x + 6 * ripple(u, v, seed)) / (size * 2)) +
          Math.floor((y + 6 * ripple(v, u, seed + 1)) / (size * 2))) &
          1) *
        0.9;
    else if (kind === 'printed') {
      const { id, distance } = cellAt(x / (size * 3), y / (size * 3), seed);
      share = (id & 3) < 2 && distance < 0.32 + (id & 255) / 1200 ? 1 : 0;
    } else if (kind === 'shiny')
      gloss = Math.max(0, cloudy(u * 2.2, v * 2.2, seed + 3, 2) - 0.12) * 2.2 * (light > 0 ? 1 : 0);
    else if (kind === 'sequins') {
      const { id, distance } = cellAt(x / Math.max(2.5, size), y / Math.max(2.5, size), seed);
      const facing = (id & 1023) / 1023;
      bright *= (0.35 + 0.9 * facing * facing) * (distance < 0.45 ? 1 : 0.5);
      if (facing > 0.93) gloss = 0.7;
    } else if (kind === 'furry')
      bright *=
        0.75 +
        0.5 * ripple(x / 2.1 + 0.4 * ripple(u * 3, v * 3, seed), y / 9, seed + 2) +
        0.3 * ripple(x / 5, y / 20, seed + 12);
    if (bright < 0.02) bright = 0.02;
    for (let k = 0; k < 3; k++)
      out[k] = Math.min(1.2, (colour[k] + share * (second[k] - colour[k])) * bright + gloss * 0.5);
  };
}

export function skinShader(colour: Colour, seed: number, head: number): Shader {
  const shade = hashed(1, 1, seed) < 0.5 ? 0 : 0.7 * hashed(2, 1, seed);
  return (x, y, light, out) => {
    const bright =
      light *
      (1 + 0.06 * cloudy((x / head) * 3, (y / head) * 3, seed, 2) + 0.02 * ripple(x / 2, y / 2, seed + 1)) *
      (1 - shade * Math.min(1, Math.max(0, 2 * ripple((x / head) * 0.8, (y / head) * 0.8, seed + 7))));
    const shine = Math.max(0, light - 0.93) * 0.9;
    const blush = 1 + 0.12 * ripple((x / head) * 1.7, (y / head) * 1.7, seed + 3);
    out[0] = Math.min(1, colour[0] * bright * blush + shine);
    out[1] = Math.min(1, colour[1] * bright + shine);
    out[2] = Math.min(1, colour[2] * bright + shine);
  };
}
