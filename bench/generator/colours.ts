import { srgbToLinear } from '../../core/colour/transfer.ts';
import type { Random } from '../../core/random.ts';
import type { Colour } from './picture.ts';

/** Hue in degrees, saturation and value 0–1 (HSV of the encoded colour) to linear light. */
export function hsv(hue: number, saturation: number, value: number): Colour {
  const channel = (n: number): number => {
    const k = (n + hue / 60) % 6;
    return srgbToLinear(value - value * saturation * Math.max(0, Math.min(k, 4 - k, 1)));
  };
  return [channel(5), channel(3), channel(1)];
}

const between = (random: Random, from: number, to: number): number => from + (to - from) * random();

export function someSkin(random: Random): Colour {
  const dark = random();
  return hsv(
    between(random, 12, 28),
    between(random, 0.28, 0.4) + 0.28 * dark,
    between(random, 0.82, 0.97) - 0.6 * dark * dark,
  );
}

export function someHair(random: Random): Colour {
  const kind = random();
  if (kind < 0.45) return hsv(between(random, 10, 35), between(random, 0.2, 0.6), between(random, 0.07, 0.3));
  if (kind < 0.65) return hsv(between(random, 14, 30), between(random, 0.4, 0.7), between(random, 0.3, 0.55));
  if (kind < 0.85) return hsv(between(random, 30, 48), between(random, 0.2, 0.5), between(random, 0.6, 0.92));
  if (kind < 0.95) return hsv(30, between(random, 0, 0.08), between(random, 0.5, 0.9));
  return hsv(360 * random(), between(random, 0.4, 0.8), between(random, 0.4, 0.8));
}

/** White, black, grey, or any hue: not near the screen's by intention, sometimes by chance. */
export function someColour(random: Random): Colour {
  const kind = random();
  if (kind < 0.2) return hsv(random() * 360, 0.06 * random(), between(random, 0.78, 0.97));
  if (kind < 0.4) return hsv(random() * 360, 0.15 * random(), between(random, 0.06, 0.22));
  if (kind < 0.55) return hsv(random() * 360, 0.12 * random(), between(random, 0.25, 0.7));
  return hsv(random() * 360, between(random, 0.25, 0.9), between(random, 0.2, 0.9));
}

/**
 * Colours that a screen may take with it: its own hue duller, darker or lighter, or the very same, and its neighbours'.
 */
export function nearColour(random: Random, hue: number): Colour {
  const own =
    random() < 0.4 ? hue + between(random, -12, 12) : hue >= 200 ? between(random, 190, 250) : between(random, 60, 185);
  return hsv(own, between(random, 0.25, 0.95), between(random, 0.15, 0.85));
}
