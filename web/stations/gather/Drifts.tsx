import { lazy, Suspense, useMemo } from 'react';
import type { Frame } from '../../../contract/index.ts';
import { driftFacts } from '../../../core/gather/drift.ts';
import { counted } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { part } from '../../shared/part.ts';
import { useStore } from '../../state/store.ts';
import { OffLight } from './OffLight.tsx';
import { referencesOf } from '../../../contract/sign.ts';
import { dayLines, driftsIn, offLight } from './sortable.ts';
import { Rows, Thumbnails } from './sortRows.tsx';

const DayChart = lazy(() => part(() => import('./DayChart.tsx')));

/** Where frames of a setup begin to differ from those before, and the light through the day. */
export function Drifts({ frames }: { frames: readonly Frame[] }) {
  const setups = useStore((state) => state.setups);
  const checks = useStore((state) => state.checks);
  const drifts = useMemo(() => driftsIn(frames, setups), [frames, setups]);
  const off = useMemo(() => offLight(frames, setups, referencesOf(checks)), [frames, setups, checks]);
  const lines = useMemo(() => dayLines(frames, setups, drifts), [frames, setups, drifts]);
  return (
    <section aria-label="What changed unasked">
      <Actions>
        <h2 className="title">What changed unasked</h2>
        <span className="quiet" role="status">
          {drifts.length
            ? counted(drifts.length, 'change')
            : 'in every setup light, colour, camera and cloth stay as they began'}
        </span>
      </Actions>
      {lines.length > 0 && (
        <Suspense fallback={<p className="quiet">Drawing …</p>}>
          <DayChart lines={lines} />
        </Suspense>
      )}
      {off.length > 0 && (
        <Rows aria-label="Light that the camera changed">
          {off.map(({ setup, off: list, signed }) => (
            <OffLight key={setup.id} setup={setup} list={list} signed={signed} frames={frames} />
          ))}
        </Rows>
      )}
      {drifts.length > 0 && (
        <Rows>
          {drifts.map(({ setup, drift }) => {
            const frame = frames.find(({ id }) => id === drift.frameId);
            const { label, remedy } = driftFacts[drift.kind];
            return (
              <li key={`${drift.frameId} ${drift.kind}`} style={{ gridTemplateColumns: '200px 60px minmax(0, 1fr)' }}>
                <span>
                  <strong>{frame?.name}</strong> <span className="quiet figure">{frame?.takenAt?.slice(11, 16)}</span>
                  <br />
                  <span className="quiet">{setup.name}</span>
                </span>
                <Thumbnails ids={[drift.frameId]} frames={frames} />
                <span>
                  From here on: {label} ({inFigures(drift.kind, drift.by)}). {remedy}
                </span>
              </li>
            );
          })}
        </Rows>
      )}
    </section>
  );
}

function inFigures(kind: keyof typeof driftFacts, by: number): string {
  if (kind === 'whiteBalance') return `${by.toFixed(3)} in chromaticity`;
  if (kind === 'camera') return `${(100 * by).toFixed(1)} % of the frame`;
  return `${Math.abs(by).toFixed(2)} steps`;
}
