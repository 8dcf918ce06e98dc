import { Button, Tooltip } from '@mui/material';
import type { Frame } from '../../../contract/index.ts';
import { stateNow } from '../../../core/touch/review.ts';
import { Caption, Key } from '../../shared/layout.tsx';
import { stateOf } from './frameStates.ts';

/** Under the picture: what it is, how it stands, the photograph while a button is held, full size and back. */
export function FrameCaption({
  frame,
  asShown,
  before,
  onBefore,
  closeUp,
  onSize,
  onAccept,
  unrolled,
  onUnroll,
}: {
  frame: Frame;
  /** Whether the stored cut is what the picture shows. */
  asShown: boolean;
  before: boolean;
  onBefore: (before: boolean) => void;
  closeUp: boolean;
  onSize: () => void;
  onAccept: () => void;
  unrolled: boolean;
  onUnroll: () => void;
}) {
  const state = stateNow(frame);
  return (
    <Caption>
      <span>{frame.name}</span>
      <span className="figure quiet">
        {frame.width} × {frame.height}, {frame.depth} bit
      </span>
      <span className="quiet">{stateOf(frame, asShown)}</span>
      {frame.cut && (
        <Button variant="text" sx={{ py: 0, ml: 'auto' }} aria-pressed={state === 'accepted'} onClick={onAccept}>
          <Key>A</Key> {state === 'accepted' ? 'Accepted' : 'Accept'}
        </Button>
      )}
      {frame.cut && (
        <Button variant="text" sx={{ py: 0 }} aria-pressed={unrolled} onClick={onUnroll}>
          <Key>O</Key> {unrolled ? 'Picture' : 'Outline'}
        </Button>
      )}
      <Tooltip title="Shows the photograph while it is held." describeChild>
        <Button
          variant="text"
          sx={{ py: 0, ml: frame.cut ? 0 : 'auto' }}
          aria-pressed={before}
          onPointerDown={() => onBefore(true)}
          onPointerUp={() => onBefore(false)}
          onPointerLeave={() => onBefore(false)}
        >
          <Key>B</Key> Before
        </Button>
      </Tooltip>
      <Button variant="text" sx={{ py: 0 }} onClick={onSize}>
        <Key>0</Key> {closeUp ? 'Whole picture' : 'Full size'}
      </Button>
    </Caption>
  );
}
