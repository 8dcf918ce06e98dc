import { Button, List, ListItem, ListItemButton, styled } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import type { Frame } from '../../../contract/index.ts';
import { patchOf } from '../../../core/cut/guidance.ts';
import type { Place } from '../../../core/cut/places.ts';
import type { LedgerEntry } from '../../../core/cut/quality.ts';
import { Actions, Fields, Key } from '../../shared/layout.tsx';
import { pictures } from '../../state/api.ts';
import { strongestEvidence } from './evidenceWords.ts';
import { judge, unjudge, verdictWords, worthLooking } from './verdicts.ts';

interface Props {
  frame: Frame;
  ledger: LedgerEntry[];
  chosen: number | undefined;
  onChoose: (index: number | undefined) => void;
}

const Patches = styled(List)`
  border-top: 1px solid var(--hairline);
  margin: 4px 0 8px;
  & > li {
    display: block;
    border-bottom: 1px solid var(--hairline);
  }
  & .MuiListItemButton-root {
    display: grid;
    grid-template-columns: 46px 1fr auto;
    width: 100%;
    text-align: left;
    padding: 4px 6px;
  }
  & canvas {
    width: 46px;
    height: 46px;
    background: var(--surround);
    display: block;
  }
`;

/** Every patch of green on the frame: its piece of the picture, its verdict, and what speaks for that most. */
export function LedgerPanel({ frame, ledger, chosen, onChoose }: Props) {
  const picture = usePicture(frame);
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
      <p className="quiet">
        <Key>N</Key>next <Key>K</Key>keeps <Key>R</Key>goes
      </p>
      <Patches aria-label="Patches">
        {ledger.map(
          (entry, n) =>
            shown.includes(n) && (
              <ListItem key={n} disablePadding aria-current={n === chosen ? 'true' : undefined}>
                <ListItemButton
                  component="button"
                  selected={n === chosen}
                  onClick={() => onChoose(n === chosen ? undefined : n)}
                >
                  <Piece picture={picture} place={entry.place} />
                  <span>
                    <strong>{verdictWords[entry.verdict]}</strong>{' '}
                    <span className="quiet">{sourceOf(entry, frame, ledger, n)}</span>
                    {!entry.byHand && <div className="quiet">{strongestEvidence(entry)}</div>}
                  </span>
                  <span className="figure">{(100 * entry.share).toFixed(entry.share < 0.01 ? 2 : 1)} %</span>
                </ListItemButton>
                {n === chosen && <Evidence frame={frame} ledger={ledger} entry={entry} />}
              </ListItem>
            ),
        )}
      </Patches>
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

function sourceOf(entry: LedgerEntry, frame: Frame, ledger: LedgerEntry[], n: number): string {
  if (entry.byHand)
    return frame.guidance.verdicts.some((verdict) => patchOf(verdict, ledger) === n)
      ? 'by hand'
      : 'by hand, on another frame';
  return entry.doubtful ? 'in doubt' : 'by evidence';
}

function Evidence({ frame, ledger, entry }: { frame: Frame; ledger: LedgerEntry[]; entry: LedgerEntry }) {
  const { apart, mostScreen, rough, atBorder } = entry.evidence;
  return (
    <div style={{ padding: '2px 0 8px 11px', display: 'grid', gap: 6 }}>
      <Fields>
        <dt>A thing, by evidence</dt>
        <dd className="figure">{Math.round(100 * entry.likelihood)} %</dd>
        <dt>Distance from the screen’s colour</dt>
        <dd className="figure">{apart.toFixed(3)}</dd>
        <dt>Screen it could hide at most</dt>
        <dd className="figure">{Math.round(100 * mostScreen)} %</dd>
        <dt>Unevenness (from 3.3 % on: strands)</dt>
        <dd className="figure">{(100 * rough).toFixed(1)} %</dd>
        <dt>Runs out of the frame</dt>
        <dd>{atBorder ? 'yes' : 'no'}</dd>
      </Fields>
      <Actions>
        {([true, false] as const).map((keep) => {
          const given = entry.verdict === (keep ? 'keep' : 'remove');
          return (
            <Button
              key={String(keep)}
              aria-pressed={given}
              variant={given ? 'contained' : 'outlined'}
              onClick={() => judge(frame, ledger, entry, keep)}
            >
              {keep ? 'It keeps' : 'It goes'}
            </Button>
          );
        })}
        {entry.byHand && (
          <Button variant="text" onClick={() => unjudge(frame, ledger, entry)}>
            By evidence
          </Button>
        )}
      </Actions>
    </div>
  );
}

/** The photograph, small enough to be drawn in pieces; what the preview works on, so it is there already. */
function usePicture(frame: Frame): ImageBitmap | undefined {
  const [picture, setPicture] = useState<ImageBitmap>();
  const address = pictures.working(frame);
  useEffect(() => {
    let left = false;
    setPicture(undefined);
    void fetch(address)
      .then((response) => response.blob())
      .then((blob) => createImageBitmap(blob))
      .then((bitmap) => (left ? bitmap.close() : setPicture(bitmap)))
      .catch(() => undefined);
    return () => {
      left = true;
    };
  }, [address]);
  useEffect(() => () => picture?.close(), [picture]);
  return picture;
}

/** Side of a piece, pixels; and how much around a patch is shown with it. */
const PIECE = 92;
const AROUND = 1.5;

function Piece({ picture, place }: { picture: ImageBitmap | undefined; place: Place }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { x, y, width, height } = place;
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !picture) return;
    const side = AROUND * Math.max(width * picture.width, height * picture.height, 16);
    const left = (x + width / 2) * picture.width - side / 2;
    const top = (y + height / 2) * picture.height - side / 2;
    context.clearRect(0, 0, PIECE, PIECE);
    context.drawImage(picture, left, top, side, side, 0, 0, PIECE, PIECE);
  }, [picture, x, y, width, height]);
  return <canvas ref={canvas} width={PIECE} height={PIECE} aria-hidden="true" />;
}
