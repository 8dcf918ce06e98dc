import { Button } from '@mui/material';
import type { Batch, Frame, Setup } from '../../../contract/index.ts';
import { timeLeft } from '../../shared/format.ts';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';

interface BatchProps {
  setup: Setup;
  /** The setup's, without its plate. */
  frames: Frame[];
  /** Those of them that have to be cut anew. */
  stale: Frame[];
  /** Running ones, of any setup. */
  batches: Batch[];
  others: { id: number; stale: Frame[] }[];
}

/** What is to be cut, or how far it is. */
export function BatchControl({ setup, frames, stale, batches, others }: BatchProps) {
  if (batches.length) {
    const sum = (of: (batch: Batch) => number): number => batches.reduce((total, batch) => total + of(batch), 0);
    const total = sum((batch) => batch.total);
    const ended = total - sum((batch) => batch.open);
    const failed = sum((batch) => batch.failed);
    const known = batches.filter((batch) => batch.secondsLeft !== null);
    const perFrame = known.length
      ? known.reduce((s, batch) => s + (batch.secondsLeft ?? 0), 0) / known.reduce((s, batch) => s + batch.open, 0)
      : null;
    return (
      <div style={{ display: 'grid', gap: 6, paddingBottom: 12 }}>
        <div className="actions" style={{ justifyContent: 'space-between' }}>
          <strong>
            Cutting <span className="figure">{ended}</span> of <span className="figure">{total}</span>
          </strong>
          <span className="figure quiet">{timeLeft(perFrame === null ? null : perFrame * (total - ended))}</span>
        </div>
        <StepWedge share={ended / total} label="Cutting" />
        <div className="actions">
          <Button onClick={() => batches.forEach((batch) => void attempt(api.cancel(batch.id)))}>
            Cancel the rest
          </Button>
          {failed > 0 && <span className="figure">{failed} failed</span>}
        </div>
      </div>
    );
  }
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
    <div style={{ display: 'grid', gap: 6, paddingBottom: 12 }}>
      <h2>{setup.name}</h2>
      <div className="actions">
        <Button variant="contained" color="primary" disabled={!stale.length} onClick={() => void cut(setup.id, stale)}>
          {stale.length === frames.length || !stale.length
            ? `Cut ${frames.length === 1 ? '1 frame' : `${frames.length} frames`}`
            : `Cut ${stale.length} of ${frames.length} frames`}
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
        <span className="quiet">{stale.length ? 'new, failed or changed since' : 'all cut as they stand'}</span>
      </div>
      <span className="quiet">Costliest first; figures are minutes by hand.</span>
    </div>
  );
}
