import { Button, Tooltip } from '@mui/material';
import type { Frame } from '../../../contract/index.ts';
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
}: {
  frame: Frame;
  /** Whether the stored cut is what the picture shows. */
  asShown: boolean;
  before: boolean;
  onBefore: (before: boolean) => void;
  closeUp: boolean;
  onSize: () => void;
}) {
  return (
    <Caption>
      <span>{frame.name}</span>
      <span className="figure quiet">
        {frame.width} × {frame.height}, {frame.depth} bit
      </span>
      <span className="quiet">{stateOf(frame, asShown)}</span>
      <Tooltip title="Shows the photograph while it is held." describeChild>
        <Button
          variant="text"
          sx={{ py: 0, ml: 'auto' }}
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
