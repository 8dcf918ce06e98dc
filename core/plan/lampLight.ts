import { diffusions, entry, gels, lampFactsByKind } from './library.ts';
import type { Lamp } from './plan.ts';

/** Light of a lamp after modifier, gel, diffusion and dimmer. */
export interface LampLight {
  /** Luminous flux in lm; energy of a flash in lm·s; illuminance in lx for sun and sky. */
  flux: number;
  /** Intensity on the axis, cd (cd·s for a flash); 0 for sun and sky. */
  peak: number;
  /** Exponent of the beam: intensity = peak · cosⁿ of the angle from the axis. */
  exponent: number;
  /** Linear sRGB of luminance 1. */
  rgb: readonly [number, number, number];
  temperature: number;
  tint: number;
  /** Losses in stops, each above 0. */
  losses: { modifier: number; gel: number; diffusion: number; dimmer: number };
}

/** Luminous efficacy of xenon flash tubes, lm·s for each joule (typical of 35–45). */
const FLASH_EFFICACY = 40;

export function lampLight(lamp: Lamp): LampLight {
  const gel = entry(gels, lamp.gel, 'gel');
  const diffusion = entry(diffusions, lamp.diffusion, 'diffusion');
  const { efficiency } = lampFactsByKind[lamp.kind];
  const passed = efficiency * gel.transmission * diffusion.transmission * lamp.power;
  const exponent = beamExponent(Math.min(170, Math.hypot(lamp.beam, diffusion.spread)));
  const temperature = shiftMired(lamp.temperature, gel.mired);
  const losses = {
    modifier: -Math.log2(efficiency),
    gel: -Math.log2(gel.transmission),
    diffusion: -Math.log2(diffusion.transmission),
    dimmer: -Math.log2(lamp.power),
  };
  const rgb = tinted(temperatureToRgb(temperature), lamp.tint, gel.filter);
  if (lamp.unit === 'lux' || lamp.kind === 'sun' || lamp.kind === 'overcast')
    return { flux: lamp.output * passed, peak: 0, exponent, rgb, temperature, tint: lamp.tint, losses };
  // Φ = ∫ I₀ cosⁿθ dΩ over the half space = 2π I₀ / (n + 1).
  const whole = (2 * Math.PI) / (exponent + 1);
  const flux =
    (lamp.unit === 'candela'
      ? lamp.output * ((2 * Math.PI) / (beamExponent(lamp.beam) + 1))
      : lamp.unit === 'joule'
        ? lamp.output * FLASH_EFFICACY
        : lamp.output) * passed;
  return { flux, peak: flux / whole, exponent, rgb, temperature, tint: lamp.tint, losses };
}

/** Exponent n of cosⁿ that is one half at half the full `beam` angle (degrees); 120° gives 1, a flat matt surface. */
export function beamExponent(beam: number): number {
  return Math.log(0.5) / Math.log(Math.cos((beam * Math.PI) / 360));
}

/** Colour temperature (K) after a filter of so many mired (10⁻⁶/K); kept within 1000–40000 K. */
export function shiftMired(temperature: number, mired: number): number {
  return 1e6 / Math.min(1000, Math.max(25, 1e6 / temperature + mired));
}

/**
 * Linear sRGB of a Planckian radiator, luminance 1; channels kept above 0. Chromaticity by the cubic fit of Kim et al.
 * (US patent 7024034, widely cited), 1667–25000 K; held at the ends outside.
 */
export function temperatureToRgb(kelvin: number): [number, number, number] {
  const t = Math.min(25000, Math.max(1667, kelvin));
  const i = 1000 / t;
  const x =
    t <= 4000
      ? -0.2661239 * i ** 3 - 0.234358 * i ** 2 + 0.8776956 * i + 0.17991
      : -3.0258469 * i ** 3 + 2.1070379 * i ** 2 + 0.2226347 * i + 0.24039;
  const y =
    t <= 2222
      ? -1.1063814 * x ** 3 - 1.3481102 * x ** 2 + 2.18555832 * x - 0.20219683
      : t <= 4000
        ? -0.9549476 * x ** 3 - 1.37418593 * x ** 2 + 2.09137015 * x - 0.16748867
        : 3.081758 * x ** 3 - 5.8733867 * x ** 2 + 3.75112997 * x - 0.37001483;
  const X = x / y;
  const Z = (1 - x - y) / y;
  // IEC 61966-2-1 matrix from XYZ.
  return normalised([
    3.2406 * X - 1.5372 - 0.4986 * Z,
    -0.9689 * X + 1.8758 + 0.0415 * Z,
    0.0557 * X - 0.204 + 1.057 * Z,
  ]);
}

function tinted(
  rgb: readonly [number, number, number],
  tint: number,
  filter: readonly [number, number, number],
): [number, number, number] {
  return normalised([rgb[0] * filter[0], rgb[1] * filter[1] * Math.pow(10, -tint / 100), rgb[2] * filter[2]]);
}

function normalised(rgb: [number, number, number]): [number, number, number] {
  const r = Math.max(0.002, rgb[0]);
  const g = Math.max(0.002, rgb[1]);
  const b = Math.max(0.002, rgb[2]);
  const luminance = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  return [r / luminance, g / luminance, b / luminance];
}
