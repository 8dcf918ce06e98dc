import { Button } from '@mui/material';
import type { Frame } from '../../../contract/index.ts';
import { patchOf, verdictOn, type HandVerdict } from '../../../core/cut/guidance.ts';
import type { LedgerEntry } from '../../../core/cut/quality.ts';
import { changeFrame } from '../../state/store.ts';

/** Gives a verdict on a patch, in place of an earlier one on the same patch of this frame. */
export function judge(frame: Frame, ledger: LedgerEntry[], entry: LedgerEntry, keep: boolean): void {
  void changeFrame(
    frame,
    (now) => ({ guidance: { ...now.guidance, verdicts: [...others(now, ledger, entry), verdictOn(entry, keep)] } }),
    keep ? 'verdict: keeps' : 'verdict: goes',
  );
}

/** Takes the hand's verdict on a patch back to what the evidence says. */
function unjudge(frame: Frame, ledger: LedgerEntry[], entry: LedgerEntry): void {
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

/** A ledger with the hand's verdicts in it, before the cut that follows them is there. */
export function judged(ledger: LedgerEntry[], verdicts: readonly HandVerdict[]): LedgerEntry[] {
  const by = new Map(verdicts.map((verdict) => [patchOf(verdict, ledger), verdict]));
  return ledger.map((entry, n) => {
    const verdict = by.get(n);
    return verdict ? { ...entry, verdict: verdict.keep ? 'keep' : 'remove', byHand: true, doubtful: false } : entry;
  });
}

interface Props {
  frame: Frame;
  ledger: LedgerEntry[];
  chosen: number | undefined;
  onChoose: (index: number | undefined) => void;
}

/** Patches worth a look: not small, in doubt, or judged by hand. Numbers in the ledger. */
export function worthLooking(ledger: LedgerEntry[]): number[] {
  return ledger.flatMap((entry, n) => (entry.share >= SMALL || entry.doubtful || entry.byHand ? [n] : []));
}
/** Share of the frame below which a patch is small. */
const SMALL = 0.001;

/** Every patch of green on the frame with its evidence and its verdict. */
export function LedgerPanel({ frame, ledger, chosen, onChoose }: Props) {
  const doubtful = ledger.filter((entry) => entry.doubtful).length;
  const worth = worthLooking(ledger);
  const shown = chosen === undefined || worth.includes(chosen) ? worth : [...worth, chosen];
  const small = ledger.length - worth.length;
  return (
    <section aria-label="Green ledger">
      <p className="quiet">
        {ledger.length === 0
          ? 'Nothing on this frame comes near the screen’s colour.'
          : `${ledger.length === 1 ? 'One patch comes' : `${ledger.length} patches come`} near the screen’s colour${doubtful ? `, ${doubtful} of them in doubt` : ''}. Click a patch on the picture or step through them with the keys.`}
      </p>
      <p className="keys quiet">
        <kbd>N</kbd>next <kbd>K</kbd>keeps <kbd>R</kbd>goes
      </p>
      <ol className="ledger">
        {ledger.map(
          (entry, n) =>
            shown.includes(n) && (
              <li key={n} aria-current={n === chosen ? 'true' : undefined}>
                <button type="button" onClick={() => onChoose(n === chosen ? undefined : n)}>
                  <strong>{entry.verdict === 'keep' ? 'Keeps' : 'Goes'}</strong>
                  <span className="quiet">
                    {entry.byHand
                      ? frame.guidance.verdicts.some((verdict) => patchOf(verdict, ledger) === n)
                        ? 'by hand'
                        : 'by hand, on another frame'
                      : entry.doubtful
                        ? 'in doubt'
                        : 'by evidence'}
                  </span>
                  <span className="figure">{(100 * entry.share).toFixed(entry.share < 0.01 ? 2 : 1)} %</span>
                </button>
                {n === chosen && (
                  <div className="ledger-evidence">
                    <dl className="fields">
                      <dt>A thing, by evidence</dt>
                      <dd className="figure">{Math.round(100 * entry.likelihood)} %</dd>
                      <dt>Distance from the screen’s colour</dt>
                      <dd className="figure">{entry.evidence.apart.toFixed(3)}</dd>
                      <dt>Screen it could hide at most</dt>
                      <dd className="figure">{Math.round(100 * entry.evidence.mostScreen)} %</dd>
                      <dt>Unevenness (from 3.3 % on: strands)</dt>
                      <dd className="figure">{(100 * entry.evidence.rough).toFixed(1)} %</dd>
                      <dt>Runs out of the frame</dt>
                      <dd>{entry.evidence.atBorder ? 'yes' : 'no'}</dd>
                    </dl>
                    <div className="actions">
                      <Button aria-pressed={entry.verdict === 'keep'} onClick={() => judge(frame, ledger, entry, true)}>
                        It keeps
                      </Button>
                      <Button
                        aria-pressed={entry.verdict === 'remove'}
                        onClick={() => judge(frame, ledger, entry, false)}
                      >
                        It goes
                      </Button>
                      {entry.byHand && (
                        <Button variant="text" onClick={() => unjudge(frame, ledger, entry)}>
                          By evidence
                        </Button>
                      )}
                    </div>
                  </div>
                )}
              </li>
            ),
        )}
      </ol>
      {small > 0 && (
        <p className="quiet">
          {small === 1 ? 'One small patch is' : `${small} small patches are`} left out; click{' '}
          {small === 1 ? 'it' : 'one'} on the picture.
        </p>
      )}
      <p className="quiet">
        A verdict is carried to the subject’s other frames in this setup, where a patch of like colour lies at a like
        place, and changes nothing else.
      </p>
    </section>
  );
}
