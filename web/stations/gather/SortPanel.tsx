import { Alert, Box, Button, styled } from '@mui/material';
import { lazy, Suspense, useMemo, useState } from 'react';
import type { Frame, Shoot, SortingChange } from '../../../contract/index.ts';
import { secondsOf } from '../../../contract/clock.ts';
import { assignedBy, type Slot } from '../../../core/gather/assign.ts';
import { driftFacts } from '../../../core/gather/drift.ts';
import { quickReport, scheduleOf, type Plan } from '../../../core/plan/index.ts';
import { counted } from '../../shared/format.ts';
import { Actions, EmptyPlace } from '../../shared/layout.tsx';
import { api, pictures } from '../../state/api.ts';
import { changeSetup, sortFrames } from '../../state/changes.ts';
import { attempt, takeItems, useStore } from '../../state/store.ts';
import { part } from '../../shared/part.ts';
import { assignmentFor, dayLines, driftsIn, wantedSetups, type WantedSetup } from './sortable.ts';

const DayChart = lazy(() => part(() => import('./DayChart.tsx')));

const Rows = styled('ul')`
  list-style: none;
  border-top: 1px solid var(--ink);
  & > li {
    display: grid;
    grid-template-columns: 200px minmax(0, 1fr) 250px auto;
    gap: 14px;
    align-items: center;
    padding: 5px 0;
    border-bottom: 1px solid var(--hairline);
    content-visibility: auto;
    contain-intrinsic-height: 66px;
  }
`;

const Thumbs = styled('div')`
  display: flex;
  gap: 4px;
  overflow: hidden;
  & img {
    height: 54px;
    display: block;
  }
`;

/** Pictures shown of a group. */
const SHOWN = 7;
/** From here on a proposal is taken with the others at one press. */
const SURE = 0.9;

/** What is proposed: who is on which frame, which setup it belongs to, and where something changed unasked. */
export function SortPanel({ shoot }: { shoot: Shoot }) {
  const frames = useStore((state) => state.frames);
  const unread = frames.filter(({ facts }) => facts === null).length;
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
      <People shoot={shoot} frames={frames} />
      <Setups shoot={shoot} frames={frames} />
      <Targets shoot={shoot} frames={frames} />
      <Drifts frames={frames} />
    </Box>
  );
}

function Thumbnails({ ids, frames }: { ids: readonly number[]; frames: readonly Frame[] }) {
  const shown = ids.slice(0, SHOWN).flatMap((id) => frames.find((frame) => frame.id === id) ?? []);
  return (
    <Thumbs>
      {shown.map((frame) => (
        <img key={frame.id} src={pictures.thumbnail(frame)} alt={frame.name} loading="lazy" />
      ))}
      {ids.length > SHOWN && <span className="quiet figure">+{ids.length - SHOWN}</span>}
    </Thumbs>
  );
}

/** When the guests of the planned days come, seconds on the cameras' clock. */
function slotsOf(plans: readonly Plan[]): Slot[] {
  return plans.flatMap((plan) => {
    const { kit, forecast } = quickReport(plan);
    const midnight = secondsOf(`${plan.event.date}T00:00:00`) ?? 0;
    return scheduleOf(plan, kit, forecast).slots.map(({ minute, name }) => ({ from: midnight + 60 * minute, name }));
  });
}

function People({ shoot, frames }: { shoot: Shoot; frames: readonly Frame[] }) {
  const subjects = useStore((state) => state.subjects);
  const plans = useStore((state) => state.plans);
  const slots = useMemo(() => slotsOf(plans.map(({ plan }) => plan)), [plans]);
  const { runs, unknown } = useMemo(() => assignmentFor(frames, subjects, slots), [frames, subjects, slots]);
  const people = frames.filter(({ facts }) => facts === null || facts.kind === 'people' || facts.kind === 'slate');
  const nobodys = people.filter(({ subject }) => subject === '').length;
  const withFrames = new Set(frames.map(({ subject }) => subject));
  const missing = subjects.filter(({ name }) => !withFrames.has(name));
  const take = (taken: typeof runs): void =>
    void sortFrames(
      shoot.id,
      taken.flatMap(({ subject, parts }): SortingChange[] => {
        const slates = parts.filter(({ slate }) => slate).map(({ frameId }) => frameId);
        const rest = parts.filter(({ slate }) => !slate).map(({ frameId }) => frameId);
        return [
          // A picture with the slate in it is no picture of theirs.
          ...(slates.length ? [{ frameIds: slates, subject, pick: 'drop' as const }] : []),
          ...(rest.length ? [{ frameIds: rest, subject }] : []),
        ];
      }),
      taken.length === 1 ? `who is on frames, ${taken[0].subject}` : 'who is on frames',
    );
  const sure = runs.filter((run) => run.sure >= SURE);
  return (
    <section aria-label="Who is on which frame">
      <Actions>
        <h2 className="title">Who is on which frame</h2>
        <span className="quiet" role="status">
          {nobodys ? `${counted(nobodys, 'frame')} of nobody yet` : 'every frame has its person'}
          {missing.length > 0 && `, ${counted(missing.length, 'person', 'people')} without a frame`}
        </span>
        {sure.length > 0 && (
          <Button variant="contained" color="primary" sx={{ ml: 'auto' }} onClick={() => take(sure)}>
            Take {counted(sure.length, 'sure proposal')}
          </Button>
        )}
        {runs.length > sure.length && (
          <Button sx={{ ml: sure.length ? 0 : 'auto' }} onClick={() => take(runs)}>
            Take all {runs.length}
          </Button>
        )}
      </Actions>
      {!subjects.length && nobodys > 0 && (
        <p className="quiet">Bring in the list of names at Roster; then it is proposed who is on which frame.</p>
      )}
      {unknown.map(({ frameId, number }) => (
        <p key={frameId}>
          The slate on {frames.find(({ id }) => id === frameId)?.name} says {number}, which nobody on the roster has.
        </p>
      ))}
      {runs.length > 0 && (
        <Rows>
          {runs.map((run) => (
            <li key={run.subject} aria-label={`${run.subject}, ${counted(run.parts.length, 'frame')}`}>
              <strong>{run.subject}</strong>
              <Thumbnails ids={run.parts.map(({ frameId }) => frameId)} frames={frames} />
              <span className="quiet">
                {counted(run.parts.length, 'frame')}, {assignedBy[run.parts[0].by]},{' '}
                <span className="figure">{Math.round(100 * run.sure)} %</span> sure
              </span>
              <Button onClick={() => take([run])} aria-label={`Take it for ${run.subject}`}>
                Take
              </Button>
            </li>
          ))}
        </Rows>
      )}
      {missing.length > 0 && (
        <p className="quiet">
          Without a frame:{' '}
          {missing
            .slice(0, 12)
            .map(({ name }) => name)
            .join(', ')}
          {missing.length > 12 && ` and ${missing.length - 12} more`}.
        </p>
      )}
    </section>
  );
}

function Setups({ shoot, frames }: { shoot: Shoot; frames: readonly Frame[] }) {
  const setups = useStore((state) => state.setups);
  const wanted = useMemo(() => wantedSetups(frames, setups), [frames, setups]);
  const [joined, setJoined] = useState<ReadonlySet<number>>(new Set());
  const moving = wanted.reduce((sum, group) => sum + group.moving.length, 0);
  // A group that was joined goes with the one above it.
  const merged = wanted.reduce<WantedSetup[]>((list, group, n) => {
    const above = list.at(-1);
    if (!joined.has(n) || !above) return [...list, group];
    return [
      ...list.slice(0, -1),
      { ...above, frames: [...above.frames, ...group.frames], moving: [...above.moving, ...group.frames] },
    ];
  }, []);
  const accept = async (): Promise<void> => {
    const changes: SortingChange[] = [];
    let made = 0;
    for (const { setup, moving: frameIds } of merged) {
      if (!frameIds.length) continue;
      let setupId = setup?.id;
      if (setupId === undefined) {
        const created = await attempt(api.createSetup(shoot.id, `Setup ${setups.length + ++made}`));
        if (!created) return;
        takeItems(shoot.id, { setups: [created] });
        setupId = created.id;
      }
      const other = frameIds.filter((id) => frames.find((frame) => frame.id === id)?.setupId !== setupId);
      if (other.length) changes.push({ frameIds: other, setupId });
    }
    if (changes.length) await sortFrames(shoot.id, changes, 'setups of frames');
    setJoined(new Set());
  };
  return (
    <section aria-label="Setups">
      <Actions>
        <h2 className="title">Setups</h2>
        <span className="quiet" role="status">
          {moving
            ? `${counted(wanted.length, 'setup')} by what the frames show; ${counted(moving, 'frame')} stand otherwise`
            : `${counted(wanted.length, 'setup')}, as the frames stand`}
        </span>
        {moving > 0 && (
          <Button variant="contained" color="primary" sx={{ ml: 'auto' }} onClick={() => void accept()}>
            Sort them so
          </Button>
        )}
      </Actions>
      {moving > 0 && (
        <Rows>
          {wanted.map(({ frames: ids, setup, reasons }, n) => (
            <li key={ids[0]}>
              <strong>{joined.has(n) ? 'with the one above' : (setup?.name ?? 'a new setup')}</strong>
              <Thumbnails ids={ids} frames={frames} />
              <span className="quiet">
                {counted(ids.length, 'frame')}
                {reasons.length > 0 && `: ${reasons.join(', ')}`}
              </span>
              {n > 0 ? (
                <Button
                  onClick={() =>
                    setJoined((old) => {
                      const next = new Set(old);
                      if (!next.delete(n)) next.add(n);
                      return next;
                    })
                  }
                >
                  {joined.has(n) ? 'Keep apart' : 'Join with above'}
                </Button>
              ) : (
                <span />
              )}
            </li>
          ))}
        </Rows>
      )}
    </section>
  );
}

const targetWords = {
  plate: 'shows the empty screen',
  ball: 'shows the matt ball',
  'grey card': 'shows the grey card',
  'colour chart': 'shows the colour chart',
} as const;

/** Frames without a person: the plate of their setup, and what belongs to a round at Check. */
function Targets({ shoot, frames }: { shoot: Shoot; frames: readonly Frame[] }) {
  const setups = useStore((state) => state.setups);
  const found = frames.filter(({ facts, pick }) => facts && facts.kind in targetWords && pick !== 'drop');
  if (!found.length) return null;
  return (
    <section aria-label="Frames without a person">
      <h2 className="title">Frames without a person</h2>
      <Rows>
        {found.map((frame) => {
          const kind = frame.facts?.kind as keyof typeof targetWords;
          const setup = setups.find(({ id }) => id === frame.setupId);
          const isPlate = setup?.plateFrameId === frame.id;
          return (
            <li key={frame.id}>
              <strong>{frame.name}</strong>
              <Thumbnails ids={[frame.id]} frames={frames} />
              <span className="quiet">
                {targetWords[kind]}
                {kind === 'plate'
                  ? isPlate
                    ? `: the plate of “${setup?.name}”`
                    : ''
                  : '; it is read in a round at Check, and nobody’s picture'}
              </span>
              {kind === 'plate' && setup && !isPlate ? (
                <Button onClick={() => void changeSetup(setup, { plateFrameId: frame.id }, 'plate')}>
                  Take as the plate
                </Button>
              ) : kind !== 'plate' ? (
                <Button
                  onClick={() => void sortFrames(shoot.id, [{ frameIds: [frame.id], pick: 'drop' }], 'dropped frame')}
                >
                  Drop
                </Button>
              ) : (
                <span />
              )}
            </li>
          );
        })}
      </Rows>
    </section>
  );
}

function Drifts({ frames }: { frames: readonly Frame[] }) {
  const setups = useStore((state) => state.setups);
  const drifts = useMemo(() => driftsIn(frames, setups), [frames, setups]);
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
