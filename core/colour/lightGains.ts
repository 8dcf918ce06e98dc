import type { Rgb } from '../plan/exposure.ts';
import { temperatureToRgb } from '../plan/lampLight.ts';
import { luminance } from './luminance.ts';

/** Light of another strength and colour, as gains of linear RGB. */

/** Daylight, to which people are balanced when they are photographed. */
const DAYLIGHT = temperatureToRgb(6500);
const DAYLIGHT_MIRED = 1e6 / 6500;
/** Widest green or magenta: stops between green and the others. */
export const TINT_STOPS = 0.6;

/** Gains of light that is warmer by so many mired, of luminance 1 on grey. */
export function warmer(mired: number): Rgb {
  const light = temperatureToRgb(1e6 / Math.max(25, DAYLIGHT_MIRED + mired));
  return balanced(light.map((v, c) => v / DAYLIGHT[c]) as Rgb);
}

/** The same colour of light, of luminance 1 on grey. */
export function balanced(gain: Rgb): Rgb {
  const strength = luminance(...gain);
  return gain.map((v) => v / strength) as Rgb;
}

/** How much warmer than daylight a light is, mired: by its red against its blue. */
export function miredOf(light: Rgb): number {
  const wanted = Math.log(light[0] / Math.max(1e-6, light[2]));
  let low = -120;
  let high = 500;
  for (let n = 0; n < 24; n++) {
    const middle = (low + high) / 2;
    const [r, , b] = warmer(middle);
    if (Math.log(r / b) < wanted) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

export function times(a: Rgb, b: Rgb): Rgb {
  return [a[0] * b[0], a[1] * b[1], a[2] * b[2]];
}

/** Gains that are greener by so many stops, of luminance 1 on grey; magenta below 0. */
export function greener(stops: number): Rgb {
  return balanced([1, 2 ** stops, 1]);
}

/** How light differs: stops, mired, and −1 green to 1 magenta. */
export interface LightStep {
  exposure: number;
  warmth: number;
  tint: number;
}

/** The gains of a step of light. */
export function gainsOf({ exposure, warmth, tint }: LightStep): Rgb {
  const strength = 2 ** exposure;
  return times([strength, strength, strength], times(warmer(warmth), greener(-tint * TINT_STOPS)));
}

/** The step of light whose gains are these, all above 0. */
export function stepOf(gains: Rgb): LightStep {
  const warmth = miredOf(gains);
  const light = warmer(warmth);
  const green = Math.log2(gains[1] / Math.sqrt(gains[0] * gains[2]) / (light[1] / Math.sqrt(light[0] * light[2])));
  return { exposure: Math.log2(luminance(...gains)), warmth, tint: -green / TINT_STOPS };
}
