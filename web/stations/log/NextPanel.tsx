import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import { lazy, Suspense, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { ShootLog } from '../../../contract/index.ts';
import {
  costOf,
  lessonsOf,
  materialCards,
  secondsOf,
  type Lesson,
  type LoggedSetup,
  type OfShoot,
} from '../../../core/log/index.ts';
import { readingFacts, type ReadingId } from '../../../core/plan/readings.ts';
import { Choice } from '../../shared/Choice.tsx';
import { counted } from '../../shared/format.ts';
import { EmptyPlace } from '../../shared/layout.tsx';
import { part } from '../../shared/part.ts';
import { api } from '../../state/api.ts';
import { useOwnFactors } from '../../state/factors.ts';
import { attempt } from '../../state/store.ts';
import { SideBySide } from './SideBySide.tsx';
import { useLogs } from './useLog.ts';

const LogChart = lazy(() => part(() => import('./LogChart.tsx')));

/** What all shoots together say: what cost most, what goes with what, materials, the year, one shoot beside another. */
export function NextPanel({ log }: { log: ShootLog }) {
  const logs = useLogs();
  const factors = useOwnFactors();
  const setups = useMemo(
    () => (logs ?? []).flatMap((one): OfShoot[] => one.setups.map((setup) => ({ ...setup, shoot: one.shoot.name }))),
    [logs],
  );
  const lessons = useMemo(() => lessonsOf(setups, factors), [setups, factors]);
  if (!logs) return null;
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <section>
        <h2>What to change next time</h2>
        {!lessons.length && (
          <EmptyPlace title="Nothing to say yet.">
            Plan a set or take test frames for a setup, and extract its frames: then what they cost can be told.
          </EmptyPlace>
        )}
        <Box component="ol" sx={{ pl: 2.5, display: 'grid', gap: 0.75 }}>
          {lessons.slice(0, 6).map((lesson) => (
            <LessonLine key={lesson.cause} lesson={lesson} />
          ))}
        </Box>
      </section>
      <ReadingChart setups={setups} />
      <Materials setups={setups} />
      <YearChart logs={logs} />
      <SideBySide logs={logs} first={log.shoot.id} />
      <Reuse log={log} />
    </Box>
  );
}

function LessonLine({ lesson: { cause, title, minutes, spent, setups, withIt, without } }: { lesson: Lesson }) {
  const facts = cause === 'base' ? undefined : readingFacts[cause];
  return (
    <li>
      <strong>{title}</strong> {spent ? 'cost' : 'is foreseen to cost'}{' '}
      <span className="figure">{minutes.toFixed(0)} min</span> in {counted(setups.length, 'setup')}
      {withIt !== null && without !== null && withIt > without && (
        <>
          : <span className="figure">{withIt.toFixed(2)}</span> min a frame there,{' '}
          <span className="figure">{without.toFixed(2)}</span> elsewhere
        </>
      )}
      . {facts?.remedy}
      <br />
      <span className="quiet">
        {setups
          .map(
            ({ shoot, setup, reading, minutes: cost }) =>
              `${shoot}, ${setup}${reading === null || !facts ? '' : `: ${reading.toFixed(facts.digits)} ${facts.unit}`} (${cost.toFixed(0)} min)`,
          )
          .join('; ')}
      </span>
    </li>
  );
}

const minutesEach = ({ accepted, check, plan }: LoggedSetup): { value: number; spent: boolean } | undefined => {
  if (accepted.frames) return { value: accepted.spent / accepted.frames, spent: true };
  const foreseen = check ?? plan;
  if (!foreseen) return undefined;
  const all = Object.values(foreseen.causes).reduce((sum, minutes) => sum + minutes, 0);
  return { value: all / foreseen.frames, spent: false };
};

/** Any reading, distance, material or light against minutes by hand; a mark for each setup. */
function ReadingChart({ setups }: { setups: readonly OfShoot[] }) {
  const [against, setAgainst] = useState('spread');
  const ids = (Object.keys(readingFacts) as ReadingId[]).filter((id) =>
    setups.some(({ readings }) => readings[id] !== undefined),
  );
  const points = setups.flatMap((setup) => {
    const each = minutesEach(setup);
    const x =
      against === 'distance'
        ? setup.set?.distance
        : against === 'material'
          ? setup.set?.material
          : against === 'light'
            ? setup.set?.light
            : setup.readings[against as ReadingId];
    return each && x !== undefined
      ? [{ x, y: each.value, name: `${setup.shoot}, ${setup.name}`, full: each.spent }]
      : [];
  });
  const facts = readingFacts[against as ReadingId] as (typeof readingFacts)[ReadingId] | undefined;
  if (!points.length && !ids.length) return null;
  return (
    <section>
      <h2>What goes with minutes by hand</h2>
      <Box sx={{ maxWidth: 420 }}>
        <Choice
          label="Against"
          value={against}
          options={[
            { value: 'distance', title: 'Distance to the screen, m' },
            { value: 'material', title: 'Material' },
            { value: 'light', title: 'School of light' },
            ...ids.map((id) => ({
              value: id,
              title: `${readingFacts[id].title}${readingFacts[id].unit && `, ${readingFacts[id].unit}`}`,
            })),
          ]}
          onChange={setAgainst}
        />
      </Box>
      <Suspense>
        <LogChart
          label={`Minutes by hand against ${facts?.title ?? against}`}
          points={points}
          across={facts ? `${facts.title}${facts.unit && `, ${facts.unit}`}` : against === 'distance' ? 'm' : ''}
          down="min a frame"
        />
      </Suspense>
      <p className="quiet">Filled marks are minutes that were spent, open ones those that were foreseen.</p>
    </section>
  );
}

function Materials({ setups }: { setups: readonly LoggedSetup[] }) {
  const cards = materialCards(setups);
  if (!cards.length) return null;
  const shown = (value: number | null, digits: number): string => (value === null ? '–' : value.toFixed(digits));
  return (
    <section>
      <h2>Materials</h2>
      <Table size="small" aria-label="Materials">
        <TableHead>
          <TableRow>
            {[
              'Material',
              'setups',
              'largest, m²',
              'cost of a use',
              'unevenness, stops',
              'creases, %',
              'mirrored, stops',
              'min a frame',
            ].map((title, n) => (
              <TableCell key={title} align={n ? 'right' : 'left'}>
                {title}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {cards.map(({ material, uses, area, cost, spread, wrinkle, gloss, minutes }) => (
            <TableRow key={material}>
              <TableCell>{material}</TableCell>
              {[
                String(uses),
                area.toFixed(1),
                cost.toFixed(2),
                shown(spread, 2),
                shown(wrinkle, 1),
                shown(gloss, 2),
                shown(minutes, 2),
              ].map((text, n) => (
                <TableCell key={n} align="right" className="figure">
                  {text}
                </TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </section>
  );
}

function YearChart({ logs }: { logs: readonly ShootLog[] }) {
  const [what, setWhat] = useState('minutes');
  const points = logs.flatMap(({ shoot, setups, times, costs, pictures }) => {
    if (!pictures) return [];
    const value =
      what === 'minutes' ? secondsOf(times) / 60 / pictures : (costOf(setups, times, costs, pictures).each ?? 0);
    return [{ x: shoot.date, y: value, name: shoot.name, full: true }];
  });
  if (points.length < 2) return null;
  return (
    <section>
      <h2>Over the year</h2>
      <Box sx={{ maxWidth: 420 }}>
        <Choice
          label="For each portrait"
          value={what}
          options={[
            { value: 'minutes', title: 'Minutes at the stations' },
            { value: 'cost', title: 'Cost' },
          ]}
          onChange={setWhat}
        />
      </Box>
      <Suspense>
        <LogChart
          label={what === 'minutes' ? 'Minutes for each portrait over the year' : 'Cost of each portrait over the year'}
          points={points}
          across=""
          down={what === 'minutes' ? 'min a portrait' : 'cost of a portrait'}
          dates
        />
      </Suspense>
    </section>
  );
}

/** A setup with its plan, settings, masks and styles becomes the start of another shoot. */
function Reuse({ log }: { log: ShootLog }) {
  const navigate = useNavigate();
  const start = async (setupId?: number): Promise<void> => {
    const made = await attempt(api.duplicateShoot(log.shoot.id, setupId));
    if (made) void navigate(`/shoots/${made.id}/plan`);
  };
  return (
    <section>
      <h2>Begin the next shoot from here</h2>
      <p className="quiet">
        With plan, settings, masks and styles; what was read of them is noted, frames and rounds stay with this one.
      </p>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', pt: 1 }}>
        {log.setups.map(({ id, name }) => (
          <Button key={id} onClick={() => void start(id)}>
            From “{name}”
          </Button>
        ))}
        {log.setups.length > 1 && <Button onClick={() => void start()}>From all of it</Button>}
      </Box>
    </section>
  );
}
