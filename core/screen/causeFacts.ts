import type { ReadingId } from '../plan/readings.ts';

/** What can be wrong with a set, in the words that a cause is told in, and can be rehearsed. */
export const rehearsedFacts = {
  weakLamp: { title: 'One screen lamp is weaker', reading: 'spread' },
  lampsNear: { title: 'Screen lamps stand too near', reading: 'spread' },
  hotMiddle: { title: 'Beams overlap in a hot middle', reading: 'spread' },
  tooClose: { title: 'The person stands too close to the screen', reading: 'bounce' },
  keyShadow: { title: 'The key casts a shadow on the screen', reading: 'shadow' },
  window: { title: 'Daylight from a window reaches the screen', reading: 'mismatch' },
  wrinkles: { title: 'Creases in the screen', reading: 'wrinkle' },
  overlit: { title: 'The screen is lit too strongly and turns pale', reading: 'level' },
  gain: { title: 'Gain is too high', reading: 'noise' },
  mixedLamps: { title: 'Lamps of different colours', reading: 'mismatch' },
  whiteBalance: { title: 'White balance is off', reading: 'whiteBalance' },
  clothing: { title: 'Clothes near the screen’s colour', reading: 'nearColour' },
  smallScreen: { title: 'The screen is too small for the frame', reading: 'coverage' },
  defocus: { title: 'The person is out of focus', reading: 'edge' },
  motion: { title: 'The person moved', reading: 'smear' },
} as const satisfies Record<string, { title: string; reading: ReadingId }>;

/** The same, for what the stand-in camera does not hide in a rehearsal. */
const furtherFacts = {
  dark: { title: 'The screen is too dark', reading: 'level' },
  fallOff: { title: 'The light falls off across the screen', reading: 'spread' },
  pale: { title: 'The screen’s colour is pale', reading: 'purity' },
  shine: { title: 'The screen mirrors a lamp', reading: 'gloss' },
  keyLevel: { title: 'Key and screen do not agree', reading: 'cardScreen' },
  exposure: { title: 'The exposure is off', reading: 'exposure' },
  personExposure: { title: 'The person is exposed wrongly', reading: 'personLevel' },
  lightRatio: { title: 'Key and fill do not agree', reading: 'keyFill' },
  chartOff: { title: 'Colours are off, beyond white balance', reading: 'chart' },
} as const satisfies Record<string, { title: string; reading: ReadingId }>;

export const causeFacts = { ...rehearsedFacts, ...furtherFacts };
export type RehearsedCause = keyof typeof rehearsedFacts;
export type CauseId = keyof typeof causeFacts;
