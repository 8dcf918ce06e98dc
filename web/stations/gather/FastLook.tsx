import { Box, Button, styled } from '@mui/material';
import { useEffect, useState } from 'react';
import type { Frame, Pick } from '../../../contract/index.ts';
import { settingsInWords } from '../../../core/gather/camera.ts';
import { warningFacts, type Warning } from '../../../core/gather/warnings.ts';
import { useKeys } from '../../shared/keys.ts';
import { Key } from '../../shared/layout.tsx';
import { pictures } from '../../state/api.ts';
import { pickWords } from './pickWords.ts';

const Window = styled('section')`
  position: fixed;
  inset: 0;
  z-index: 1200;
  background: var(--surround);
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
`;

const Pictures = styled('div')`
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 6px;
  min-height: 0;
  padding: 6px;
  & figure {
    position: relative;
    min-height: 0;
    display: grid;
    place-items: center;
    overflow: hidden;
  }
  & figure.current {
    outline: 2px solid #fff;
  }
  & img {
    max-width: 100%;
    max-height: 100%;
    min-height: 0;
    object-fit: contain;
  }
  & figcaption {
    position: absolute;
    left: 8px;
    top: 8px;
    background: var(--sheet);
    padding: 2px 8px;
  }
`;

/** Frames loaded ahead on either side. */
const AHEAD = 3;
/** Side by side at most. */
const MOST_BESIDE = 4;
/** What is shown at full size, pixels. */
const EYES = { width: 1100, height: 800 };

interface Props {
  /** Those that are gone through. */
  frames: readonly Frame[];
  /** Every frame, for those of one person. */
  all: readonly Frame[];
  warnings: ReadonlyMap<number, Warning[]>;
  /** The first to be seen. */
  start: number | undefined;
  onPick: (frame: Frame, pick: Pick | null) => void;
  /** @param last the frame that was seen last. */
  onEnd: (last: number) => void;
}

/** One frame after the other over the whole window, picked by single keys. */
export function FastLook({ frames, all, warnings, start, onPick, onEnd }: Props) {
  // What is gone through stays as it was when it began, whatever picking does to the list behind.
  const [order] = useState(() => frames.map(({ id }) => id));
  const [at, setAt] = useState(() => Math.max(0, order.indexOf(start ?? -1)));
  const [eyes, setEyes] = useState(false);
  const [beside, setBeside] = useState(false);
  const byId = new Map(all.map((frame) => [frame.id, frame]));
  const frame = byId.get(order[at]);
  const go = (by: number): void => setAt((now) => Math.max(0, Math.min(order.length - 1, now + by)));
  const pick = (next: Pick | null): void => {
    if (!frame) return;
    onPick(frame, next);
    if (next) go(1);
  };
  useKeys('look', {
    next: () => go(1),
    previous: () => go(-1),
    keep: () => pick('keep'),
    reserve: () => pick('reserve'),
    drop: () => pick('drop'),
    none: () => pick(null),
    eyes: () => setEyes((now) => !now),
    beside: () => setBeside((now) => !now),
    leave: () => onEnd(order[at]),
  });
  const near = order
    .slice(Math.max(0, at - AHEAD), at + AHEAD + 1)
    .flatMap((id) => byId.get(id) ?? [])
    .map((one) => (eyes ? eyesOf(one) : pictures.view(one)))
    .join('\n');
  useEffect(() => {
    for (const address of near.split('\n')) if (address) new Image().src = address;
  }, [near]);
  if (!frame) return null;
  const same = beside && frame.subject ? all.filter(({ subject }) => subject === frame.subject) : [frame];
  const from = Math.max(0, Math.min(same.length - MOST_BESIDE, same.indexOf(frame) - 1));
  const found = warnings.get(frame.id) ?? [];
  return (
    <Window aria-label="Fast look">
      <Pictures>
        {same.slice(from, from + MOST_BESIDE).map((one) => (
          <figure key={one.id} className={one === frame && same.length > 1 ? 'current' : undefined}>
            <img src={eyes ? eyesOf(one) : pictures.view(one)} alt={one.name} />
            {(same.length > 1 || one.pick) && (
              <figcaption>
                {same.length > 1 && one.name} {one.pick && <strong>{pickWords[one.pick]}</strong>}
              </figcaption>
            )}
          </figure>
        ))}
      </Pictures>
      <Box
        sx={{
          bgcolor: 'background.default',
          px: 2,
          py: 0.75,
          display: 'flex',
          gap: 1.5,
          alignItems: 'baseline',
          flexWrap: 'wrap',
        }}
      >
        <strong>{frame.name}</strong>
        <span className="figure" role="status">
          {at + 1} of {order.length}
          {frame.pick && `, ${pickWords[frame.pick]}`}
        </span>
        <span>{frame.subject || 'nobody yet'}</span>
        <span className="quiet">{settingsInWords(frame.camera)}</span>
        {found.map(({ kind, words }) => (
          <span key={kind}>
            <strong>{warningFacts[kind].label}</strong> {words}.{' '}
            <span className="quiet">{warningFacts[kind].remedy}</span>
          </span>
        ))}
        <Box sx={{ ml: 'auto', display: 'flex', gap: 0.5 }}>
          <Button onClick={() => pick('keep')}>
            <Key>K</Key> Keep
          </Button>
          <Button onClick={() => pick('reserve')}>
            <Key>R</Key> Reserve
          </Button>
          <Button onClick={() => pick('drop')}>
            <Key>D</Key> Drop
          </Button>
          <Button aria-pressed={eyes} onClick={() => setEyes(!eyes)}>
            <Key>0</Key> Eyes
          </Button>
          <Button aria-pressed={beside} disabled={!frame.subject} onClick={() => setBeside(!beside)}>
            <Key>B</Key> Beside
          </Button>
          <Button variant="text" onClick={() => onEnd(frame.id)}>
            <Key>Esc</Key> Sheet
          </Button>
        </Box>
      </Box>
    </Window>
  );
}

/** The photograph's own pixels around the eyes; without a face around the middle of its upper half. */
function eyesOf(frame: Frame): string {
  const [face] = frame.facts?.faces ?? [];
  const x = (face?.eyesX ?? 0.5) * frame.width;
  const y = (face?.eyesY ?? 0.3) * frame.height;
  const width = Math.min(frame.width, EYES.width);
  const height = Math.min(frame.height, EYES.height);
  return pictures.region(frame, 'photograph', {
    x: Math.round(Math.max(0, Math.min(frame.width - width, x - width / 2))),
    y: Math.round(Math.max(0, Math.min(frame.height - height, y - height * 0.4))),
    width,
    height,
  });
}
