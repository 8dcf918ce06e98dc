import { Box, Button, Checkbox, FormControl, FormControlLabel, FormGroup, FormLabel } from '@mui/material';
import { useRef, useState } from 'react';
import { wholeFreedom, type Freedom, type Improvement, type Plan, type Saving } from '../../../core/plan/index.ts';
import { Changes } from '../../shared/Changes.tsx';
import { timeLeft } from '../../shared/format.ts';
import { Problem } from '../../shared/Problem.tsx';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { useOwnFactors } from '../../state/factors.ts';
import { useComputed, usePlanWorker } from './usePlanWorker.ts';

/** What saves most, the search for a better layout, and the schools with their price. */
export function SavePanel({ plan, onChange }: { plan: Plan; onChange: (plan: Plan, label: string) => void }) {
  const worker = usePlanWorker();
  const factors = useOwnFactors();
  const { value: savings, behind } = useComputed(
    worker,
    plan,
    (remote, current) => remote.savings(current, factors),
    JSON.stringify(factors),
  );
  const [freedom, setFreedom] = useState<Freedom>(wholeFreedom);
  const [progress, setProgress] = useState<number>();
  const [left, setLeft] = useState<number | null>(null);
  const [result, setResult] = useState<Improvement>();
  const [overtaken, setOvertaken] = useState(false);
  const latest = useRef(plan);
  latest.current = plan;
  const search = async (): Promise<void> => {
    if (!worker) return;
    setResult(undefined);
    setOvertaken(false);
    setProgress(0);
    const started = performance.now();
    const { proxy } = await import('comlink');
    const found = await worker.improve(
      plan,
      freedom,
      factors,
      proxy((share: number) => {
        setProgress(share);
        setLeft(share > 0.02 ? ((performance.now() - started) / 1000) * (1 / share - 1) : null);
      }),
    );
    setProgress(undefined);
    setLeft(null);
    // What was changed by hand meanwhile is worth more than what was found for the plan before.
    if (latest.current !== plan) return setOvertaken(true);
    setResult(found);
    if (found.moves.length) onChange(found.plan, 'improve');
  };
  return (
    <section aria-label="What saves most">
      <h2>Improve this</h2>
      <p className="quiet">Searches for better places, aims, powers and settings inside the room.</p>
      <FormControl sx={{ pt: 0.5 }}>
        <FormLabel className="quiet">May move</FormLabel>
        <FormGroup row sx={{ gap: '2px 12px' }}>
          {(Object.keys(wholeFreedom) as (keyof Freedom)[]).map((name) => (
            <FormControlLabel
              key={name}
              control={<Checkbox />}
              label={name}
              checked={freedom[name]}
              onChange={(_, on) => setFreedom({ ...freedom, [name]: on })}
            />
          ))}
        </FormGroup>
      </FormControl>
      <Box sx={{ py: 0.75 }}>
        <Button variant="contained" color="primary" disabled={progress !== undefined} onClick={() => void search()}>
          Improve this
        </Button>
      </Box>
      {progress !== undefined && (
        <div role="status">
          <StepWedge share={progress} label="Search for a better layout" />
          <span className="quiet">Trying places, powers and settings, {timeLeft(left)}</span>
        </div>
      )}
      {overtaken && (
        <Problem role="status" lead="The plan was changed while the search ran.">
          Your change stays; start the search again.
        </Problem>
      )}
      {result && (
        <Box role="status" sx={{ '& ol': { pl: 2.25 } }}>
          <p>
            <strong className="figure">
              {result.before.toFixed(0)} → {result.after.toFixed(0)} min
            </strong>{' '}
            {result.moves.length
              ? 'by these moves; take it back with Ctrl+Z.'
              : 'Nothing better was found within these limits.'}
          </p>
          <ol>
            {result.moves.map(({ words, minutes }) => (
              <li key={words}>
                {words}{' '}
                <span className="figure quiet">
                  {minutes >= 0 ? `saves ${minutes.toFixed(1)} min` : `costs ${(-minutes).toFixed(1)} min by itself`}
                </span>
              </li>
            ))}
          </ol>
        </Box>
      )}
      <Box component="h2" sx={{ pt: 1.5 }}>
        Single changes that save most
      </Box>
      {behind && <p className="quiet">Trying every change …</p>}
      <Savings savings={savings} behind={behind} onChange={onChange} />
      <Schools plan={plan} onChange={onChange} />
    </section>
  );
}

function Savings({
  savings,
  behind,
  onChange,
}: {
  savings: Saving[] | undefined;
  behind: boolean;
  onChange: (plan: Plan, label: string) => void;
}) {
  if (!savings) return null;
  if (!savings.length) return <p className="quiet">No single change saves half a minute or more.</p>;
  return (
    <Changes>
      {savings.slice(0, 12).map(({ words, minutes, plan }) => (
        <li key={words}>
          <span>{words}</span>
          <span className="figure">{minutes.toFixed(1)} min</span>
          <Button
            variant="text"
            disabled={behind}
            aria-label={`Do it: ${words}`}
            onClick={() => onChange(plan, words.toLowerCase())}
          >
            Do it
          </Button>
        </li>
      ))}
    </Changes>
  );
}

function Schools({ plan, onChange }: { plan: Plan; onChange: (plan: Plan, label: string) => void }) {
  const worker = usePlanWorker();
  const factors = useOwnFactors();
  const { value: schools, behind } = useComputed(
    worker,
    plan,
    (remote, current) => remote.schools(current, factors),
    JSON.stringify(factors),
  );
  return (
    <>
      <Box component="h2" sx={{ pt: 1.5 }}>
        Where practitioners differ
      </Box>
      {schools?.map(({ question, answers }) => (
        <div key={question}>
          <span className="quiet">{question}</span>
          <Changes>
            {answers.map(({ words, minutes, plan: changed }) => (
              <li key={words}>
                <span>{words}</span>
                <span className="figure">{minutes.toFixed(0)} min</span>
                <Button
                  variant="text"
                  disabled={behind}
                  aria-label={`Take it: ${words}`}
                  onClick={() => onChange(changed, question.toLowerCase())}
                >
                  Take it
                </Button>
              </li>
            ))}
          </Changes>
        </div>
      ))}
    </>
  );
}
