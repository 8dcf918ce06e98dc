import { bounceOn, rememberLight } from './bounce.ts';
import { faceOf, lightOn, type Rgb } from './exposure.ts';
import type { Evenness } from './lawnMap.ts';
import { illuminance, type Source } from './light.ts';
import type { Plan } from './plan.ts';
import { subtract, unit, vec, type Vec } from './vector.ts';

/** Light on the person, in lx; ratios in stops. */
export interface PersonLight {
  key: string;
  keyLux: number;
  keyOverScreen: number;
  keyOverFill: number;
  /** Screen lamps' direct light on the worst side of the person, as a share of the key. */
  screenLamps: number;
}

/** Screen light on the person, stops below the key in the screen's channel. */
export interface Bounce {
  left: number;
  right: number;
  back: number;
  /** Share of a hemisphere that the screen fills as seen from the left edge, right edge and back. */
  formFactor: { left: number; right: number; back: number };
}

/** The first person's light, as with a meter at the face; null without a person, a lamp, or light. */
export function personLight(plan: Plan, sources: readonly Source[], evenness: Evenness | null): PersonLight | null {
  const person = plan.people[0];
  if (!person || !plan.lamps.length) return null;
  const face = faceOf(person);
  // Read as with a meter held at the face and pointed at each lamp, which for sun and sky means the side they come
  // from.
  const towards = (source: Source): Vec =>
    source.kind === 'sky' || source.kind === 'room'
      ? vec(0, 0.5, 0.866)
      : source.kind === 'sun'
        ? vec(-source.axis.x, -source.axis.y, -source.axis.z)
        : unit(subtract(source.centre, face));
  const at = sources.map((source) => ({ source, lux: illuminance(source, face, towards(source)) }));
  const keys = at.filter(({ source }) => source.lamp.role === 'key');
  const lamps = at.filter(({ source }) => source.kind !== 'room');
  const key = (keys.length ? keys : lamps).reduce((most, one) => (one.lux > most.lux ? one : most));
  const toCamera = unit(subtract(plan.camera.position, face));
  const fill = at
    .filter((one) => one !== key && one.source.lamp.role !== 'edge')
    .reduce((sum, { source }) => sum + illuminance(source, face, toCamera), 0);
  const keyOnFace = illuminance(key.source, face, toCamera);
  const sides = [vec(-1, 0, 0), vec(1, 0, 0), vec(0, 0, 1)].map((normal) =>
    sources
      .filter((s) => s.lamp.role === 'screen')
      .reduce((sum, s) => sum + illuminance(s, vec(face.x, face.y - 0.25, person.z), normal), 0),
  );
  if (key.lux <= 0) return null;
  return {
    key: key.source.lamp.name,
    keyLux: key.lux,
    keyOverScreen: evenness && evenness.mean > 0 ? Math.log2(key.lux / evenness.mean) : 0,
    keyOverFill: Math.min(8, Math.log2((keyOnFace + fill) / Math.max(1e-6, fill))),
    screenLamps: Math.max(...sides) / key.lux,
  };
}

/** What the lit screen throws on the first person. @param gain of white balance. */
export function bounceReport(plan: Plan, sources: readonly Source[], gain: Rgb): Bounce | null {
  const person = plan.people[0];
  if (!person || !sources.length) return null;
  const channel = plan.screen.colour === 'blue' ? 2 : 1;
  const face = faceOf(person);
  const chin = vec(person.x, person.height * 0.88, person.z);
  const key = lightOn(sources, face, unit(subtract(plan.camera.position, face)))[channel] * gain[channel];
  if (key <= 0) return null;
  const light = rememberLight(sources);
  const unitLight = (): Rgb => [1, 1, 1];
  const white = { screen: { ...plan.screen, red: 1, green: 1, blue: 1 } };
  // The edges that the camera still sees look sideways and a little back; the back is what hair shows through.
  const sides = { left: unit(vec(-1, 0, -0.35)), right: unit(vec(1, 0, -0.35)), back: vec(0, 0, -1) };
  const below = (normal: Vec): number =>
    Math.min(12, Math.log2(key / Math.max(1e-9, bounceOn(plan, chin, normal, light)[channel] * gain[channel])));
  const factor = (normal: Vec): number => bounceOn(white, chin, normal, unitLight, 10)[0];
  return {
    left: below(sides.left),
    right: below(sides.right),
    back: below(sides.back),
    formFactor: { left: factor(sides.left), right: factor(sides.right), back: factor(sides.back) },
  };
}
