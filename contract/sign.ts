import { exposureOf } from '../core/gather/camera.ts';
import { verdictOn } from '../core/gather/again.ts';
import type { Reference, Signs } from '../core/gather/setups.ts';
import type { Judged } from '../core/gather/warnings.ts';
import { secondsOf } from './clock.ts';
import type { Check } from './check.ts';
import type { Frame } from './gather.ts';

/** What stands on the sign for the set, the same on the page and for tablets; and frames as it sees them. */

type ToldFrame = Omit<Frame, 'revision'>;

export function signsOf({ id, camera, takenAt, facts, width, height }: ToldFrame): Signs {
  return {
    id,
    camera: camera.body,
    upright: height >= width,
    at: secondsOf(takenAt),
    exposure: exposureOf(camera),
    focal: camera.focal,
    screen: facts?.screen ?? null,
  };
}

export function judgedOf({ id, subject, setupId, camera, facts, width, height }: ToldFrame): Judged {
  return { id, subject, setupId, camera: camera.body, upright: height >= width, exposure: exposureOf(camera), facts };
}

/** The last test frame that was signed off for each setup, as frames are compared with it. */
export function referencesOf(
  checks: readonly Pick<Check, 'setupId' | 'signedAt' | 'findings'>[],
): Map<number, Reference> {
  return new Map(
    checks.flatMap(({ setupId, signedAt, findings }) =>
      signedAt && findings?.reference ? [[setupId, findings.reference] as const] : [],
    ),
  );
}

export interface Sign<F> {
  /** The frame that came last. */
  last: F | undefined;
  mood: 'good' | 'again' | undefined;
  words: string;
  /** Why it is to be taken again. */
  reasons: string[];
}

/** Whether the frame that came last is good. @param frames of a shoot, in the order they were taken. */
export function signOf<F extends ToldFrame>(
  frames: readonly F[],
  checks: readonly Pick<Check, 'setupId' | 'signedAt' | 'findings'>[],
): Sign<F> {
  const people = frames.filter((frame) => !frame.plate && frame.facts?.kind !== 'slate');
  const last = people.reduce<F | undefined>(
    (latest, frame) => (frame.id > (latest?.id ?? 0) ? frame : latest),
    undefined,
  );
  if (!last) return { last, mood: undefined, words: 'Waiting for the first frame', reasons: [] };
  const before = people.filter((frame) => frame.setupId === last.setupId && frame.id < last.id);
  const verdict = verdictOn(
    [...before, last].map((frame) => ({ ...judgedOf(frame), ...signsOf(frame), facts: frame.facts })),
    referencesOf(checks).get(last.setupId),
  );
  if (!verdict) return { last, mood: undefined, words: last.facts ? 'Nobody is on it' : 'Reading …', reasons: [] };
  return verdict.good
    ? { last, mood: 'good', words: 'Good', reasons: [] }
    : { last, mood: 'again', words: 'Again, because', reasons: verdict.reasons };
}
