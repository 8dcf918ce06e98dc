import { bounceOn, rememberLight } from '../plan/bounce.ts';
import { faceOf, levelPerLux, whiteBalance, type Rgb } from '../plan/exposure.ts';
import { illuminance, sourcesOf, type Source } from '../plan/light.ts';
import type { Person, Plan } from '../plan/plan.ts';
import { scale, subtract, unit, vec } from '../plan/vector.ts';
import type { Colour } from './figure.ts';
import type { Vector } from './solids.ts';

/** Parallel light as a body sees it: unit vector towards the lamp, linear sensor level on a white surface facing it. */
export interface Beam {
  direction: Vector;
  colour: Colour;
}

/** All light on a person. Levels are those of a white surface, 1: clipping. */
export interface Lights {
  /** The strongest from the front; it casts the shadows. */
  key: Beam;
  others: Beam[];
  ambient: Colour;
  /** Light bounced by the screen from behind; what it falls on multiplies it. */
  bounce: Colour;
}

/** Sensor level for each lux on a white surface, per channel, white balance included. */
export function levelsPerLux(plan: Plan, sources: readonly Source[]): Rgb {
  const k = levelPerLux(plan.camera);
  return whiteBalance(plan, sources).map((gain) => gain * k) as Rgb;
}

/** The plan's light where a person stands, as the painter needs it. */
export function lightsOn(plan: Plan, person: Person): Lights {
  const sources = sourcesOf(plan, 3);
  const perLux = levelsPerLux(plan, sources);
  const face = faceOf(person);
  const ambient: [number, number, number] = [0.002, 0.002, 0.002];
  const beams: (Beam & { frontal: number })[] = [];
  for (const source of sources) {
    const { rgb } = source.light;
    if (source.kind === 'room' || source.kind === 'sky') {
      const e = illuminance(source, face, vec(0, 0, 1));
      for (let c = 0; c < 3; c++) ambient[c] += e * rgb[c] * perLux[c];
      continue;
    }
    const towards = source.kind === 'sun' ? scale(source.axis, -1) : unit(subtract(source.centre, face));
    const e = illuminance(source, face, towards);
    if (e <= 0) continue;
    beams.push({
      direction: [towards.x, towards.y, towards.z],
      colour: [e * rgb[0] * perLux[0], e * rgb[1] * perLux[1], e * rgb[2] * perLux[2]],
      frontal: e * Math.max(0.02, towards.z),
    });
  }
  beams.sort((a, b) => b.frontal - a.frontal);
  const dark: Beam = { direction: [0, 0, 1], colour: [0, 0, 0] };
  const chin = vec(person.x, person.height * 0.88, person.z);
  const bounced = bounceOn(plan, chin, vec(0, 0, -1), rememberLight(sources));
  return {
    key: beams[0] ?? dark,
    others: beams.slice(1),
    ambient,
    bounce: [bounced[0] * perLux[0], bounced[1] * perLux[1], bounced[2] * perLux[2]],
  };
}
