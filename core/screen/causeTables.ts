import type { ReadingId } from '../plan/readings.ts';
import type { CauseId } from './causeFacts.ts';

/** Readings besides its own that a cause explains. */
export const alsoShownBy: Partial<Record<CauseId, ReadingId[]>> = {
  weakLamp: ['tilt'],
  window: ['tilt', 'spread'],
  lampsNear: ['sides'],
  hotMiddle: ['bulge'],
  fallOff: ['tilt'],
  overlit: ['clipped', 'purity'],
  tooClose: ['shadow'],
  shine: ['bulge', 'purity', 'mismatch', 'tilt', 'spread'],
};

/** What a reading beyond its bound means where no other sign tells more. */
export const causeOf: Partial<Record<ReadingId, CauseId>> = {
  coverage: 'smallScreen',
  spread: 'fallOff',
  tilt: 'weakLamp',
  bulge: 'hotMiddle',
  sides: 'lampsNear',
  mismatch: 'mixedLamps',
  wrinkle: 'wrinkles',
  level: 'dark',
  clipped: 'overlit',
  purity: 'pale',
  gloss: 'shine',
  noise: 'gain',
  shadow: 'keyShadow',
  bounce: 'tooClose',
  nearColour: 'clothing',
  edge: 'defocus',
  smear: 'motion',
  whiteBalance: 'whiteBalance',
  cardScreen: 'keyLevel',
  exposure: 'exposure',
  personLevel: 'personExposure',
  keyFill: 'lightRatio',
  chart: 'chartOff',
};

/** What one cause does to the readings of another: with the first there, the second needs to be so much stronger. */
export const sideEffects: Partial<Record<CauseId, Partial<Record<CauseId, number>>>> = {
  shine: { window: 0.2, mixedLamps: 0.4, hotMiddle: 0.6, overlit: 0.6, wrinkles: 0.6, pale: 0.7 },
  overlit: { mixedLamps: 0.3, clothing: 0.4, pale: 0.3, exposure: 0.8 },
  window: { overlit: 0.4, wrinkles: 0.4, lampsNear: 0.6, whiteBalance: 0.7, smallScreen: 0.5, fallOff: 0.3 },
  hotMiddle: { overlit: 0.4, wrinkles: 0.6, fallOff: 0.4 },
  smallScreen: { weakLamp: 0.35, window: 0.35, clothing: 0.5, motion: 0.6 },
  weakLamp: { fallOff: 0.3 },
  exposure: { dark: 0.7, personExposure: 0.3 },
  gain: { pale: 0.8 },
  lampsNear: { wrinkles: 0.6, mixedLamps: 0.8, fallOff: 0.4 },
  motion: { clothing: 0.3 },
  defocus: { clothing: 0.5 },
  clothing: { keyShadow: 0.3, tooClose: 0.3 },
  wrinkles: { weakLamp: 0.6 },
};
