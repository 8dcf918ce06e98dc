import { illuminance, type Source } from './light.ts';
import type { Camera, Person, Plan } from './plan.ts';
import { subtract, unit, vec, type Vec } from './vector.ts';

export type Rgb = [number, number, number];

/**
 * Linear sensor level (1: clipping) of a matt surface of reflectance 1 for each lux of light on it. ISO 12232 standard
 * output sensitivity: level 0.18 for 10/S lx·s on the sensor; on the sensor H = 0.65·L·t / N², L = E / π.
 */
export function levelPerLux(camera: Camera): number {
  return (0.018 * camera.iso * 0.65 * camera.shutter) / (Math.PI * camera.aperture ** 2);
}

export function faceOf(person: Person): Vec {
  return vec(person.x, person.height * 0.93, person.z + 0.09);
}

/** Light of all sources on a surface, per channel, in lx. */
export function lightOn(sources: readonly Source[], point: Vec, normal: Vec): Rgb {
  const out: Rgb = [0, 0, 0];
  for (const source of sources) {
    const e = illuminance(source, point, normal);
    for (let c = 0; c < 3; c++) out[c] += e * source.light.rgb[c];
  }
  return out;
}

/** Gains that make a grey card held at the face neutral, green 1; [1, 1, 1] without light. */
export function whiteBalance(plan: Plan, sources: readonly Source[]): Rgb {
  const person = plan.people[0];
  if (!person) return [1, 1, 1];
  const face = faceOf(person);
  const light = lightOn(sources, face, unit(subtract(plan.camera.position, face)));
  if (light[0] <= 0 || light[1] <= 0 || light[2] <= 0) return [1, 1, 1];
  return [light[1] / light[0], 1, light[1] / light[2]];
}

/** How far the screen's own channel stands above the others, as a share of it; below 0 it does not. */
export function purity(rgb: Rgb, screenChannel: 1 | 2): number {
  const own = rgb[screenChannel];
  const other = Math.max(rgb[0], rgb[3 - screenChannel]);
  return own > 0 ? (own - other) / own : 0;
}

export interface Noise {
  /** Electrons at clipping. */
  full: number;
  /** Read noise in electrons. */
  read: number;
}

/** A modern sensor: 1800 electrons for each µm² at ISO 100, fewer in proportion to gain; read noise 3 electrons. */
export function sensorNoise(camera: Camera): Noise {
  const area = ((camera.sensorWidth * 1e6) / camera.pixelsAcross) * ((camera.sensorHeight * 1e6) / camera.pixelsDown);
  return { full: (area * 1800 * 100) / camera.iso, read: 3 };
}

/** Standard deviation of a linear level (1: clipping). */
export function noiseAt({ full, read }: Noise, level: number): number {
  return Math.sqrt(Math.max(0, level) / full + (read / full) ** 2);
}
