import { luminance } from '../colour/luminance.ts';
import type { Rgb } from '../plan/exposure.ts';
import { lookFacts, type Look } from './look.ts';
import { stepOf } from '../colour/lightGains.ts';

/**
 * Exposure, warmth and tint by hand, so that what looks like one colour on the person comes to look like another of the
 * background: this white is that white.
 * @param look as it is.
 * @param person, there linear colours as they are seen now.
 * @returns within the ranges of the settings.
 */
export function byPair(look: Look, person: Rgb, there: Rgb): Pick<Look, 'exposure' | 'warmth' | 'tint'> {
  const least = 1e-3;
  const ratio = there.map((v, c) => Math.max(least, v) / Math.max(least, person[c])) as Rgb;
  const { warmth, tint } = stepOf(ratio);
  const stops = Math.log2(luminance(...there) / Math.max(least, luminance(...person)));
  const within = (name: 'exposure' | 'warmth' | 'tint', value: number): number => {
    const { min, max, step } = lookFacts[name];
    const fine = step / 5;
    return Math.min(max, Math.max(min, Math.round((look[name] + value) / fine) * fine));
  };
  return {
    exposure: within('exposure', Math.max(-4, Math.min(4, stops))),
    warmth: within('warmth', warmth),
    tint: within('tint', tint),
  };
}
