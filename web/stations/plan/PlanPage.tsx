import { Button } from '@mui/material';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { planSchema, type LibraryItem, type PlanRow } from '../../../contract/index.ts';
import { startingPlan, type Plan } from '../../../core/plan/index.ts';
import { demoPeople, type SubjectName } from '../../../core/studio/index.ts';
import { timeLeft } from '../../shared/format.ts';
import { api, pictures } from '../../state/api.ts';
import { attempt, changePlan, useStore } from '../../state/store.ts';
import { CameraPicture, type PreviewShot } from './CameraPicture.tsx';
import { Findings } from './Findings.tsx';
import { LawnMapView } from './LawnMapView.tsx';
import { LibraryDialog } from './LibraryDialog.tsx';
import { DayPanel, ForecastPanel, KitPanel, SavePanel } from './Panels.tsx';
import { SetDrawing } from './SetDrawing.tsx';
import { ThingForm } from './ThingForm.tsx';
import type { ThingId } from './things.ts';
import { useComputed, usePlanWorker } from './usePlanWorker.ts';
import { useUnits } from './useUnits.ts';

const panels = { findings: 'Findings', save: 'What saves', forecast: 'Forecast', day: 'Day', kit: 'Kit' } as const;
type PanelId = keyof typeof panels;

/** Planning a set: drawn to scale, computed as it changes. */
export function PlanPage() {
  const shoot = useStore((state) => state.shoot);
  const plans = useStore((state) => state.plans);
  const [search, setSearch] = useSearchParams();
  const row = plans.find((p) => p.id === Number(search.get('plan'))) ?? plans[0];
  if (!shoot) return null;
  const choose = (id: number): void => setSearch({ plan: String(id) }, { replace: true });
  return (
    <div className="plan-page">
      <PlanBar shootId={shoot.id} date={shoot.date} rows={plans} row={row} onChoose={choose} />
      {row ? (
        <PlanSheet key={row.id} row={row} />
      ) : (
        <p className="empty">
          <strong>No set is planned yet.</strong>A new plan begins with the rules of thumb: two lamps on the screen, the
          person two metres before it. Then drag things to where your room has them.
        </p>
      )}
    </div>
  );
}

function PlanBar({
  shootId,
  date,
  rows,
  row,
  onChoose,
}: {
  shootId: number;
  date: string;
  rows: PlanRow[];
  row: PlanRow | undefined;
  onChoose: (id: number) => void;
}) {
  const file = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const setups = useStore((state) => state.setups);
  const { units, setUnits } = useUnits();
  const [refused, setRefused] = useState<string>();
  const create = async (plan: Plan): Promise<void> => {
    const made = await attempt(api.createPlan(shootId, plan));
    if (made) onChoose(made.id);
  };
  const read = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    setRefused(undefined);
    let content: unknown;
    try {
      content = JSON.parse(await chosen.text());
    } catch {
      return setRefused(`${chosen.name} is not JSON. Choose a plan that was exported here.`);
    }
    const result = planSchema.safeParse(content);
    if (result.success) return create(result.data);
    const [issue] = result.error.issues;
    setRefused(
      `${chosen.name}: ${issue.path.join('.') || 'the plan'}: ${issue.message}. Correct it and import it again.`,
    );
  };
  return (
    <>
      <div className="views plan-bar">
        {rows.map((r) => (
          <button key={r.id} type="button" aria-pressed={r.id === row?.id} onClick={() => onChoose(r.id)}>
            {r.plan.name}
          </button>
        ))}
        <Button variant="text" onClick={() => void create(startingPlan('New plan', date))}>
          New plan
        </Button>
        <span className="right">
          {row && (
            <>
              <label className="quiet">
                Built as{' '}
                <select
                  value={row.setupId ?? ''}
                  onChange={(event) =>
                    void attempt(api.changePlan(row.id, { setupId: Number(event.target.value) || null }))
                  }
                >
                  <option value="">no setup yet</option>
                  {setups.map((setup) => (
                    <option key={setup.id} value={setup.id}>
                      {setup.name}
                    </option>
                  ))}
                </select>
              </label>
              <Button
                variant="text"
                onClick={() => void create({ ...row.plan, name: `${row.plan.name.slice(0, 110)}, copy` })}
              >
                Copy
              </Button>
              {rows.length > 1 && (
                <Button
                  variant="text"
                  component={Link}
                  to={`compare?a=${row.id}&b=${rows.find((r) => r.id !== row.id)?.id}`}
                >
                  Compare
                </Button>
              )}
              <Button variant="text" component={Link} to={`${row.id}/sheet`}>
                Set sheet
              </Button>
              <Button variant="text" href={pictures.planFile(row.id, 'plan.json')} download>
                Export
              </Button>
            </>
          )}
          <Button variant="text" onClick={() => file.current?.click()}>
            Import
          </Button>
          <input
            ref={file}
            type="file"
            accept="application/json,.json"
            aria-label="Plan file"
            hidden
            onChange={(event) => void read(event.target.files?.[0]).then(() => (event.target.value = ''))}
          />
          {row && (
            <Button
              variant="text"
              onClick={() => {
                if (window.confirm(`Remove the plan “${row.plan.name}”? Frames stay.`))
                  void attempt(api.removePlan(row.id)).then(() => navigate('.', { replace: true }));
              }}
            >
              Remove
            </Button>
          )}
          <label className="quiet">
            <select aria-label="Units" value={units} onChange={(event) => setUnits(event.target.value as typeof units)}>
              <option value="metric">metres</option>
              <option value="imperial">feet</option>
            </select>
          </label>
        </span>
      </div>
      {refused && (
        <p className="problem" role="alert">
          {refused}
        </p>
      )}
    </>
  );
}

function PlanSheet({ row }: { row: PlanRow }) {
  const { units } = useUnits();
  const [draft, setDraft] = useState<Plan>();
  const [chosen, setChosen] = useState<ThingId>('screen');
  const [panel, setPanel] = useState<PanelId>('findings');
  const [lamp, setLamp] = useState('');
  const [shot, setShot] = useState<PreviewShot>({ kind: 'people', people: ['maren'], seed: 1 });
  const [library, setLibrary] = useState<LibraryItem[]>([]);
  const [keeping, setKeeping] = useState(false);
  const worker = usePlanWorker();
  const plan = draft ?? row.plan;
  const { value: numbers, behind } = useComputed(worker, plan, (remote, current) => remote.numbers(current));
  const onChange = (next: Plan, label: string): void => {
    setDraft(undefined);
    changePlan(row.id, next, label);
  };
  const readLibrary = (): void => void attempt(api.library()).then((items) => items && setLibrary(items));
  useEffect(readLibrary, []);
  const sourceIndex = useMemo(() => plan.lamps.findIndex((l) => l.id === lamp), [plan.lamps, lamp]);
  return (
    <div className="plan-sheet">
      <aside className="margin left things-margin" aria-label="Things and their numbers">
        <div className="plan-name">
          <input
            className="name-field"
            aria-label="Name of the plan"
            key={row.plan.name}
            defaultValue={row.plan.name}
            maxLength={120}
            onBlur={(event) =>
              event.target.value.trim()
                ? event.target.value.trim() !== row.plan.name &&
                  onChange({ ...row.plan, name: event.target.value.trim() }, 'name')
                : (event.target.value = row.plan.name)
            }
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
        </div>
        <ThingForm
          plan={plan}
          units={units}
          chosen={chosen}
          library={library}
          onChoose={setChosen}
          onChange={onChange}
          onLibrary={() => setKeeping(true)}
        />
      </aside>
      <SetDrawing
        plan={plan}
        units={units}
        chosen={chosen}
        onChoose={setChosen}
        onDraft={setDraft}
        onChange={onChange}
      />
      <section className="seen" aria-label="What the camera sees">
        <CameraPicture plan={plan} shot={shot} coverage={numbers?.report.coverage} />
        <ShotForm row={row} shot={shot} onShot={setShot} />
        <div className="lawn-head">
          <strong>Lawn map</strong>
          <select aria-label="Light of" value={lamp} onChange={(event) => setLamp(event.target.value)}>
            <option value="">all lamps</option>
            <option value="shadows">all, with shadows</option>
            {plan.lamps.map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}
              </option>
            ))}
          </select>
        </div>
        {numbers && (
          <LawnMapView
            plan={plan}
            report={numbers.report}
            source={sourceIndex >= 0 && sourceIndex < numbers.report.map.bySource.length ? sourceIndex : undefined}
            shadows={lamp === 'shadows'}
          />
        )}
        <p className="quiet figure">
          {numbers?.report.evenness
            ? `${numbers.report.evenness.spread.toFixed(2)} stops, nine tenths ${numbers.report.evenness.spread90.toFixed(2)}`
            : ''}
        </p>
      </section>
      <aside className="margin right" aria-label="Findings of the plan">
        <div className="headline" data-ready={numbers !== undefined && !behind}>
          {numbers ? (
            <>
              <span className="figure big">{numbers.report.forecast.minutes.toFixed(0)}</span> min by hand
              <span className="quiet figure">
                {' '}
                {numbers.report.forecast.low.toFixed(0)}–{numbers.report.forecast.high.toFixed(0)}
              </span>
            </>
          ) : (
            'Computing …'
          )}
        </div>
        <div className="views panel-tabs" role="group" aria-label="Panels">
          {(Object.keys(panels) as PanelId[]).map((id) => (
            <button key={id} type="button" aria-pressed={panel === id} onClick={() => setPanel(id)}>
              {panels[id]}
            </button>
          ))}
        </div>
        {numbers && panel === 'findings' && <Findings plan={plan} report={numbers.report} />}
        {panel === 'save' && <SavePanel plan={row.plan} onChange={onChange} />}
        {numbers && panel === 'forecast' && <ForecastPanel report={numbers.report} />}
        {numbers && panel === 'day' && <DayPanel planId={row.id} numbers={numbers} />}
        {numbers && panel === 'kit' && <KitPanel report={numbers.report} />}
      </aside>
      <LibraryDialog
        open={keeping}
        plan={plan}
        chosen={chosen}
        library={library}
        onClose={() => setKeeping(false)}
        onChanged={readLibrary}
      />
    </div>
  );
}

/** What the stand-in camera takes, and taking it into a setup. */
function ShotForm({ row, shot, onShot }: { row: PlanRow; shot: PreviewShot; onShot: (shot: PreviewShot) => void }) {
  const setups = useStore((state) => state.setups);
  const [state, setState] = useState<'ready' | 'taking' | string>('ready');
  const [takeSeconds, setTakeSeconds] = useState<number>();
  const setupId = row.setupId ?? setups[0]?.id;
  const places = Math.min(
    3,
    row.plan.people.reduce((sum, person) => sum + person.count, 0),
  );
  const person = (n: number): SubjectName => shot.people[n] ?? (Object.keys(demoPeople)[n] as SubjectName);
  const take = async (): Promise<void> => {
    setState('taking');
    const started = performance.now();
    const frame = await attempt(
      api.takeFrame(row.id, {
        kind: shot.kind,
        people: shot.kind === 'people' ? Array.from({ length: places }, (_, n) => person(n)) : [],
        seed: shot.seed,
        setupId,
      }),
    );
    setState(frame ? `${frame.name} is at Gather` : 'ready');
    if (frame) setTakeSeconds((performance.now() - started) / 1000);
    if (frame) onShot({ ...shot, seed: shot.seed + 1 });
  };
  return (
    <div className="shot-form">
      <select
        aria-label="What is taken"
        value={shot.kind}
        onChange={(event) => onShot({ ...shot, kind: event.target.value as PreviewShot['kind'] })}
      >
        <option value="people">people</option>
        <option value="plate">plate</option>
        <option value="ball">matt ball</option>
        <option value="grey card">grey card</option>
        <option value="colour chart">colour chart</option>
      </select>
      {shot.kind === 'people' &&
        Array.from({ length: places }, (_, n) => (
          <select
            key={n}
            aria-label={`Who stands there${n ? `, ${n + 1}` : ''}`}
            value={person(n)}
            onChange={(event) =>
              onShot({
                ...shot,
                people: Array.from({ length: places }, (_, k) =>
                  k === n ? (event.target.value as SubjectName) : person(k),
                ),
              })
            }
          >
            {Object.entries(demoPeople).map(([name, subject]) => (
              <option key={name} value={name}>
                {subject.name}
              </option>
            ))}
          </select>
        ))}
      <Button disabled={state === 'taking' || !setupId} onClick={() => void take()}>
        Take this frame
      </Button>
      <span className="quiet" role="status">
        {state === 'taking' ? <TakingTime expected={takeSeconds} /> : state === 'ready' ? '' : state}
      </span>
    </div>
  );
}

/** Seconds gone, and those left as far as the last take tells. */
function TakingTime({ expected }: { expected?: number }) {
  const [gone, setGone] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setGone((seconds) => seconds + 1), 1000);
    return () => clearInterval(timer);
  }, []);
  return <>Taking it at full size, {expected && expected > gone ? timeLeft(expected - gone) : `${gone} s gone`}</>;
}
