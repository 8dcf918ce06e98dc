import { Box, Button, styled } from '@mui/material';
import { useEffect, useRef } from 'react';
import type { Frame, Setup } from '../../../../contract/index.ts';
import type { Answer } from '../../../../core/touch/walk.ts';
import type { Experience } from '../../../../core/touch/review.ts';
import { span } from '../../../shared/format.ts';
import { useKeys } from '../../../shared/keys.ts';
import { Actions, Key } from '../../../shared/layout.tsx';
import { StepWedge } from '../../../shared/StepWedge.tsx';
import { pictures } from '../../../state/api.ts';
import { undoLast } from '../../../state/change.ts';
import type { Look } from '../../../worker/picture.worker.ts';
import { AlikeStrip, useTogether } from './AlikeStrip.tsx';
import { useWalk } from './useWalk.ts';

interface Props {
  frames: readonly Frame[];
  setups: readonly Setup[];
  experience: Experience;
  /** Ends the walk; with a frame, goes to its bench. */
  onEnd: (frame?: number) => void;
}

const Answers = styled('div')`
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 10px;
  min-height: 0;
  padding: 10px;
  background: var(--surround);
`;
const Column = styled('div')`
  display: grid;
  grid-template-rows: minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: 6px;
  min-height: 0;
  min-width: 0;
  & canvas {
    width: 100%;
    height: 100%;
    object-fit: contain;
  }
`;

/** The walk through the doubtful places: each with its question, and its likely answers side by side. */
export function WalkPage({ frames, setups, experience, onEnd }: Props) {
  const walk = useWalk(frames, setups, experience);
  const { now, looks } = walk;
  const answers = now?.question.answers ?? [];
  const together = useTogether(walk);
  // With every place left out there is nothing to answer.
  const nobody = together.meant?.length === 0;
  const give = (answer: Answer): void => void (nobody || walk.answer(answer, together.meant));
  useKeys('walk', {
    answer: (key) => answers[Number(key) - 1] && give(answers[Number(key) - 1]),
    alike: together.toggle,
    skip: walk.skip,
    back: () => void undoLast(),
    bench: () => now && onEnd(now.frame.id),
    leave: () => onEnd(),
  });
  if (!now) return <Changed frames={frames} onEnd={onEnd} />;
  const done = walk.total - walk.left;
  return (
    <Box
      component="section"
      aria-label="Walk"
      data-ahead={walk.ahead}
      sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr) auto auto', minHeight: 0, height: '100%' }}
    >
      <Box sx={{ px: 2.5, py: 1, display: 'grid', gridTemplateColumns: '1fr auto', alignItems: 'center', gap: 2 }}>
        <div>
          <strong style={{ fontSize: 17 }}>{now.question.ask}</strong>
          <div className="quiet">
            {now.frame.name}, {now.setup.name}
            {looks?.length === 0 && ', whose pictures could not be computed here: to the bench, or skip it'}
            {!looks && ', computing how the answers look …'}
          </div>
        </div>
        <Box sx={{ minWidth: 260 }}>
          <Actions sx={{ justifyContent: 'space-between' }}>
            <span>
              Place <span className="figure">{done + 1}</span> of <span className="figure">{walk.total}</span>
            </span>
            <span className="quiet figure">{span(walk.minutes)} left</span>
          </Actions>
          <StepWedge share={walk.total ? done / walk.total : 1} label="Places settled" />
        </Box>
      </Box>
      <Answers>
        {answers.map((answer, n) => (
          <Column key={answer.title} data-ready={looks !== undefined}>
            <Picture bitmap={looks?.[n]?.first} label={`${answer.title}, on the background`} />
            <Picture bitmap={looks?.[n]?.second} label={`${answer.title}, on the tone that shows most`} />
            <Button disabled={nobody} onClick={() => give(answer)}>
              <Key>{n + 1}</Key>&nbsp;{answer.title}
              {together.meant && `, all ${together.meant.length}`}
            </Button>
          </Column>
        ))}
      </Answers>
      {together.on ? <AlikeStrip stops={walk.alike} together={together} /> : <span />}
      <Actions sx={{ px: 2.5, py: 0.75 }}>
        {walk.alike.length > 1 && (
          <Button variant="text" aria-pressed={together.on} onClick={together.toggle}>
            <Key>L</Key> {together.on ? 'This place alone' : `All ${walk.alike.length} like this`}
          </Button>
        )}
        <Button variant="text" onClick={walk.skip}>
          <Key>S</Key> Skip
        </Button>
        <Button variant="text" onClick={() => void undoLast()}>
          <Key>U</Key> Take back
        </Button>
        <Button variant="text" onClick={() => onEnd(now.frame.id)}>
          <Key>T</Key> To the bench
        </Button>
        <Button variant="text" sx={{ ml: 'auto' }} onClick={() => onEnd()}>
          <Key>Esc</Key> End the walk
        </Button>
      </Actions>
    </Box>
  );
}

/** A picture that was computed; nothing until it is there. */
function Picture({ bitmap, label }: { bitmap: Look['first'] | undefined; label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    if (!element || !bitmap) return;
    element.width = bitmap.width;
    element.height = bitmap.height;
    element.getContext('2d')?.drawImage(bitmap, 0, 0);
  }, [bitmap]);
  return <canvas ref={canvas} role="img" aria-label={label} style={{ visibility: bitmap ? 'visible' : 'hidden' }} />;
}

/** At the end: every frame that a hand has changed. */
function Changed({ frames, onEnd }: Pick<Props, 'frames' | 'onEnd'>) {
  const changed = frames.filter(({ guidance: { touches, verdicts } }) => touches.length + verdicts.length > 0);
  return (
    <Box component="section" aria-label="Walk" sx={{ p: 2.5, overflow: 'auto', minHeight: 0 }}>
      <Actions sx={{ mb: 1.5 }}>
        <strong style={{ fontSize: 17 }}>Every doubtful place has been looked at.</strong>
        <Button variant="contained" color="primary" onClick={() => onEnd()}>
          To the bench
        </Button>
      </Actions>
      <p className="quiet">
        {changed.length
          ? 'Frames that a hand has changed; extract them again to keep it.'
          : 'No frame was changed: all was good as it stood.'}
      </p>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, mt: 1 }}>
        {changed.map((frame) => (
          <Button key={frame.id} variant="text" sx={{ display: 'block', p: 0.5 }} onClick={() => onEnd(frame.id)}>
            <img
              src={pictures.latestThumbnail(frame)}
              alt=""
              style={{ height: 130, display: 'block', background: 'var(--surround)' }}
            />
            {frame.name}
          </Button>
        ))}
      </Box>
    </Box>
  );
}
