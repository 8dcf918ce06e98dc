import { Link } from '@mui/material';
import { useMemo, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import type { Frame, Setup } from '../../../contract/index.ts';
import { experienceOf, minutesLeft, stateNow } from '../../../core/touch/review.ts';
import { Example } from '../../shared/Example.tsx';
import { FrameRows } from '../../shared/FrameRows.tsx';
import { Bench, EmptyPlace, ListMargin } from '../../shared/layout.tsx';
import { useKeys } from '../../shared/keys.ts';
import { useFrame } from '../../shared/useFrame.ts';
import { isPicture, useStore } from '../../state/store.ts';
import { BatchControl } from './BatchControl.tsx';
import { useOwnFactors } from '../../state/factors.ts';
import { FramePanels } from './FramePanels.tsx';
import { FramePicture } from './FramePicture.tsx';
import { noteOf, orderFrames } from './frameStates.ts';
import { groupOf, TriageBar, type Shown } from './TriageBar.tsx';
import { ResultsSheet } from './ResultsSheet.tsx';
import { useFrameBench } from './useFrameBench.ts';
import { WalkPage } from './walk/WalkPage.tsx';
import { staleFrames } from './wanted.ts';

/**
 * Extracting: the batch on the left, the picture in the middle, settings, green ledger, masks and doubts on the right.
 */
export function ExtractPage() {
  const setups = useStore((state) => state.setups);
  const all = useStore((state) => state.frames);
  const orders = useStore((state) => state.orders);
  const batches = useStore((state) => state.batches);
  const people = useMemo(() => all.filter(isPicture), [all]);
  const { doubts } = useOwnFactors();
  const experience = useMemo(() => experienceOf(people, doubts), [people, doubts]);
  const [shown, show] = useState<Shown>('all');
  /** What stands in the place of the bench. */
  const [instead, putInstead] = useState<'walk' | 'sheet'>();
  const frames = useMemo(
    () => orderFrames(all, experience).filter((frame) => shown === 'all' || groupOf(frame, experience) === shown),
    [all, experience, shown],
  );
  const stale = useMemo(() => staleFrames(all, orders), [all, orders]);
  const [chosen, choose] = useFrame('extract', frames);
  // In a group that has become empty the frame on the bench stays.
  const frame = chosen ?? all[0];
  const setup = setups.find((s) => s.id === frame?.setupId);
  const setupFrames = useMemo(() => all.filter((f) => f.setupId === setup?.id), [all, setup?.id]);
  if (!frame || !setup)
    return (
      <EmptyPlace title="Nothing to extract yet.">
        Bring in frames at{' '}
        <Link component={RouterLink} to="../gather">
          Gather
        </Link>
        ; then their people are cut out here, each with its hair, without the screen’s light, and with what is doubtful
        named.
        <Example show={['photograph', 'cut']} words="a frame, and what is extracted from it" />
      </EmptyPlace>
    );
  const toBench = (id?: number): void => {
    putInstead(undefined);
    if (id !== undefined) choose(id);
  };
  if (instead === 'walk') return <WalkPage frames={people} setups={setups} experience={experience} onEnd={toBench} />;
  if (instead === 'sheet') return <ResultsSheet frames={frames} experience={experience} onEnd={toBench} />;
  const cuttable = (id: number): Frame[] => all.filter((f) => f.setupId === id && !f.plate);
  const staleOf = (id: number): Frame[] => stale.filter((f) => f.setupId === id);
  return (
    <Bench>
      <ListMargin aria-label="Frames to extract">
        <BatchControl
          setup={setup}
          frames={cuttable(setup.id)}
          stale={staleOf(setup.id)}
          batches={batches.filter((b) => b.kind === 'cut' && b.open > 0)}
          others={setups
            .filter((s) => s.id !== setup.id)
            .map(({ id }) => ({ id, frames: cuttable(id), stale: staleOf(id) }))}
        />
        <TriageBar
          frames={people}
          experience={experience}
          shown={shown}
          onShow={show}
          onWalk={() => putInstead('walk')}
          onSheet={() => putInstead('sheet')}
        />
        <FrameRows
          frames={frames}
          current={frame.id}
          onChoose={choose}
          note={(f) => noteOf(f)}
          figure={(f) => (!f.cut ? '' : stateNow(f) === 'accepted' ? '–' : minutesLeft(f, experience).toFixed(1))}
        />
      </ListMargin>
      <OneFrame
        frame={frame}
        setup={setup}
        setupFrames={setupFrames}
        onChoose={choose}
        onSheet={() => putInstead('sheet')}
        onNext={() => {
          const next = frames[frames.findIndex(({ id }) => id === frame.id) + 1];
          if (next) choose(next.id);
          return next !== undefined;
        }}
      />
    </Bench>
  );
}

/** One frame: its picture, and what can be asked and said about its cut. */
function OneFrame({
  frame,
  setup,
  setupFrames,
  onNext,
  onChoose,
  onSheet,
}: {
  frame: Frame;
  setup: Setup;
  setupFrames: Frame[];
  onNext: () => boolean;
  onChoose: (frameId: number) => void;
  onSheet: () => void;
}) {
  useKeys('extract', { sheet: onSheet });
  const bench = useFrameBench(frame, setup, setupFrames, onNext, onChoose);
  return (
    <>
      <FramePicture bench={bench} />
      <FramePanels bench={bench} />
    </>
  );
}
