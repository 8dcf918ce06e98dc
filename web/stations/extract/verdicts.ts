import type { Frame } from '../../../contract/index.ts';
import { patchOf, verdictOn, type HandVerdict } from '../../../core/cut/guidance.ts';
import type { LedgerEntry } from '../../../core/cut/quality.ts';
import { changeFrame } from '../../state/changes.ts';

/** Verdicts of the hand on patches of green. */

/** Gives a verdict on a patch, in place of an earlier one on the same patch of this frame. */
export function judge(frame: Frame, ledger: LedgerEntry[], entry: LedgerEntry, keep: boolean): void {
  void changeFrame(
    frame,
    (now) => ({ guidance: { ...now.guidance, verdicts: [...others(now, ledger, entry), verdictOn(entry, keep)] } }),
    keep ? 'verdict: keeps' : 'verdict: goes',
  );
}

/** Takes the hand's verdict on a patch back to what the evidence says. */
export function unjudge(frame: Frame, ledger: LedgerEntry[], entry: LedgerEntry): void {
  void changeFrame(
    frame,
    (now) => ({ guidance: { ...now.guidance, verdicts: others(now, ledger, entry) } }),
    'verdict',
  );
}

function others(frame: Frame, ledger: LedgerEntry[], entry: LedgerEntry): HandVerdict[] {
  const at = ledger.indexOf(entry);
  return frame.guidance.verdicts.filter((verdict) => patchOf(verdict, ledger) !== at);
}

/** What a verdict says of a patch. */
export const verdictWords = { keep: 'Keeps', remove: 'Goes', sheer: 'See-through' } as const;

/** A ledger with the hand's verdicts in it, before the cut that follows them is there. */
export function judged(ledger: LedgerEntry[], verdicts: readonly HandVerdict[]): LedgerEntry[] {
  const by = new Map(verdicts.map((verdict) => [patchOf(verdict, ledger), verdict]));
  return ledger.map((entry, n) => {
    const verdict = by.get(n);
    return verdict ? { ...entry, verdict: verdict.keep ? 'keep' : 'remove', byHand: true, doubtful: false } : entry;
  });
}

/** Patches worth a look: not small, in doubt, or judged by hand. Numbers in the ledger. */
export function worthLooking(ledger: LedgerEntry[]): number[] {
  return ledger.flatMap((entry, n) => (entry.share >= SMALL || entry.doubtful || entry.byHand ? [n] : []));
}
/** Share of the frame below which a patch is small. */
const SMALL = 0.001;
