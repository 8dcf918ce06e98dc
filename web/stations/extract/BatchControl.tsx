import { Box, Button } from '@mui/material';
import type { Batch, Frame, Setup } from '../../../contract/index.ts';
import { counted, timeLeft } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { olderFrames } from './wanted.ts';

interface BatchProps {
  setup: Setup;
  /** The setup's, without its plate. */
  frames: Frame[];
  /** Those of them that have to be cut anew. */
  stale: Frame[];
  /** Running ones, of any setup. */
  batches: Batch[];
  others: { id: number; frames: Frame[]; stale: Frame[] }[];
}

/** What is to be extracted, or how far it is. */
export function BatchControl({ setup, frames, stale, batches, others }: BatchProps) {
  if (batches.length) return <Running batches={batches} />;
  const older = [{ id: setup.id, frames, stale }, ...others]
    .map(({ id, ...of }) => ({ id, older: olderFrames(of.frames, of.stale) }))
    .filter((one) => one.older.length);
  const elsewhere = others.filter((other) => other.stale.length);
  const all = stale.length + elsewhere.reduce((n, other) => n + other.stale.length, 0);
  const cut = (id: number, chosen: Frame[]): unknown =>
    chosen.length &&
    attempt(
      api.cut(
        id,
        chosen.map((frame) => frame.id),
      ),
    );
  return (
    <Box sx={{ display: 'grid', gap: 0.75, pb: 1.5 }}>
      <h2>{setup.name}</h2>
      <Actions>
        <Button variant="contained" color="primary" disabled={!stale.length} onClick={() => void cut(setup.id, stale)}>
          {stale.length === frames.length || !stale.length
            ? `Extract ${counted(frames.length, 'frame')}`
            : `Extract ${stale.length} of ${frames.length} frames`}
        </Button>
        {elsewhere.length > 0 && (
          <Button
            onClick={() => {
              void cut(setup.id, stale);
              for (const other of elsewhere) void cut(other.id, other.stale);
            }}
          >
            All setups, {all}
          </Button>
        )}
        <span className="quiet">{stale.length ? 'new, failed or changed since' : 'all extracted as they stand'}</span>
      </Actions>
      <Older
        count={older.reduce((n, one) => n + one.older.length, 0)}
        setups={older.length}
        onAnew={() => {
          for (const one of older) void cut(one.id, one.older);
        }}
      />
      <span className="quiet">Costliest first; figures are minutes by hand.</span>
    </Box>
  );
}

/** Cuts of an earlier version of the program, in all setups. */
function Older({ count, setups, onAnew }: { count: number; setups: number; onAnew: () => void }) {
  if (!count) return null;
  return (
    <Actions>
      <span>
        {counted(count, 'cut')} {setups > 1 && <>in {setups} setups </>}of an earlier version of the program, not
        accepted yet, may look otherwise now.
      </span>
      <Button onClick={onAnew}>Extract {count === 1 ? 'it' : 'them'} anew</Button>
    </Actions>
  );
}

function Running({ batches }: { batches: Batch[] }) {
  const sum = (of: (batch: Batch) => number): number => batches.reduce((total, batch) => total + of(batch), 0);
  const total = sum((batch) => batch.total);
  const ended = total - sum((batch) => batch.open);
  const failed = sum((batch) => batch.failed);
  const known = batches.filter((batch) => batch.secondsLeft !== null);
  const perFrame = known.length
    ? known.reduce((s, batch) => s + (batch.secondsLeft ?? 0), 0) / known.reduce((s, batch) => s + batch.open, 0)
    : null;
  return (
    <Box sx={{ display: 'grid', gap: 0.75, pb: 1.5 }}>
      <Actions sx={{ justifyContent: 'space-between' }}>
        <strong>
          Extracting <span className="figure">{ended}</span> of <span className="figure">{total}</span>
        </strong>
        <span className="figure quiet">{timeLeft(perFrame === null ? null : perFrame * (total - ended))}</span>
      </Actions>
      <StepWedge share={ended / total} label="Extracting" />
      <Actions>
        <Button onClick={() => batches.forEach((batch) => void attempt(api.cancel(batch.id)))}>Cancel the rest</Button>
        {failed > 0 && <span className="figure">{failed} failed</span>}
      </Actions>
    </Box>
  );
}
