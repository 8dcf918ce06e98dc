import type { LedgerEntry } from '../../../core/cut/quality.ts';

/** From here on each piece of evidence speaks; values as in the ledger. */
const limits = {
  /** Distance from the screen's chromaticity that noise does not explain, and one that no screen has. */
  near: 0.015,
  far: 0.06,
  /** Largest share of screen that it could hide. */
  little: 0.6,
  much: 0.92,
  /** Unevenness relative to level: of the screen itself, and of cloth. */
  smooth: 0.008,
  rough: 0.033,
};

/** How strongly each piece of evidence speaks for a thing (above 0) or for the screen (below 0), and in which words. */
function pieces({ evidence: { apart, mostScreen, rough, atBorder } }: Pick<LedgerEntry, 'evidence'>) {
  const between = (value: number, low: number, high: number): number =>
    Math.max(-1, Math.min(1, (2 * (value - low)) / (high - low) - 1));
  return [
    {
      weight: between(apart, limits.near, limits.far),
      thing: 'its colour is not the screen’s',
      screen: 'it has the screen’s very colour',
    },
    {
      weight: -between(mostScreen, limits.little, limits.much),
      thing: `no more than ${Math.round(100 * mostScreen)} % screen could hide in it`,
      screen: 'it could be nothing but screen',
    },
    {
      weight: between(rough, limits.smooth, limits.rough),
      thing: 'it is uneven, as cloth is',
      screen: 'it is as smooth as the screen',
    },
    ...(atBorder ? [{ weight: 0.2, thing: 'it runs out of the frame', screen: '' }] : []),
  ];
}

/** The strongest piece of evidence for what was decided on a patch, in words. */
export function strongestEvidence(entry: Pick<LedgerEntry, 'evidence' | 'verdict'>): string {
  if (entry.verdict === 'sheer') return 'what varies in it leads to the screen’s colour';
  const keeps = entry.verdict === 'keep';
  const strongest = pieces(entry).reduce((best, one) => {
    const [a, b] = keeps ? [one.weight, best.weight] : [-one.weight, -best.weight];
    return a > b ? one : best;
  });
  const weight = keeps ? strongest.weight : -strongest.weight;
  if (weight <= 0) return keeps ? 'little speaks for the screen' : 'little speaks for a thing';
  return keeps ? strongest.thing : strongest.screen;
}
