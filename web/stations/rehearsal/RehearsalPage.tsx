import {
  Box,
  Button,
  FormControl,
  FormControlLabel,
  FormLabel,
  List,
  ListItem,
  ListItemButton,
  Radio,
  RadioGroup,
} from '@mui/material';
import { useCallback, useEffect, useState } from 'react';
import { LEVELS, type Rehearsal, type RehearsalResult } from '../../../contract/index.ts';
import { Example } from '../../shared/Example.tsx';
import { JobFailed, JobLine } from '../../shared/JobLine.tsx';
import { EmptyPlace, ListMargin, Plate, Strip } from '../../shared/layout.tsx';
import { Head } from '../../shell/Head.tsx';
import { Page } from '../../shell/Page.tsx';
import { ProblemBar } from '../../shell/ProblemBar.tsx';
import { api } from '../../state/api.ts';
import { runJob } from '../../state/jobs.ts';
import { attempt, followEvents, useStore } from '../../state/store.ts';
import { CheckBench } from '../check/CheckStage.tsx';
import { Exercise } from './Exercise.tsx';
import { offeredLevel } from './offeredLevel.ts';

const levelWords = [
  'one gross fault',
  'one plain fault, sometimes none',
  'one faint fault, sometimes none',
  'two faults, sometimes none',
  'two faint faults, sometimes none',
];

/** Sets with hidden faults: read, name cause and remedy, be told the truth. */
export function RehearsalPage() {
  const [results, setResults] = useState<RehearsalResult[]>([]);
  const [level, setLevel] = useState(1);
  const [current, setCurrent] = useState<Rehearsal>();
  const jobs = useStore((state) => state.looseJobs);
  const latest = Object.values(jobs)
    .filter(({ kind }) => kind === 'rehearsal')
    .at(-1);
  const making = latest && (latest.state === 'queued' || latest.state === 'running') ? latest : undefined;
  const show = async (id: number): Promise<void> => {
    const one = await attempt(api.rehearsal(id));
    if (one) setCurrent(one);
  };
  const reload = useCallback(async (): Promise<RehearsalResult[]> => {
    const list = await attempt(api.rehearsals());
    if (list) setResults(list.results);
    return list?.results ?? [];
  }, []);
  useEffect(() => {
    void reload().then((list) => {
      setLevel(offeredLevel(list));
      // What was left unanswered goes on after a reload.
      const open = list.find(({ answered }) => !answered);
      if (open) void show(open.id);
    });
    return followEvents(() => void reload());
  }, [reload]);
  // A set that was being made when the page was opened is shown when it is there.
  const done = latest?.state === 'done' ? latest.made?.rehearsalId : undefined;
  useEffect(() => {
    if (done !== undefined) void show(done);
  }, [done]);
  return (
    <Page>
      <header>
        <Head />
        <ProblemBar />
      </header>
      <main>
        <CheckBench>
          <ListMargin aria-label="Rehearsal" sx={{ gap: 1 }}>
            <h1>Rehearsal</h1>
            <p className="quiet">
              The stand-in camera photographs a set with hidden faults. Read it, name what is wrong and what you would
              do; then you are told the truth.
            </p>
            <div>
              <FormControl>
                <FormLabel sx={{ fontWeight: 640, pb: 0.5 }}>Level</FormLabel>
                <RadioGroup value={level} sx={{ gap: 0.25 }} onChange={(_, value) => setLevel(Number(value))}>
                  {Array.from({ length: LEVELS }, (_, n) => (
                    <FormControlLabel
                      key={n}
                      value={n + 1}
                      control={<Radio />}
                      label={
                        <>
                          <span className="figure">{n + 1}</span> {levelWords[n]}
                        </>
                      }
                    />
                  ))}
                </RadioGroup>
              </FormControl>
            </div>
            <div>
              <Button
                variant="contained"
                color="primary"
                disabled={!!making}
                onClick={() => void runJob(api.newRehearsal(level))}
              >
                {current && !current.truth ? 'Another set' : 'New set'}
              </Button>
            </div>
            {making && (
              <div>
                <JobLine job={making} label="Set" words="Setting it up" />
              </div>
            )}
            {latest?.state === 'failed' && (
              <div>
                <JobFailed job={latest} />
              </div>
            )}
            <Results results={results} current={current?.id} onShow={(id) => void show(id)} />
          </ListMargin>
          {current ? (
            <Exercise
              key={current.id}
              rehearsal={current}
              onAnswered={(answered) => {
                setCurrent(answered);
                void reload();
              }}
            />
          ) : (
            <Plate sx={{ gridColumn: 'span 2' }}>
              <Strip />
              <Box sx={{ display: 'grid', placeItems: 'center' }}>
                <Box sx={{ bgcolor: 'background.paper', maxWidth: 560 }}>
                  <EmptyPlace title="No set is up yet.">
                    Choose a level on the left and ask for a new set: four photographs, as you would take them beside
                    your own set, and what is read from them. It takes some ten seconds.
                    <Example show={['photograph']} words="one of four photographs that tell what is wrong" />
                  </EmptyPlace>
                </Box>
              </Box>
            </Plate>
          )}
        </CheckBench>
      </main>
    </Page>
  );
}

function Results({
  results,
  current,
  onShow,
}: {
  results: RehearsalResult[];
  current: number | undefined;
  onShow: (id: number) => void;
}) {
  const answered = results.filter(({ answered: done }) => done);
  const right = answered.filter(({ causesRight }) => causesRight).length;
  return (
    <>
      <h2>Results</h2>
      <p className="quiet">
        {answered.length ? (
          <>
            <span className="figure">{right}</span> of <span className="figure">{answered.length}</span> causes named
            rightly.
          </>
        ) : (
          'Nothing answered yet.'
        )}
      </p>
      <List aria-label="Results" sx={{ overflow: 'auto', minHeight: 60 }}>
        {answered.map((result) => (
          <ListItem key={result.id} disablePadding>
            <ListItemButton component="button" selected={result.id === current} onClick={() => onShow(result.id)}>
              <span className="figure">level {result.level}</span>
              <span style={{ flex: 1, textAlign: 'left' }}>{result.causes.join(', ') || 'nothing was wrong'}</span>
              <span>{result.causesRight ? result.remedyRight ? 'right' : 'cause right' : <strong>missed</strong>}</span>
            </ListItemButton>
          </ListItem>
        ))}
      </List>
    </>
  );
}
