import { Box, Button, styled } from '@mui/material';
import { lazy, Suspense } from 'react';
import { clock } from '../../../core/plan/index.ts';
import { Changes } from '../../shared/Changes.tsx';
import { Actions } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { part } from '../../shared/part.ts';
import { pictures } from '../../state/api.ts';
import type { Numbers } from './plan.worker.ts';

const Chart = lazy(() => part(() => import('./Chart.tsx')));

const Timeline = styled('ol')`
  list-style: none;
  & > li {
    display: grid;
    grid-template-columns: 96px 1fr;
    gap: 0 8px;
    padding-top: 3px;
  }
  & svg {
    grid-column: 1 / -1;
    width: 100%;
    height: 9px;
  }
`;

/** The day as a timeline, the slot list, the sun. */
export function DayPanel({ planId, numbers }: { planId: number; numbers: Numbers }) {
  const { schedule, sun } = numbers;
  const from = Math.min(...schedule.stretches.map((s) => s.from));
  const to = Math.max(schedule.deadline, ...schedule.stretches.map((s) => s.to));
  const at = (minute: number): number => ((minute - from) / Math.max(1, to - from)) * 100;
  return (
    <section aria-label="The day">
      <p>
        <span className="figure">{schedule.perHour.toFixed(0)}</span> guests an hour, room for{' '}
        <span className="figure">{schedule.capacity}</span>. Ready at{' '}
        <strong className="figure">{clock(schedule.ready)}</strong>, deadline{' '}
        <span className="figure">{clock(schedule.deadline)}</span>.
      </p>
      {schedule.misfits.map(({ words, remedy }) => (
        <Problem key={words} role="note" lead={words}>
          {remedy}
        </Problem>
      ))}
      <Timeline>
        {schedule.stretches.map(({ who, words, from: begin, to: end, unattended }) => (
          <li key={`${words}${begin}`}>
            <span className="figure">
              {clock(begin)}–{clock(end)}
            </span>
            <span>
              {words}{' '}
              <span className="quiet">
                {who}
                {unattended ? ', unattended' : ''}
              </span>
            </span>
            <svg viewBox="0 0 100 4" preserveAspectRatio="none" aria-hidden="true">
              <line x1="0" x2="100" y1="2" y2="2" stroke="var(--hairline)" strokeWidth="0.6" />
              <line
                x1={at(schedule.deadline)}
                x2={at(schedule.deadline)}
                y1="0"
                y2="4"
                stroke="var(--accent)"
                strokeWidth="0.6"
              />
              <rect
                x={at(begin)}
                y="0.5"
                width={Math.max(0.6, at(end) - at(begin))}
                height="3"
                fill={unattended ? 'var(--rule)' : 'var(--ink)'}
              />
            </svg>
          </li>
        ))}
      </Timeline>
      <Actions sx={{ py: 1 }}>
        <Button href={pictures.planFile(planId, 'slots.csv')} download>
          Slot list, CSV
        </Button>
        <Button href={pictures.planFile(planId, 'slots.ics')} download>
          Calendar
        </Button>
      </Actions>
      <p className="quiet">
        <span className="figure">{schedule.slots.length}</span> slots
        {schedule.slots.length > 0 &&
          `, the first at ${clock(schedule.slots[0].minute)}, the last at ${clock(schedule.slots[schedule.slots.length - 1].minute)}`}
        .
      </p>
      {sun ? (
        <>
          <Box component="h2" sx={{ pt: 1 }}>
            Sun
          </Box>
          <Suspense fallback={<p className="quiet">Drawing …</p>}>
            <Chart
              kind="sun"
              names={sun.through.map((s) => clock(s.minute))}
              values={sun.through.map((s) => s.elevation)}
              marks={sun.through.map((s) =>
                s.onScreen ? 'on the screen' : s.onFace ? 'on the face' : s.onBack ? 'from behind' : '',
              )}
            />
          </Suspense>
          <p className="quiet">New test frame:</p>
          <Changes>
            {sun.testAgain.map(({ minute, words }) => (
              <li key={minute}>
                <span className="figure">{clock(minute)}</span>
                <span>{words}</span>
              </li>
            ))}
          </Changes>
        </>
      ) : (
        <p className="quiet">No window and indoors: the sun does not matter here.</p>
      )}
    </section>
  );
}
