import HelpIcon from '@mui/icons-material/KeyboardOutlined';
import RedoIcon from '@mui/icons-material/Redo';
import UndoIcon from '@mui/icons-material/Undo';
import { Button, IconButton, Link, styled, Tooltip } from '@mui/material';
import { Link as RouterLink } from 'react-router';
import type { Shoot } from '../../contract/index.ts';
import { longDate } from '../shared/format.ts';
import { redoLast, undoLast } from '../state/change.ts';
import { useStore } from '../state/store.ts';
import { showKeys } from './KeysHelp.tsx';

const Line = styled('div')`
  min-height: 29px;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 3px 20px 1px;
  & > .where {
    font: inherit;
    color: var(--pencil);
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  & > .right {
    margin-left: auto;
    display: flex;
    gap: 10px;
    align-items: center;
    white-space: nowrap;
  }
`;

export function Head({ shoot }: { shoot?: Shoot }) {
  const step = useStore((state) => state.steps.at(-1));
  const undone = useStore((state) => state.undone.at(-1));
  return (
    <Line>
      <Link component={RouterLink} to="/" underline="none" sx={{ fontWeight: 680, letterSpacing: '-0.01em' }}>
        Silent Lawn
      </Link>
      {shoot && (
        <h1 className="where">
          {shoot.name}, <span className="figure">{longDate(shoot.date)}</span>
          {shoot.place && `, ${shoot.place}`}
        </h1>
      )}
      <span className="right">
        {step && (
          <Tooltip title="Ctrl+Z" describeChild>
            <Button variant="text" startIcon={<UndoIcon />} onClick={() => void undoLast()} sx={{ py: 0 }}>
              Take back: {step.label}
            </Button>
          </Tooltip>
        )}
        {undone && (
          <Tooltip title="Ctrl+Y" describeChild>
            <Button variant="text" startIcon={<RedoIcon />} onClick={() => void redoLast()} sx={{ py: 0 }}>
              Do again{step ? '' : `: ${undone.label}`}
            </Button>
          </Tooltip>
        )}
        <Link component={RouterLink} to="/rehearsal">
          Rehearsal
        </Link>
        <Link component={RouterLink} to="/">
          All shoots
        </Link>
        <Tooltip title="The keys of this page">
          <IconButton aria-label="Keys" onClick={() => showKeys()}>
            <HelpIcon />
          </IconButton>
        </Tooltip>
      </span>
    </Line>
  );
}
