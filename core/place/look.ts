/**
 * How a person and a background are made to agree. One table that the code, the interface, the contract and the
 * documents all read: a setting has exactly one range, default, unit and wording.
 */
export type Look = Record<LookSetting, number> & Record<LookSwitch, boolean>;

export type LookGroup = 'match' | 'hand' | 'joining' | 'background' | 'grade';
export const lookGroups: Record<LookGroup, string> = {
  match: 'Matched by measuring',
  hand: 'Person, by hand',
  joining: 'Where they meet',
  background: 'Background alone',
  grade: 'Over all',
};

export type LookSetting =
  | 'toLevel'
  | 'toTint'
  | 'toBlacks'
  | 'toSaturation'
  | 'toSharpness'
  | 'toGrain'
  | 'toSide'
  | 'exposure'
  | 'warmth'
  | 'tint'
  | 'contrast'
  | 'saturation'
  | 'blur'
  | 'turn'
  | 'wrap'
  | 'wrapWidth'
  | 'bounce'
  | 'bounceBelow'
  | 'sideLight'
  | 'haze'
  | 'reflection'
  | 'glow'
  | 'shade'
  | 'shadeFrom'
  | 'shadeReach'
  | 'shadeSoftness'
  | 'contact'
  | 'ground'
  | 'wall'
  | 'shadowSide'
  | 'shadowLength'
  | 'shadowSoftness'
  | 'behindTurn'
  | 'behindZoom'
  | 'behindAcross'
  | 'behindDown'
  | 'behindBlur'
  | 'behindExposure'
  | 'behindWarmth'
  | 'behindSaturation'
  | 'allExposure'
  | 'allContrast'
  | 'allWarmth'
  | 'allTint'
  | 'allSaturation'
  | 'allShadows'
  | 'allLights'
  | 'lutStrength'
  | 'vignette';
export type LookSwitch = 'mirrorPerson' | 'mirrorBackground';

export interface LookFacts {
  group: LookGroup;
  label: string;
  /** Inclusive. */
  min: number;
  max: number;
  step: number;
  /** What a new style starts with. */
  default: number;
  /** At this value nothing is done. */
  none: number;
  unit: string;
  effect: string;
}

const share = { min: 0, max: 1, step: 0.05, none: 0, unit: 'share' };
const stops = { min: -2, max: 2, step: 0.05, none: 0, default: 0, unit: 'stops' };
const mired = { min: -120, max: 120, step: 5, none: 0, default: 0, unit: 'mired' };
const times = { min: 0, max: 2, step: 0.05, none: 1, default: 1, unit: 'times' };
const curve = { min: -1, max: 1, step: 0.05, none: 0, default: 0, unit: 'stops' };
/** Lengths are thousandths of the background's height, so that they mean the same in any size. */
const length = { min: 0, max: 20, step: 0.25, none: 0, default: 0, unit: '‰ of height' };

export const lookFacts: Record<LookSetting, LookFacts> = {
  toLevel: {
    ...share,
    group: 'match',
    label: 'Brightness',
    default: 0.85,
    effect: 'The person as bright as somebody would be who stood in that light.',
  },
  toTint: {
    ...share,
    group: 'match',
    label: 'Colour of the light',
    default: 1,
    effect: 'As warm or cold as the light there; skin is turned no further than stated.',
  },
  toBlacks: {
    ...share,
    group: 'match',
    label: 'Blacks',
    default: 0.3,
    effect: 'The darkest of the person as dark as the darkest behind, and of its tint.',
  },
  toSaturation: {
    ...share,
    group: 'match',
    label: 'Saturation',
    default: 0.3,
    effect: 'Colours as strong as those of the background.',
  },
  toSharpness: {
    ...share,
    group: 'match',
    label: 'Sharpness',
    default: 0,
    effect:
      'No sharper than the background. Leave it where the background is out of focus behind a person who would be in focus.',
  },
  toGrain: { ...share, group: 'match', label: 'Grain', default: 0.7, effect: 'Grain as strong as the background’s.' },
  toSide: {
    ...share,
    group: 'match',
    label: 'Side of the light',
    default: 0.8,
    effect:
      'Lightens the side from which the scene’s light comes, once that is marked under Scene. Which way a place faces is guessed.',
  },
  exposure: { ...stops, group: 'hand', label: 'Exposure', effect: 'Lighter or darker, after what was measured.' },
  warmth: { ...mired, group: 'hand', label: 'Warmth', effect: 'Warmer to the right.' },
  tint: {
    ...share,
    min: -1,
    default: 0,
    group: 'hand',
    label: 'Green or magenta',
    effect: 'Green to the left, magenta to the right.',
  },
  contrast: { ...times, min: 0.5, max: 1.5, group: 'hand', label: 'Contrast', effect: 'About the middle grey.' },
  saturation: { ...times, group: 'hand', label: 'Saturation', effect: 'None is grey.' },
  blur: { ...length, max: 6, group: 'hand', label: 'Softer', effect: 'Person and edge together, as a lens would.' },
  turn: {
    min: -20,
    max: 20,
    step: 0.5,
    none: 0,
    default: 0,
    unit: '°',
    group: 'hand',
    label: 'Turned',
    effect: 'Clockwise to the right, about the middle of the frame.',
  },
  wrap: {
    ...share,
    group: 'joining',
    label: 'Light round the edge',
    default: 0.1,
    effect: 'Light from behind reaches over the edge, where the background is brighter.',
  },
  wrapWidth: {
    ...length,
    none: 8,
    default: 8,
    min: 3,
    group: 'joining',
    label: 'How far round',
    effect: 'How far from the edge that light reaches.',
  },
  bounce: {
    ...share,
    group: 'joining',
    label: 'Light from the sides',
    default: 0.25,
    effect: 'Sides of the person take the colour of what lies beside them.',
  },
  bounceBelow: {
    ...share,
    group: 'joining',
    label: 'Light from below',
    default: 0.1,
    effect: 'The ground throws its colour upwards.',
  },
  sideLight: {
    ...share,
    min: -1,
    default: 0,
    group: 'joining',
    label: 'Light from left or right',
    effect:
      'Lightens one side of the person and darkens the other. Which way a place faces is guessed from the outline.',
  },
  haze: {
    ...share,
    max: 0.6,
    group: 'joining',
    label: 'Haze before the person',
    default: 0,
    effect: 'Air of the background’s colour, as in the distance.',
  },
  glow: {
    ...share,
    group: 'joining',
    label: 'Glow of lights',
    default: 0,
    effect: 'Bright lights of the background shine over the person before them.',
  },
  shade: {
    ...share,
    group: 'joining',
    label: 'Shade over the person',
    default: 0,
    effect: 'Of something in the scene: a tree, a house, a window’s frame.',
  },
  shadeFrom: {
    min: -180,
    max: 180,
    step: 5,
    none: 0,
    default: 0,
    unit: '°',
    group: 'joining',
    label: 'Shade from',
    effect: '0 from above, 90 from the right, −90 from the left, 180 from below.',
  },
  shadeReach: {
    ...share,
    none: 0.5,
    default: 0.5,
    group: 'joining',
    label: 'How far it reaches',
    effect: 'Over how much of the person it lies.',
  },
  shadeSoftness: {
    ...length,
    min: 1,
    max: 200,
    step: 1,
    none: 40,
    default: 40,
    group: 'joining',
    label: 'Softness of the shade',
    effect: 'Soft where what throws it is far away.',
  },
  reflection: {
    ...share,
    max: 0.8,
    group: 'joining',
    label: 'Reflection in the ground',
    default: 0,
    effect: 'Of a wet or polished floor, from the feet downwards.',
  },
  contact: {
    ...share,
    group: 'joining',
    label: 'Shadow at the feet',
    default: 0.5,
    effect: 'Dark where feet or a seat meet the ground. Seen where they are in the picture.',
  },
  ground: {
    ...share,
    group: 'joining',
    label: 'Shadow on the ground',
    default: 0.2,
    effect: 'Cast from the feet, away from the light.',
  },
  wall: {
    ...share,
    group: 'joining',
    label: 'Shadow on a wall behind',
    default: 0,
    effect: 'Beside the person, away from the light.',
  },
  shadowSide: {
    ...share,
    min: -1,
    default: 0.3,
    group: 'joining',
    label: 'Falls left or right',
    effect: 'Away from the light: below nought to the left.',
  },
  shadowLength: {
    ...share,
    min: 0.05,
    max: 1.5,
    none: 0.4,
    default: 0.4,
    group: 'joining',
    label: 'Length',
    effect: 'Long with a low light.',
  },
  shadowSoftness: {
    ...length,
    max: 60,
    step: 1,
    none: 20,
    default: 20,
    group: 'joining',
    label: 'Softness',
    effect: 'At the far end of the shadow; at the feet it is sharp.',
  },
  behindTurn: {
    min: -15,
    max: 15,
    step: 0.1,
    none: 0,
    default: 0,
    group: 'background',
    label: 'Turned',
    unit: '°',
    effect: 'To put a horizon level; it is made as much larger as keeps its corners out of sight.',
  },
  behindZoom: {
    ...times,
    min: 1,
    max: 3,
    group: 'background',
    label: 'Larger',
    effect: 'A part of it fills the picture.',
  },
  behindAcross: {
    ...share,
    min: -1,
    default: 0,
    group: 'background',
    label: 'Part at left or right',
    effect: 'Which part is seen, once it is larger.',
  },
  behindDown: {
    ...share,
    min: -1,
    default: 0,
    group: 'background',
    label: 'Part above or below',
    effect: 'Which part is seen, once it is larger.',
  },
  behindBlur: { ...length, group: 'background', label: 'Blur', effect: 'Out of focus behind the person.' },
  behindExposure: { ...stops, group: 'background', label: 'Exposure', effect: 'Lighter or darker.' },
  behindWarmth: { ...mired, group: 'background', label: 'Warmth', effect: 'Warmer to the right.' },
  behindSaturation: { ...times, group: 'background', label: 'Saturation', effect: 'None is grey.' },
  allExposure: { ...stops, group: 'grade', label: 'Exposure', effect: 'Person and background together.' },
  allContrast: { ...times, min: 0.5, max: 1.5, group: 'grade', label: 'Contrast', effect: 'About the middle grey.' },
  allWarmth: { ...mired, group: 'grade', label: 'Warmth', effect: 'Warmer to the right.' },
  allTint: {
    ...share,
    min: -1,
    default: 0,
    group: 'grade',
    label: 'Green or magenta',
    effect: 'Green to the left, magenta to the right.',
  },
  allSaturation: { ...times, group: 'grade', label: 'Saturation', effect: 'None is grey.' },
  allShadows: {
    ...curve,
    group: 'grade',
    label: 'Shadows',
    effect: 'Lifts or deepens what is dark; the middle stays.',
  },
  allLights: {
    ...curve,
    group: 'grade',
    label: 'Lights',
    effect: 'Raises or holds back what is light; the middle stays.',
  },
  lutStrength: {
    ...share,
    group: 'grade',
    label: 'Strength of the look-up table',
    none: 1,
    default: 1,
    effect: 'How far colours follow the table, if there is one.',
  },
  vignette: { ...share, group: 'grade', label: 'Darker corners', default: 0, effect: 'Leads the eye to the middle.' },
};
export const lookSettings = Object.keys(lookFacts) as LookSetting[];
export const lookSwitches: Record<LookSwitch, string> = {
  mirrorPerson: 'Mirror the person',
  mirrorBackground: 'Mirror the background',
};

function lookOf(value: (facts: LookFacts) => number): Look {
  return {
    ...(Object.fromEntries(lookSettings.map((name) => [name, value(lookFacts[name])])) as Record<LookSetting, number>),
    mirrorPerson: false,
    mirrorBackground: false,
  };
}
/** Nothing is done to either: person and background as they are. */
export const plainLook: Look = lookOf(({ none }) => none);
/** What a new style starts with. */
export const defaultLook: Look = lookOf((facts) => facts.default);

/** Settings that only say where or how far another reaches. */
const shaping = new Set<string>([
  'wrapWidth',
  'shadowSide',
  'shadowLength',
  'shadowSoftness',
  'shadeFrom',
  'shadeReach',
  'shadeSoftness',
  'behindAcross',
  'behindDown',
  'lutStrength',
]);

/** Whether a look leaves both pictures as they are. */
export function isPlain(look: Look): boolean {
  return (Object.keys(plainLook) as (keyof Look)[]).every(
    (name) => shaping.has(name) || look[name] === plainLook[name],
  );
}
