import { Button } from '@mui/material';
import { useMemo } from 'react';
import { secondsOf } from '../../../contract/clock.ts';
import type { Frame, Shoot, SortingChange } from '../../../contract/index.ts';
import { assignedBy, type Slot } from '../../../core/gather/assign.ts';
import { quickReport, scheduleOf, type Plan } from '../../../core/plan/index.ts';
import { counted } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { sortFrames } from '../../state/changes.ts';
import { useStore } from '../../state/store.ts';
import { assignmentFor } from './sortable.ts';
import { Rows, Thumbnails } from './sortRows.tsx';

/** From here on a proposal is taken with the others at one press. */
const SURE = 0.9;

/** When the guests of the planned days come, seconds on the cameras' clock. */
function slotsOf(plans: readonly Plan[]): Slot[] {
  return plans.flatMap((plan) => {
    const { kit, forecast } = quickReport(plan);
    const midnight = secondsOf(`${plan.event.date}T00:00:00`) ?? 0;
    return scheduleOf(plan, kit, forecast).slots.map(({ minute, name }) => ({ from: midnight + 60 * minute, name }));
  });
}

/** Who is proposed for the frames that are nobody's yet. */
export function PeopleProposals({ shoot, frames }: { shoot: Shoot; frames: readonly Frame[] }) {
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
