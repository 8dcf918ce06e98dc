/** What is foretold, in words: the quarters in which frames of all three sets of the bench fall. */
export const fringeWords = [
  { below: 45, words: 'hardly seen' },
  { below: 90, words: 'a little' },
  { below: 165, words: 'seen' },
  { below: Infinity, words: 'plainly seen' },
] as const;

/** Which of `fringeWords` an amount is, from 0. */
export function fringeStep(amount: number): number {
  return fringeWords.findIndex(({ below }) => amount < below);
}
