import { luminance } from '../colour/luminance.ts';
import { linearToOklab } from '../colour/oklab.ts';
import type { Rgb } from '../plan/exposure.ts';
import { balanced, greener, miredOf, times, TINT_STOPS, warmer } from '../colour/lightGains.ts';
import { frontRatio, mirroredLight, type BallLight } from './ballLight.ts';
import type { Look } from './look.ts';
import { scaleOn, type Placement, type Size } from './placement.ts';
import type { Tones } from './tones.ts';

/** How the colours of one picture are changed, in linear light and in this order. */
export interface ColourStep {
  /** On each channel; then the lift is laid under it: lift + (1 − lift) · gain · colour. */
  gain: Rgb;
  lift: Rgb;
  /** Exponent about the middle grey. */
  contrast: number;
  /** Distance of each channel from the luminance. */
  saturation: number;
}
export const noColourStep: ColourStep = { gain: [1, 1, 1], lift: [0, 0, 0], contrast: 1, saturation: 1 };

/** What a person is given so that it agrees with a background, and what that comes to in words of the craft. */
export interface Match {
  step: ColourStep;
  /** Of the blur that is added, thousandths of the background's height. */
  blur: number;
  /** Standard deviation of the grain that is added, encoded, 0–1. */
  grain: number;
  /** Light that is added from the right, −1 to 1; taken from there and given to the left below nought. */
  turn: number;
  /** By balls: the light that each side of the person had and is to have, and how far. */
  relight?: { from: BallLight; to: BallLight; strength: number };
  proposed: {
    /** Stops lighter. */
    exposure: number;
    /** Mired warmer. */
    warmth: number;
    /** Linear luminance that the darkest is raised by. */
    lift: number;
    saturation: number;
    /** Degrees by which skin is turned at most, of hue. */
    skinTurn: number;
  };
}

/**
 * What is assumed where a picture does not say it: a dark thing may be dark or in the dark, a warm one painted or lit. So
 * only a part of what is measured is believed, the more the less there is another reason for it.
 */
export const matchBounds = {
  /** Luminance of the lightest in a scene in full light, and of a person so exposed. */
  sceneWhite: 0.5,
  personWhite: 0.35,
  whiteBelieved: 0.5,
  personBelieved: 0.3,
  mostOfPerson: 0.6,
  /**
   * Stops from the lightest to the middle of a scene that is lit from the front. Where they are more, the light is
   * behind, and whoever stands before it gets little of it.
   */
  evenRange: 1.3,
  rangeBelieved: 0.9,
  /** Stops that are proposed at most, darker and lighter. */
  darkest: -1.5,
  lightest: 0.5,
  darkestByBalls: -4,
  lightestByBalls: 3,
  /** Part of a scene's warmth that is believed to be light: skies are blue whatever the light. */
  warmBelieved: 0.5,
  coldBelieved: 0.25,
  /** Part of what is green or magenta that is. */
  tintBelieved: 0.2,
  coldest: -60,
  warmest: 170,
  /** Linear luminance of a scene's darkest from which on it says nothing of blacks, and what blacks are raised by at most. */
  noBlack: 0.06,
  mostLift: 0.03,
  saturationBelieved: 0.3,
  leastSaturation: 0.7,
  mostSaturation: 1.2,
  /** Degrees of hue that skin may be turned by. */
  skinTurn: 10,
  skinTurnByBalls: 20,
  /** How much lighter one side is of somebody who is lit wholly from there, and how much of the difference is turned. */
  sideOfPerson: 0.5,
  sideBelieved: 0.7,
};

const limited = (value: number, least: number, most: number): number => Math.min(most, Math.max(least, value));

/** What is measured of the files themselves, so that every size of a picture is matched alike. */
export interface Measured {
  person: Tones;
  scene: Tones;
  /** Sizes of the two files, pixels. */
  cut: Size;
  background: Size;
  /** From which side the scene's light comes, −1 left to 1 right; null where nobody has said. */
  lightFrom: number | null;
  /** Matt balls photographed where the person stood and where the background was taken, both exposed as those are. */
  balls?: { person: BallLight; scene: BallLight };
}

/** What the hand sets, without anything being measured. */
export function matchByHand(look: Look): Match {
  const proposed = { exposure: 0, warmth: 0, lift: 0, saturation: 1, skinTurn: 0 };
  const step = {
    gain: gainByHand(look),
    lift: noColourStep.lift,
    contrast: look.contrast,
    saturation: look.saturation,
  };
  return { step, blur: look.blur, grain: 0, turn: 0, proposed };
}

function gainByHand(look: Look): Rgb {
  const gain = times(warmer(look.warmth), greener(-look.tint * TINT_STOPS));
  return gain.map((v) => v * 2 ** look.exposure) as Rgb;
}

/** The match of a person to a background: measured, as far as the look's strengths say, and what the hand adds. */
export function matchOf(measuredOf: Measured, look: Look, placement: Placement): Match {
  const { person, scene, cut, background } = measuredOf;
  const b = matchBounds;
  const balls = measuredOf.balls && mirroredBalls(measuredOf.balls, look);
  const known = balls && frontRatio(balls.from, balls.to);
  const stops = known
    ? limited(known.stops, b.darkestByBalls, b.lightestByBalls)
    : limited(sceneStops(scene) - personStops(person), b.darkest, b.lightest);
  const exposure = look.toLevel * stops;
  const seen = miredOf(scene.light);
  const whole = limited((seen > 0 ? b.warmBelieved : b.coldBelieved) * seen, b.coldest, b.warmest);
  const residual = scene.light[1] / Math.sqrt(scene.light[0] * scene.light[2]);
  const ofLocus = warmer(seen);
  const green = b.tintBelieved * Math.log2(residual / (ofLocus[1] / Math.sqrt(ofLocus[0] * ofLocus[2])));
  const lightOf = (part: number): Rgb =>
    known ? balanced(known.tint.map((v) => v ** part) as Rgb) : times(warmer(part * whole), greener(part * green));
  // As far as skin allows.
  let part = look.toTint;
  const most = known ? b.skinTurnByBalls : b.skinTurn;
  if (skinTurn(lightOf(part)) > most) {
    let least = 0;
    for (let n = 0; n < 20; n++) {
      const middle = (least + part) / 2;
      if (skinTurn(lightOf(middle)) > most) part = middle;
      else least = middle;
    }
    part = least;
  }
  const tinted = lightOf(part);
  const measured = times(tinted, [2 ** exposure, 2 ** exposure, 2 ** exposure]);
  const saturation =
    1 +
    look.toSaturation *
      (limited(
        (Math.max(0.02, scene.saturation) / Math.max(0.02, person.saturation)) ** b.saturationBelieved,
        b.leastSaturation,
        b.mostSaturation,
      ) -
        1);
  const gain = times(measured, gainByHand(look));
  // A light that is known explains the blacks.
  const blacks = (known ? 0 : look.toBlacks) * limited(1 - luminance(...scene.black) / b.noBlack, 0, 1);
  const lift = scene.black.map((v, c) =>
    limited(blacks * (v - gain[c] * person.black[c]), -0.5 * gain[c] * person.black[c], b.mostLift),
  ) as Rgb;
  const placed = scaleOn(cut, background, placement);
  const missing = Math.sqrt(Math.max(0, scene.blur ** 2 - (person.blur * placed) ** 2));
  const grainThere = person.grain * Math.min(1, placed);
  return {
    step: { gain, lift, contrast: look.contrast, saturation: saturation * look.saturation },
    blur: look.blur + (look.toSharpness * missing * 1000) / background.height,
    turn: balls ? 0 : look.toSide * sideTurn(measuredOf, look),
    relight: balls && look.toSide > 0 ? { ...balls, strength: look.toSide } : undefined,
    grain: look.toGrain * Math.sqrt(Math.max(0, scene.grain ** 2 - grainThere ** 2)),
    proposed: {
      exposure,
      warmth: known ? miredOf(tinted) : part * whole,
      lift: luminance(...lift),
      saturation,
      skinTurn: skinTurn(tinted),
    },
  };
}

const stopsOver = (luminance: number, base: number): number => Math.log2(Math.max(1e-4, luminance) / base);

/** By how many stops somebody who stands in a scene is darker than in full light. */
function sceneStops({ white, level }: Tones): number {
  const b = matchBounds;
  const lightest = luminance(...white);
  const dark = Math.min(0, b.whiteBelieved * stopsOver(lightest, b.sceneWhite));
  const behind = Math.min(0, b.rangeBelieved * (stopsOver(level, lightest) + b.evenRange));
  return dark + behind;
}

/** By how many stops a person was exposed lighter than in full light. */
function personStops({ white }: Tones): number {
  const b = matchBounds;
  return limited(b.personBelieved * stopsOver(luminance(...white), b.personWhite), -b.mostOfPerson, b.mostOfPerson);
}

/** Both lights as they fall once person and background are mirrored or not. */
function mirroredBalls(
  { person, scene }: NonNullable<Measured['balls']>,
  { mirrorPerson, mirrorBackground }: Look,
): { from: BallLight; to: BallLight } {
  return {
    from: mirrorPerson ? mirroredLight(person) : person,
    to: mirrorBackground ? mirroredLight(scene) : scene,
  };
}

/**
 * From which side person and scene are lit, −1 left to 1 right, as both lie; a light that was marked counts before one
 * that was measured.
 */
export function sidesOf(
  { person, scene, lightFrom }: Pick<Measured, 'person' | 'scene' | 'lightFrom'>,
  { mirrorPerson, mirrorBackground }: Pick<Look, 'mirrorPerson' | 'mirrorBackground'>,
): { person: number; scene: number } {
  return {
    person: person.side * (mirrorPerson ? -1 : 1),
    scene: (lightFrom ?? scene.side) * (mirrorBackground ? -1 : 1),
  };
}

/** Light that a person lacks from the side of the scene's, as both lie once they are mirrored or not. */
function sideTurn(measured: Measured, look: Look): number {
  if (measured.lightFrom === null) return 0;
  const b = matchBounds;
  const sides = sidesOf(measured, look);
  return limited(b.sideBelieved * (sides.scene - limited(sides.person / b.sideOfPerson, -1, 1)), -1, 1);
}

/** Skins from the lightest to the darkest, linear reflectance. */
export const skins: readonly Rgb[] = [
  [0.72, 0.5, 0.4],
  [0.56, 0.34, 0.24],
  [0.42, 0.24, 0.16],
  [0.27, 0.14, 0.085],
  [0.15, 0.075, 0.045],
  [0.07, 0.038, 0.026],
];

/** By how many degrees gains turn the hue of skin at most. */
export function skinTurn(gain: Rgb): number {
  return Math.max(
    ...skins.map((skin) => {
      const turned = hueOf(times(skin, gain)) - hueOf(skin);
      return Math.abs(((turned + 540) % 360) - 180);
    }),
  );
}

export function hueOf([r, g, b]: Rgb): number {
  const [, a, other] = linearToOklab(r, g, b);
  return (Math.atan2(other, a) * 180) / Math.PI;
}

/** The step that a background's own settings, or those over all, ask for. */
export function handStep(exposure: number, warmth: number, saturation: number, contrast = 1, tint = 0): ColourStep {
  const light = times(warmer(warmth), greener(-tint * TINT_STOPS));
  return {
    gain: light.map((v) => v * 2 ** exposure) as Rgb,
    lift: [0, 0, 0],
    contrast,
    saturation,
  };
}

export function isNoStep({ gain, lift, contrast, saturation }: ColourStep): boolean {
  return contrast === 1 && saturation === 1 && gain.every((v) => Math.abs(v - 1) < 1e-9) && lift.every((v) => v === 0);
}

const MIDDLE_GREY = 0.18;
/** Points of the contrast curve, over linear light from 0 to 4, closer together where it is dark. */
const POINTS = 4096;
const REACH = 4;

/** A function that changes one linear colour in place. */
export function colourChanger({ gain, lift, contrast, saturation }: ColourStep): (rgb: Float32Array) => void {
  const curve =
    contrast === 1
      ? undefined
      : Float32Array.from({ length: POINTS + 2 }, (_, n) => {
          const v = REACH * (n / POINTS) ** 2;
          return MIDDLE_GREY * (v / MIDDLE_GREY) ** contrast;
        });
  const [gr, gg, gb] = gain.map((v, c) => v * (1 - lift[c]));
  const [lr, lg, lb] = lift;
  const curved = (v: number): number => {
    if (curve === undefined) return v;
    const at = Math.sqrt(Math.min(1, Math.max(0, v) / REACH)) * POINTS;
    const n = at | 0;
    return curve[n] + (at - n) * (curve[n + 1] - curve[n]);
  };
  return (rgb) => {
    let r = curved(lr + gr * rgb[0]);
    let g = curved(lg + gg * rgb[1]);
    let b = curved(lb + gb * rgb[2]);
    if (saturation !== 1) {
      const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
      r = y + saturation * (r - y);
      g = y + saturation * (g - y);
      b = y + saturation * (b - y);
    }
    rgb[0] = r > 0 ? r : 0;
    rgb[1] = g > 0 ? g : 0;
    rgb[2] = b > 0 ? b : 0;
  };
}
