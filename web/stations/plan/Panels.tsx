import { Button } from '@mui/material';
import { lazy, Suspense, useRef, useState } from 'react';
import {
  clock,
  wholeFreedom,
  type Freedom,
  type Improvement,
  type Plan,
  type Report,
  type Saving,
} from '../../../core/plan/index.ts';
import { timeLeft } from '../../shared/format.ts';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { pictures } from '../../state/api.ts';
import type { Numbers } from './plan.worker.ts';
import { useComputed, usePlanWorker } from './usePlanWorker.ts';

const Chart = lazy(() => import('./Chart.tsx'));

/** What saves most, the search for a better layout, and the schools with their price. */
export function SavePanel({ plan, onChange }: { plan: Plan; onChange: (plan: Plan, label: string) => void }) {
  const worker = usePlanWorker();
  const { value: savings, behind } = useComputed(worker, plan, (remote, current) => remote.savings(current));
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
      <fieldset className="freedom">
        <legend>May move</legend>
        {(Object.keys(wholeFreedom) as (keyof Freedom)[]).map((name) => (
          <label key={name}>
            <input
              type="checkbox"
              checked={freedom[name]}
              onChange={(event) => setFreedom({ ...freedom, [name]: event.target.checked })}
            />{' '}
            {name}
          </label>
        ))}
      </fieldset>
      <div className="actions" style={{ padding: '6px 0' }}>
        <Button
          variant="contained"
          color="primary"
          disableElevation
          disabled={progress !== undefined}
          onClick={() => void search()}
        >
          Improve this
        </Button>
      </div>
      {progress !== undefined && (
        <div role="status">
          <StepWedge share={progress} label="Search for a better layout" />
          <span className="quiet">Trying places, powers and settings, {timeLeft(left)}</span>
        </div>
      )}
      {overtaken && (
        <p className="problem" role="status">
          <strong>The plan was changed while the search ran.</strong> Your change stays; start the search again.
        </p>
      )}
      {result && (
        <div role="status" className="improved">
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
                  {minutes >= 0 ? `saves ${minutes.toFixed(1)}` : `costs ${(-minutes).toFixed(1)} by itself`} min
                </span>
              </li>
            ))}
          </ol>
        </div>
      )}
      <h2 style={{ paddingTop: 12 }}>Single changes that save most</h2>
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
    <ul className="savings">
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
    </ul>
  );
}

function Schools({ plan, onChange }: { plan: Plan; onChange: (plan: Plan, label: string) => void }) {
  const worker = usePlanWorker();
  const { value: schools, behind } = useComputed(worker, plan, (remote, current) => remote.schools(current));
  return (
    <>
      <h2 style={{ paddingTop: 12 }}>Where practitioners differ</h2>
      {schools?.map(({ question, answers }) => (
        <div key={question} className="school">
          <span className="quiet">{question}</span>
          <ul className="savings">
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
          </ul>
        </div>
      ))}
    </>
  );
}

/** The forecast broken down by cause, with its spread. */
export function ForecastPanel({ report }: { report: Report }) {
  const { forecast } = report;
  return (
    <section aria-label="Forecast">
      <p>
        <strong className="figure">{forecast.minutes.toFixed(0)} min</strong> of hand repair for{' '}
        <span className="figure">{forecast.frames}</span> frames; four times in five between{' '}
        <span className="figure">{forecast.low.toFixed(0)}</span> and{' '}
        <span className="figure">{forecast.high.toFixed(0)}</span>.
      </p>
      <Suspense fallback={<p className="quiet">Drawing …</p>}>
        <Chart
          kind="causes"
          names={forecast.causes.slice(0, 10).map((cause) => cause.title)}
          values={forecast.causes.slice(0, 10).map((cause) => cause.minutes)}
        />
      </Suspense>
      <details>
        <summary>Why this number?</summary>
        <p className="quiet">
          Each cause begins to cost at one reading and is full at another; between them it grows with the square. Causes
          add up, frames multiply. Each coefficient is taken as uncertain by two fifths, each frame scatters around its
          mean. The coefficients are first estimates until your own log corrects them.
        </p>
      </details>
      <h2 style={{ paddingTop: 10 }}>Light in numbers</h2>
      <table className="table small">
        <tbody>
          {report.person && (
            <>
              <Row name="Key at the face" value={`${report.person.keyLux.toFixed(0)} lx`} />
              <Row name="Screen, mean" value={`${report.evenness?.mean.toFixed(0) ?? '–'} lx`} />
              <Row name="Key over fill" value={`${report.person.keyOverFill.toFixed(1)} stops`} />
            </>
          )}
          {report.bounce && (
            <Row
              name="Screen light on left, right, back"
              value={`−${report.bounce.left.toFixed(1)}, −${report.bounce.right.toFixed(1)}, −${report.bounce.back.toFixed(1)} stops`}
            />
          )}
          <Row
            name="Screen out of focus by"
            value={`${report.focus.screenBlur.toFixed(0)} px; ${(report.focus.creaseContrast * 100).toFixed(0)} % of the creases stay`}
          />
          {report.focus.schools.map((school) => (
            <Row
              key={school.aperture}
              name={`at f/${school.aperture}`}
              value={`screen ${school.screenBlur.toFixed(0)} px, ear ${school.ear.toFixed(1)} px, creases ${(school.creaseContrast * 100).toFixed(0)} %`}
            />
          ))}
          <Row
            name="Standing, gesturing, jumping"
            value={`${report.motion.standing.toFixed(1)}, ${report.motion.gesturing.toFixed(0)}, ${report.motion.jumping.toFixed(0)} px`}
          />
          {report.losses.map((loss) => (
            <Row
              key={loss.lamp}
              name={`${loss.lamp}: lost in modifier, gel, diffusion, dimmer`}
              value={`${loss.modifier.toFixed(1)}, ${loss.gel.toFixed(1)}, ${loss.diffusion.toFixed(1)}, ${loss.dimmer.toFixed(1)} stops; ${loss.temperature.toFixed(0)} K`}
            />
          ))}
          {report.shadows.map((shadow) => (
            <Row
              key={shadow.source}
              name={`Shadow by ${report.losses[shadow.source]?.lamp ?? ''}`}
              value={`${shadow.depth.toFixed(2)} stops, edge ${shadow.softEdge.toFixed(2)} m, ${(shadow.share * 100).toFixed(0)} % of the screen`}
            />
          ))}
          {report.wind && (
            <Row
              name="Wind: force, ballast, down at"
              value={`${report.wind.force.toFixed(0)} N, ${report.wind.ballastNeeded.toFixed(0)} kg, ${report.wind.takeDown.toFixed(1)} m/s`}
            />
          )}
        </tbody>
      </table>
      <Wardrobe report={report} />
    </section>
  );
}

function Wardrobe({ report: { wardrobe } }: { report: Report }) {
  return (
    <>
      <h2 style={{ paddingTop: 10 }}>Clothes against the screen</h2>
      <p>
        {wardrobe.better === 'green' ? 'A green' : 'A blue'} screen suits this roster better,{' '}
        <span className="figure">{Math.round(wardrobe.sure * 100)} %</span> sure:{' '}
        <span className="figure">{Math.round(wardrobe.green.share * 100)} %</span> of guests at risk before green,{' '}
        <span className="figure">{Math.round(wardrobe.blue.share * 100)} %</span> before blue.
      </p>
      <ul className="savings">
        {wardrobe.green.worn.slice(0, 6).map(({ guest, colour, risk }, n) => (
          <li key={n}>
            <span>
              <i className="swatch" style={{ background: `#${colour}` }} /> {guest}
            </span>
            <span className="figure">{Math.round(risk * 100)} %</span>
            <span className="quiet">green</span>
          </li>
        ))}
      </ul>
    </>
  );
}

function Row({ name, value }: { name: string; value: string }) {
  return (
    <tr>
      <td>{name}</td>
      <td className="number">{value}</td>
    </tr>
  );
}

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
        <p className="problem" key={words}>
          <strong>{words}</strong> {remedy}
        </p>
      ))}
      <ol className="timeline">
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
      </ol>
      <div className="actions" style={{ padding: '8px 0' }}>
        <Button href={pictures.planFile(planId, 'slots.csv')} download>
          Slot list, CSV
        </Button>
        <Button href={pictures.planFile(planId, 'slots.ics')} download>
          Calendar
        </Button>
      </div>
      <p className="quiet">
        <span className="figure">{schedule.slots.length}</span> slots
        {schedule.slots.length > 0 &&
          `, the first at ${clock(schedule.slots[0].minute)}, the last at ${clock(schedule.slots[schedule.slots.length - 1].minute)}`}
        .
      </p>
      {sun ? (
        <>
          <h2 style={{ paddingTop: 8 }}>Sun</h2>
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
          <ul className="savings">
            {sun.testAgain.map(({ minute, words }) => (
              <li key={minute}>
                <span className="figure">{clock(minute)}</span>
                <span>{words}</span>
              </li>
            ))}
          </ul>
        </>
      ) : (
        <p className="quiet">No window and indoors: the sun does not matter here.</p>
      )}
    </section>
  );
}

/** What to bring, what it costs and weighs. */
export function KitPanel({ report: { kit, circuits } }: { report: Report }) {
  return (
    <section aria-label="Kit">
      <p>
        Cost <strong className="figure">{kit.cost.toFixed(0)}</strong> for this shoot,{' '}
        <span className="figure">{kit.mass.toFixed(0)} kg</span> to carry, set up in{' '}
        <span className="figure">{kit.setUpMinutes.toFixed(0)} min</span>, packed in{' '}
        <span className="figure">{kit.packDownMinutes.toFixed(0)} min</span>.
      </p>
      <table className="table small">
        <thead>
          <tr>
            <th>item</th>
            <th>supply</th>
            <th className="number">kg</th>
            <th className="number">cost</th>
          </tr>
        </thead>
        <tbody>
          {kit.items.map((item, n) => (
            <tr key={n}>
              <td>{item.count > 1 ? `${item.count} × ${item.name}` : item.name}</td>
              <td>{item.supply}</td>
              <td className="number">{item.mass.toFixed(1)}</td>
              <td className="number">{item.cost.toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2 style={{ paddingTop: 10 }}>Circuits</h2>
      {circuits.map((circuit) => (
        <p key={circuit.name}>
          {circuit.name}: <span className="figure">{circuit.watts.toFixed(0)}</span> of{' '}
          <span className="figure">{circuit.rating.toFixed(0)} W</span>
          {circuit.load > 0.8 && <strong> – more than four fifths</strong>}
        </p>
      ))}
    </section>
  );
}
