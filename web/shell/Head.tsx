import { Button } from '@mui/material';
import { Link } from 'react-router';
import type { Shoot } from '../../contract/index.ts';
import { longDate } from '../shared/format.ts';
import { undoLast, useStore } from '../state/store.ts';

export function Head({ shoot }: { shoot?: Shoot }) {
  const step = useStore((state) => state.steps.at(-1));
  return (
    <div className="title-line">
      <Link to="/" className="mark">
        Silent Lawn
      </Link>
      {shoot && (
        <span className="where">
          {shoot.name}, <span className="figure">{longDate(shoot.date)}</span>
          {shoot.place && `, ${shoot.place}`}
        </span>
      )}
      <span className="right">
        {step && (
          <Button variant="text" onClick={() => void undoLast()} title="Ctrl+Z" sx={{ py: 0 }}>
            Take back: {step.label}
          </Button>
        )}
        <Link to="/rehearsal">Rehearsal</Link>
        <Link to="/">All shoots</Link>
      </span>
    </div>
  );
}
