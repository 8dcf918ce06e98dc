import { medianOf } from '../screen/statistics.ts';

/** Binary logarithms of red and blue to green, and of green, in linear light. */
export type LogColour = readonly [red: number, blue: number, level: number];

/** A face's skin: its middle colour, and how far colours of it lie apart. */
export interface Skin {
  middle: LogColour;
  spread: number;
}

export const bounds = {
  /** How far a colour may lie from the face's middle one, at least and at the most; and darker and lighter than it. */
  hueLeast: 0.14,
  hueMost: 0.4,
  darker: 2.2,
  lighter: 1.3,
};

/** @param r linear light, as g and b. */
export function logColour(r: number, g: number, b: number): LogColour {
  const green = Math.log2(g + 1e-3);
  return [Math.log2(r + 1e-3) - green, Math.log2(b + 1e-3) - green, green];
}

/** The skin that samples of a face show; undefined if there are none. */
export function skinOf(samples: readonly LogColour[]): Skin | undefined {
  if (!samples.length) return undefined;
  const middle = [0, 1, 2].map((k) => medianOf(samples.map((colour) => colour[k]))) as unknown as LogColour;
  const spread = 4 * medianOf(samples.map((colour) => apart(colour, middle)));
  return { middle, spread: Math.min(bounds.hueMost, Math.max(bounds.hueLeast, spread)) };
}

/** Whether a colour may be of a skin, lighter or in shadow. */
export function isSkin(colour: LogColour, { middle, spread }: Skin): boolean {
  const lighter = colour[2] - middle[2];
  return apart(colour, middle) < spread && lighter > -bounds.darker && lighter < bounds.lighter;
}

function apart(a: LogColour, b: LogColour): number {
  return Math.hypot(a[0] - b[0], a[1] - b[1]);
}
