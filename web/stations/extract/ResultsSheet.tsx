import { Box, Button } from '@mui/material';
import type { Frame } from '../../../contract/index.ts';
import { minutesLeft, stateNow, type Experience } from '../../../core/touch/review.ts';
import { ContactSheet } from '../../shared/ContactSheet.tsx';
import { counted } from '../../shared/format.ts';
import { useKeys } from '../../shared/keys.ts';
import { Actions, Key } from '../../shared/layout.tsx';
import { pictures } from '../../state/api.ts';
import { noteOf } from './frameStates.ts';

interface Props {
  /** Those listed, in their order. */
  frames: readonly Frame[];
  experience: Experience;
  /** Back to the bench; with a frame, to that one. */
  onEnd: (frame?: number) => void;
}

/** All results at once, each with how it stands. */
export function ResultsSheet({ frames, experience, onEnd }: Props) {
  useKeys('sheet', { leave: () => onEnd() });
  return (
    <Box component="section" aria-label="All results" sx={{ px: 2.5, py: 1.5 }}>
      <Actions sx={{ mb: 1.5 }}>
        <h1 style={{ fontSize: 17 }}>{counted(frames.length, 'result')}</h1>
        <Button variant="text" sx={{ ml: 'auto' }} onClick={() => onEnd()}>
          <Key>Esc</Key> To the bench
        </Button>
      </Actions>
      <ContactSheet
        frames={frames}
        picture={pictures.latestThumbnail}
        note={(frame) =>
          frame.cut && stateNow(frame) !== 'accepted'
            ? `${minutesLeft(frame, experience).toFixed(1)} min · ${noteOf(frame)}`
            : noteOf(frame)
        }
        onChoose={(frame) => onEnd(frame.id)}
      />
    </Box>
  );
}
