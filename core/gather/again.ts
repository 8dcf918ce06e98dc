import { driftFacts, driftsOf } from './drift.ts';
import type { Reference, Signs } from './setups.ts';
import { warningFacts, warningsOf, type Judged } from './warnings.ts';

/** Whether a frame that has just come is good, while whoever is on it is still there. */

export interface Verdict {
  good: boolean;
  /** Why it is to be taken again, the gravest first. */
  reasons: string[];
}

/**
 * @param frames of the setup so far, in the order of time, the one that is asked about last.
 * @param reference the test frame that was signed off for the setup.
 * @returns undefined until it has been read, or where nobody is on it.
 */
export function verdictOn(frames: readonly (Judged & Signs)[], reference?: Reference): Verdict | undefined {
  const last = frames.at(-1);
  if (!last?.facts || last.facts.kind !== 'people') return undefined;
  const references = new Map(reference ? [[last.setupId, reference]] : []);
  const warnings = warningsOf(frames, references).get(last.id) ?? [];
  const drifts = driftsOf(frames.filter(({ camera, upright }) => camera === last.camera && upright === last.upright));
  // A change tells itself with the second frame that shows it.
  const fresh = drifts.filter(({ frameId }) => frames.slice(-3).some(({ id }) => id === frameId));
  const reasons = [
    ...warnings
      .filter(({ kind }) => !warningFacts[kind].onlyLook)
      .map(({ kind, words }) => `${warningFacts[kind].label} (${words}). ${warningFacts[kind].remedy}`),
    ...fresh.map(({ kind }) => driftFacts[kind].label),
  ];
  return { good: reasons.length === 0, reasons };
}
