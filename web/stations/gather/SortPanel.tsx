import { Alert, Box } from '@mui/material';
import type { Shoot } from '../../../contract/index.ts';
import { counted } from '../../shared/format.ts';
import { EmptyPlace } from '../../shared/layout.tsx';
import { useCalm } from '../../shared/useCalm.ts';
import { useStore } from '../../state/store.ts';
import { Drifts } from './Drifts.tsx';
import { PeopleProposals } from './PeopleProposals.tsx';
import { SetupProposals } from './SetupProposals.tsx';
import { TargetFrames } from './TargetFrames.tsx';

/** What is proposed: who is on which frame, which setup it belongs to, and where something changed unasked. */
export function SortPanel({ shoot }: { shoot: Shoot }) {
  const frames = useStore((state) => state.frames);
  const unread = frames.filter(({ facts }) => facts === null).length;
  // Proposals go by all frames: they are not made anew with each that is read.
  const calm = useCalm(frames, unread === 0);
  if (!frames.length)
    return (
      <EmptyPlace title="Nothing to sort yet.">
        Bring frames in first. Each is read as it comes: slate, screen, person, faces. From that it is proposed here who
        is on it and which setup it belongs to.
      </EmptyPlace>
    );
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      {unread > 0 && (
        <Alert severity="info" role="status">
          {counted(unread, 'frame')} of {frames.length} still being read; what follows goes by the others.
        </Alert>
      )}
      <PeopleProposals shoot={shoot} frames={calm} />
      <SetupProposals shoot={shoot} frames={calm} />
      <TargetFrames shoot={shoot} frames={calm} />
      <Drifts frames={calm} />
    </Box>
  );
}
