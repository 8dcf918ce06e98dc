import { rehearsedFacts, type RehearsedCause } from '../screen/causeFacts.ts';
import { seededRandom } from '../random.ts';
import { seededSet, type TestSet } from './testSets.ts';

/** What can be done about a set; which causes each one cures. */
export const remedies = {
  raiseDarkLamp: { words: 'Raise the screen lamp on the dark side', cures: ['weakLamp'] },
  lampsBack: { words: 'Take both screen lamps back and turn them across', cures: ['lampsNear', 'hotMiddle'] },
  aimAcross: { words: 'Aim each screen lamp at the far third', cures: ['hotMiddle', 'lampsNear'] },
  personForward: { words: 'Bring the person and their lamps forward', cures: ['tooClose', 'keyShadow'] },
  keyAside: { words: 'Take the key higher and to the side, or make it larger', cures: ['keyShadow'] },
  blind: { words: 'Close the blind, or flag that light off the screen', cures: ['window'] },
  steam: { words: 'Steam the cloth, weight its hem, clamp its sides', cures: ['wrinkles'] },
  lessScreenLight: { words: 'Less light on the screen', cures: ['overlit'] },
  lessGain: { words: 'Less gain, more exposure or light', cures: ['gain'] },
  sameLamps: { words: 'The same lamps on both sides, or a gel on one', cures: ['mixedLamps'] },
  whiteBalance: { words: 'Set the white balance from the card and lock it', cures: ['whiteBalance'] },
  otherCloth: { words: 'Other clothes, or the other screen colour', cures: ['clothing'] },
  largerScreen: { words: 'A larger screen, a longer lens, or move nearer to it', cures: ['smallScreen'] },
  focus: { words: 'Focus on the eyes again, close the aperture', cures: ['defocus'] },
  shorter: { words: 'A shorter exposure, or flash', cures: ['motion'] },
} as const satisfies Record<string, { words: string; cures: readonly RehearsedCause[] }>;

export type RemedyId = keyof typeof remedies;

/**
 * What one level asks: how many faults hide in a set, how strong they are (0 just noticeable – 1 gross), how often
 * there is none.
 */
const levels: { faults: number; strength: [number, number]; sound: number }[] = [
  { faults: 1, strength: [0.85, 1], sound: 0 },
  { faults: 1, strength: [0.4, 0.8], sound: 0.1 },
  { faults: 1, strength: [0, 0.4], sound: 0.2 },
  { faults: 2, strength: [0.5, 1], sound: 0.1 },
  { faults: 2, strength: [0, 0.5], sound: 0.15 },
];

/** Hides faults in a set. Same level, same seed: the same set. @param level from 1. */
export function rehearse(level: number, seed: number, width: number): { set: TestSet; causes: RehearsedCause[] } {
  const { faults, strength, sound } = levels[Math.max(0, Math.min(levels.length, level) - 1)];
  const random = seededRandom(seed * 97 + level);
  const ids = Object.keys(rehearsedFacts) as RehearsedCause[];
  const causes: RehearsedCause[] = [];
  if (random() >= sound)
    while (causes.length < faults) {
      const next = ids[Math.floor(random() * ids.length)];
      if (!causes.some((cause) => cause === next || hides(cause, next))) causes.push(next);
    }
  return { set: seededSet(seed, causes, width, strength), causes };
}

/** Pairs of which one cannot be seen beside the other. */
const hidden: [RehearsedCause, RehearsedCause][] = [
  ['window', 'mixedLamps'],
  ['lampsNear', 'hotMiddle'],
  ['keyShadow', 'tooClose'],
  ['overlit', 'keyShadow'],
  ['overlit', 'gain'],
  ['defocus', 'motion'],
];
const hides = (a: RehearsedCause, b: RehearsedCause): boolean =>
  hidden.some(([p, q]) => (p === a && q === b) || (p === b && q === a));

/** Whether an answer names all that is wrong and nothing else, and whether its remedy cures one of it. */
export function judgeRehearsal(
  truth: readonly RehearsedCause[],
  causes: readonly RehearsedCause[],
  remedy: RemedyId | null,
): { causesRight: boolean; remedyRight: boolean; remedies: RemedyId[] } {
  const fitting = (Object.keys(remedies) as RemedyId[]).filter((id) =>
    remedies[id].cures.some((cause) => truth.includes(cause)),
  );
  return {
    causesRight: causes.length === truth.length && truth.every((cause) => causes.includes(cause)),
    remedyRight: truth.length ? remedy !== null && fitting.includes(remedy) : remedy === null,
    remedies: fitting,
  };
}
