import type { Check } from '../../../contract/index.ts';
import { personLightByCard, type PersonLight } from '../../../core/cut/index.ts';
import { trimNumber } from '../../shared/takeNumber.ts';

/** Light on the person as a card asks for it, and the same in words. */
export interface ByCard {
  set: Record<PersonLight, number>;
  words: string;
}

/** By the card or chart of a setup’s last round that has one; one that was signed off comes first. */
export function byCardOf(checks: readonly Check[], setupId: number): ByCard | undefined {
  const rounds = checks.filter((round) => round.setupId === setupId && round.findings?.balance);
  const round = rounds.findLast(({ signedAt }) => signedAt !== null) ?? rounds.at(-1);
  const balance = round?.findings?.balance;
  if (!round || !balance) return undefined;
  const set = personLightByCard(balance);
  const day = new Date(round.createdAt).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'long',
    hour: '2-digit',
    minute: '2-digit',
  });
  return {
    set,
    words: `The ${balance.by} of ${day} asks for ${lightInWords(set)}. It holds while the camera is set as it was then.`,
  };
}

/** Exposure, warmth and tint in words. */
export function lightInWords({ personExposure: stops, personWarmth: mired, personTint: tint }: ByCard['set']): string {
  const signed = (value: number, places: number): string =>
    `${value > 0 ? '+' : '−'}${trimNumber(Math.abs(value), places)}`;
  const parts = [
    stops !== 0 && `${signed(stops, 2)} stops`,
    mired !== 0 && `${Math.abs(mired)} mired ${mired > 0 ? 'warmer' : 'colder'}`,
    tint !== 0 && `${trimNumber(Math.abs(tint), 2)} more ${tint > 0 ? 'magenta' : 'green'}`,
  ].filter(Boolean);
  return parts.join(', ') || 'nothing: it is as it should be';
}
