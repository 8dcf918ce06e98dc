import { useEffect, useMemo, useRef, useState } from 'react';
import type { Frame } from '../../../contract/index.ts';
import { patchOf, verdictOn, type HandVerdict } from '../../../core/cut/guidance.ts';
import type { LedgerEntry, Quality } from '../../../core/cut/quality.ts';
import { judged } from './verdicts.ts';

export interface LedgerState {
  quality: Quality | undefined;
  ledger: LedgerEntry[];
  /** Number of the chosen patch. */
  patch: number | undefined;
  choose: (patch: number | undefined) => void;
  /** Chooses the patch at a place (shares of the frame), or none if it was chosen; once the ledger is there. */
  pick: (point: { x: number; y: number }) => void;
}

/**
 * The green ledger of a frame, with the hand's verdicts in it before the cut that follows them is there.
 * @param current the quality of the cut that is shown, if it is known.
 * @param verdicts that hold for the frame.
 */
export function useLedger(
  frame: Frame | undefined,
  current: Quality | undefined,
  verdicts: readonly HandVerdict[],
): LedgerState {
  const [chosen, setChosen] = useState<HandVerdict>();
  const [clicked, setClicked] = useState<{ x: number; y: number }>();
  const id = frame?.id;
  useEffect(() => {
    setChosen(undefined);
    setClicked(undefined);
  }, [id]);
  // Until the preview of a change is back, the ledger that was seen stays: hands are quicker than previews.
  const seen = useRef<{ of: number; quality: Quality }>(undefined);
  if (current && id !== undefined) seen.current = { of: id, quality: current };
  const quality = current ?? (seen.current?.of === id ? seen.current?.quality : undefined) ?? frame?.cut?.quality;
  const ledger = useMemo(() => judged(quality?.ledger ?? [], verdicts), [quality, verdicts]);
  const at = chosen ? patchOf(chosen, ledger) : -1;
  const patch = at < 0 ? undefined : at;
  const choose = (n: number | undefined): void => setChosen(n === undefined ? undefined : verdictOn(ledger[n], true));
  // A click before the ledger is there counts when it is.
  useEffect(() => {
    if (!clicked || !quality) return;
    const there = patchAt(ledger, clicked);
    setClicked(undefined);
    if (there !== undefined) setChosen(verdictOn(ledger[there], true));
  }, [clicked, quality, ledger]);
  const pick = (point: { x: number; y: number }): void => {
    if (!quality) return setClicked(point);
    const there = patchAt(ledger, point);
    choose(there === patch ? undefined : there);
  };
  return { quality, ledger, patch, choose, pick };
}

/** The smallest patch around a point. */
export function patchAt(
  ledger: readonly Pick<LedgerEntry, 'place'>[],
  { x, y }: { x: number; y: number },
): number | undefined {
  const around = ledger
    .map(({ place }, n) => ({ place, n }))
    .filter(({ place: p }) => x >= p.x && x <= p.x + p.width && y >= p.y && y <= p.y + p.height);
  around.sort((a, b) => a.place.width * a.place.height - b.place.width * b.place.height);
  return around[0]?.n;
}
