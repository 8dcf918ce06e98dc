import { Button } from '@mui/material';
import { useEffect, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useSearchParams } from 'react-router';
import type { Check, Findings, PictureKind, Problem, Setup } from '../../../contract/index.ts';
import { demoPeople, type SubjectName } from '../../../core/studio/index.ts';
import { StopsMap } from '../../shared/StopsMap.tsx';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { api, pictures, RequestError } from '../../state/api.ts';
import { attempt, useStore } from '../../state/store.ts';
import { CheckFindings } from './CheckFindings.tsx';
import { EvidencePicture, type Shown } from './EvidencePicture.tsx';
import { kinds, titleOf } from './kinds.ts';
import { PictureSlots } from './PictureSlots.tsx';

type View = PictureKind | 'lawn' | 'plan' | 'last';
const maps: { view: View; title: string }[] = [
  { view: 'lawn', title: 'Lawn map' },
  { view: 'plan', title: 'Against the plan' },
  { view: 'last', title: 'Against the last round' },
];

/** Test frames of a setup: photograph, read, change, photograph again, sign off. */
export function CheckPage() {
  const shoot = useStore((state) => state.shoot);
  const setups = useStore((state) => state.setups);
  const checks = useStore((state) => state.checks);
  const [search, setSearch] = useSearchParams();
  const setup = setups.find((s) => s.id === Number(search.get('setup'))) ?? setups[0];
  const rounds = checks.filter((check) => check.setupId === setup?.id);
  const check = rounds.find((c) => c.id === Number(search.get('round'))) ?? rounds.at(-1);
  if (!shoot || !setup) return null;
  const choose = (setupId: number, roundId?: number): void =>
    setSearch({ setup: String(setupId), ...(roundId ? { round: String(roundId) } : {}) }, { replace: true });
  return <Round key={setup.id} setup={setup} setups={setups} rounds={rounds} check={check} onChoose={choose} />;
}

function Round({
  setup,
  setups,
  rounds,
  check,
  onChoose,
}: {
  setup: Setup;
  setups: Setup[];
  rounds: Check[];
  check: Check | undefined;
  onChoose: (setupId: number, roundId?: number) => void;
}) {
  const plans = useStore((state) => state.plans);
  const plan = plans.find((row) => row.setupId === setup.id) ?? plans[0];
  const [view, setView] = useState<View>();
  const [cause, setCause] = useState<string>();
  const [busy, setBusy] = useState<{ kind?: PictureKind; words: string; share?: number }>();
  const [refused, setRefused] = useState<(Problem & { name: string })[]>([]);
  const [who, setWho] = useState<SubjectName>('maren');
  const [marking, setMarking] = useState(false);
  const previous = check && rounds[rounds.indexOf(check) - 1]?.findings;
  const findings = check?.findings ?? undefined;
  const shown = view ?? defaultView(check, findings, cause);

  // A reading that a restart cut short is made good.
  const stale = check !== undefined && check.findings === null && check.pictures.length > 0 && !busy;
  useEffect(() => {
    if (!stale) return;
    const timer = setTimeout(() => void attempt(api.readCheck(check.id)), 1500);
    return () => clearTimeout(timer);
  }, [stale, check?.id]);

  const chooseRound = (id: number): void => {
    setView(undefined);
    setCause(undefined);
    onChoose(setup.id, id);
  };
  const begin = async (): Promise<Check | undefined> => {
    const made = await attempt(api.createCheck(setup.id));
    if (made) chooseRound(made.id);
    return made;
  };
  const receive = async (files: File[], kind?: PictureKind): Promise<void> => {
    setRefused([]);
    const round = check ?? (await begin());
    if (!round) return;
    for (const file of files) {
      setBusy({ kind, words: `${file.name} is being read`, share: 0 });
      const result = await api
        .uploadTestPicture(round.id, kind, file, (share) =>
          setBusy({ kind, words: `${file.name} is being read`, share }),
        )
        .catch((error) => ({ outcome: 'refused' as const, name: file.name, ...(error as RequestError).problem }));
      if (result.outcome === 'refused') setRefused((list) => [...list, result]);
      else setView(result.kind);
    }
    setBusy(undefined);
  };
  const take = async (kind: PictureKind): Promise<void> => {
    if (!check || !plan || kind === 'background') return;
    setBusy({ kind, words: `The stand-in camera takes: ${titleOf(kind).toLowerCase()}` });
    const taken = await attempt(
      api.takeTestFrame(check.id, {
        planId: plan.id,
        kind,
        people: kind === 'people' ? [who] : [],
        seed: check.id * 10 + check.pictures.length,
      }),
    );
    setBusy(undefined);
    if (taken) setView(kind);
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => void receive(files),
    noClick: true,
    noKeyboard: true,
  });
  const available = check
    ? [
        ...kinds
          .filter(({ kind }) => check.pictures.some((p) => p.kind === kind))
          .map(({ kind, title }) => ({ view: kind as View, title })),
        ...maps.filter(({ view: v }) => mapOf(v, findings, previous ?? undefined)),
      ]
    : [];
  useKeys(
    available.map((one) => one.view),
    setView,
  );
  const markable =
    check && (shown === 'ball' || shown === 'background' || shown === 'grey card' || shown === 'colour chart')
      ? shown
      : undefined;

  return (
    <div className={`check-sheet${isDragActive ? ' over' : ''}`} {...getRootProps()}>
      <aside className="margin left" aria-label="Setup and rounds">
        <label className="stacked">
          <span className="quiet">Setup</span>
          <select value={setup.id} onChange={(event) => onChoose(Number(event.target.value))}>
            {setups.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        <div className="actions rounds-head">
          <strong>Rounds</strong>
          <Button variant="text" onClick={() => void begin()}>
            New round
          </Button>
        </div>
        <ol className="rounds">
          {rounds.map((one, n) => (
            <li key={one.id}>
              <button type="button" aria-current={one.id === check?.id} onClick={() => chooseRound(one.id)}>
                <span className="figure">
                  {n + 1}, {new Date(one.createdAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}
                </span>
                <span>
                  {one.signedAt
                    ? 'signed off'
                    : !one.findings
                      ? 'not read'
                      : one.findings.ready
                        ? 'ready'
                        : `${one.findings.causes.length} to change`}
                </span>
                <span className="figure">
                  {one.findings?.forecast ? `${one.findings.forecast.minutes.toFixed(0)} min` : ''}
                </span>
              </button>
            </li>
          ))}
        </ol>
        {check && plan && (
          <label className="stacked">
            <span className="quiet">Stand-in camera, by “{plan.plan.name}”</span>
            <select
              aria-label="Who stands there"
              value={who}
              onChange={(event) => setWho(event.target.value as SubjectName)}
            >
              {Object.entries(demoPeople).map(([name, subject]) => (
                <option key={name} value={name}>
                  {subject.name}
                </option>
              ))}
            </select>
          </label>
        )}
        {check && (
          <PictureSlots
            check={check}
            shown={shown as PictureKind}
            busy={busy ? (busy.kind ?? 'people') : undefined}
            canTake={plan !== undefined}
            onShow={setView}
            onFile={(file, kind) => void receive([file], kind)}
            onTake={(kind) => void take(kind)}
            onRemove={(kind) => void attempt(api.removeTestPicture(check.id, kind))}
          />
        )}
      </aside>
      <section className="plate" aria-label="Photograph and findings on it">
        <div className="views" role="group" aria-label="View">
          {available.map(({ view: v, title }, n) => (
            <button key={v} type="button" aria-pressed={shown === v} onClick={() => setView(v)}>
              <kbd>{n + 1}</kbd>
              {title}
            </button>
          ))}
          {markable && (
            <span className="right">
              <Button variant="text" onClick={() => setMarking(!marking)}>
                {marking
                  ? 'Leave it'
                  : markable === 'ball' || markable === 'background'
                    ? 'Circle the ball'
                    : 'Mark it'}
              </Button>
            </span>
          )}
        </div>
        <div className="check-stage">
          <input {...getInputProps({ 'aria-label': 'Test frames', className: 'visually-hidden' } as object)} />
          {busy && (
            <div className="note-over" role="status">
              {busy.words} …
              {busy.share !== undefined && busy.share < 1 && <StepWedge share={busy.share} label="Upload" />}
            </div>
          )}
          {refused.map((problem) => (
            <p className="problem" role="alert" key={problem.name}>
              <strong>
                {problem.name}: {problem.reason}.
              </strong>{' '}
              {problem.remedy}
            </p>
          ))}
          {!check?.pictures.length ? (
            <div className="empty check-empty">
              <strong>{check ? 'This round has no photographs yet.' : 'This setup has not been tested yet.'}</strong>
              Drop an empty frame of the lit screen and a test frame here; ball, grey card and colour chart as well, if
              you have them. What a picture shows is recognised.
              <div className="actions" style={{ paddingTop: 8 }}>
                <Button variant="contained" color="primary" onClick={open}>
                  Choose photographs
                </Button>
                {!check && <Button onClick={() => void begin()}>Begin a round</Button>}
              </div>
            </div>
          ) : (
            <Stage
              check={check}
              shown={shown}
              findings={findings}
              previous={previous ?? undefined}
              cause={cause}
              marking={marking}
              onMarked={() => setMarking(false)}
            />
          )}
        </div>
        <div className="caption">{check && <Caption shown={shown} findings={findings} />}</div>
      </section>
      <aside className="margin right">
        {check ? (
          <CheckFindings check={check} previous={previous ?? undefined} chosen={cause} onChoose={setCause} />
        ) : (
          <p className="quiet">Readings appear here.</p>
        )}
      </aside>
    </div>
  );
}

/** The photograph on which the foremost cause shows. */
function defaultView(
  check: Check | undefined,
  findings: Findings | undefined,
  cause: string | undefined,
): View | undefined {
  const there = (kind: PictureKind): boolean => check?.pictures.some((p) => p.kind === kind) ?? false;
  const first = findings?.causes.find((c) => c.id === cause) ?? findings?.causes[0];
  if (first && ['tooClose', 'keyShadow', 'clothing', 'defocus', 'motion'].includes(first.id) && there('people'))
    return 'people';
  if (first?.id === 'whiteBalance' && there('grey card')) return 'grey card';
  if (there('plate')) return 'plate';
  return check?.pictures[0]?.kind;
}

interface Map {
  columns: number;
  rows: number;
  stops: (number | null)[];
}

function mapOf(
  view: View | undefined,
  findings: Findings | undefined,
  previous: Findings | undefined,
): Map | undefined {
  if (view === 'lawn') return findings?.lawn;
  if (view === 'plan') return findings?.difference;
  const before = previous?.lawn;
  const now = findings?.lawn;
  if (view !== 'last' || !before || !now || before.columns !== now.columns || before.rows !== now.rows)
    return undefined;
  return {
    ...now,
    stops: now.stops.map((v, p) => (v === null || before.stops[p] === null ? null : v - (before.stops[p] as number))),
  };
}

function Stage({
  check,
  shown,
  findings,
  previous,
  cause,
  marking,
  onMarked,
}: {
  check: Check;
  shown: View | undefined;
  findings: Findings | undefined;
  previous: Findings | undefined;
  cause: string | undefined;
  marking: boolean;
  onMarked: () => void;
}) {
  const map = mapOf(shown, findings, previous);
  const picture = check.pictures.find((p) => p.kind === shown);
  if (map) {
    const lead = check.pictures.find((p) => p.kind === 'plate') ?? check.pictures[0];
    return (
      <StopsMap
        {...map}
        places={extremes(map)}
        aspect={lead.width / lead.height}
        label={shown === 'lawn' ? 'Lawn map, stops around the mean' : 'Difference of lawn maps, stops'}
      />
    );
  }
  if (!picture) return null;
  const { kind } = picture;
  const circle =
    kind === 'ball'
      ? (check.marks.ball ?? findings?.ball?.circle)
      : kind === 'background'
        ? check.marks.background
        : undefined;
  const round = kind === 'ball' || kind === 'background';
  return (
    <EvidencePicture
      src={pictures.testPicture(check.id, kind, picture.version, 'view')}
      label={titleOf(kind)}
      aspect={picture.width / picture.height}
      evidence={evidenceOn(kind, findings, cause)}
      outline={kind === 'plate' && findings?.outline && findings.outline.share < 0.995 ? findings.outline.polygon : []}
      circle={circle}
      onMark={
        marking
          ? {
              shape: round ? 'circle' : 'box',
              done: (place) => {
                onMarked();
                const aspect = picture.height / picture.width;
                const key =
                  kind === 'grey card'
                    ? 'card'
                    : kind === 'colour chart'
                      ? 'chart'
                      : kind === 'background'
                        ? 'background'
                        : 'ball';
                const mark = round
                  ? { x: place.x + place.width / 2, y: (place.y + place.height / 2) * aspect, radius: place.width / 2 }
                  : place;
                void attempt(api.markCheck(check.id, { ...check.marks, [key]: mark }));
              },
            }
          : undefined
      }
    />
  );
}

/** Readings that speak of the photograph of each kind. */
const speaksOf: Partial<Record<PictureKind, string[]>> = {
  plate: ['coverage', 'spread', 'tilt', 'bulge', 'sides', 'mismatch', 'wrinkle', 'level', 'clipped', 'purity', 'noise'],
  people: ['shadow', 'bounce', 'nearColour', 'edge', 'smear'],
  'grey card': ['exposure', 'whiteBalance', 'cardScreen'],
};

/** What is shown on a photograph: the chosen cause's evidence; without a choice, of all readings out of bounds. */
function evidenceOn(kind: PictureKind, findings: Findings | undefined, cause: string | undefined): Shown[] {
  if (!findings) return [];
  const of = findings.readings.filter(({ id }) => speaksOf[kind]?.includes(id));
  const chosen = findings.causes.find((c) => c.id === cause) ?? findings.causes[0];
  const shown =
    chosen?.evidence.length &&
    of.some(({ evidence }) => evidence.some((e) => chosen.evidence.some((c) => c.words === e.words)))
      ? chosen.evidence
      : of.filter(({ verdict }) => verdict === 'beyond').flatMap(({ evidence }) => evidence);
  const calm = shown.length
    ? shown
    : kind === 'plate'
      ? (of.find(({ id }) => id === 'spread')?.evidence ?? [])
      : kind === 'grey card'
        ? (of[0]?.evidence ?? [])
        : [];
  return [...calm, ...(kind === 'plate' ? findings.inView : [])].slice(0, 8);
}

function extremes({ columns, rows, stops }: Map): { x: number; y: number; stops: number }[] {
  let hot = -1;
  let dark = -1;
  stops.forEach((v, p) => {
    if (v === null) return;
    if (hot < 0 || v > (stops[hot] as number)) hot = p;
    if (dark < 0 || v < (stops[dark] as number)) dark = p;
  });
  return [hot, dark]
    .filter((p) => p >= 0)
    .map((p) => ({
      x: ((p % columns) + 0.5) / columns,
      y: (Math.floor(p / columns) + 0.5) / rows,
      stops: stops[p] as number,
    }));
}

function Caption({ shown, findings }: { shown: View | undefined; findings: Findings | undefined }) {
  if (!findings) return null;
  if (shown === 'lawn' && findings.spread)
    return (
      <span className="figure">
        {findings.spread.spread.toFixed(2)} stops from darkest to brightest, nine tenths within{' '}
        {findings.spread.spread90.toFixed(2)}; one grey step is a sixth of a stop
      </span>
    );
  if (shown === 'plan' && findings.difference)
    return (
      <span>
        Measured less planned, <span className="figure">{findings.difference.most.toFixed(2)}</span> stops at most.{' '}
        {findings.difference.lamps.map(({ name, share }) => `${name} gives ${Math.round(share * 100)} %`).join(', ')}{' '}
        beside the strongest.
      </span>
    );
  if (shown === 'last') return <span>Brighter: more light than in the last round, beside the mean.</span>;
  if (shown === 'ball' && findings.ball) {
    const { azimuth, elevation, softness, keyOverFill, temperature, tint } = findings.ball;
    return (
      <span>
        Main light <span className="figure">{Math.abs(azimuth).toFixed(0)}°</span> {azimuth < 0 ? 'left' : 'right'},{' '}
        <span className="figure">{elevation.toFixed(0)}°</span> up,{' '}
        {softness < 0.1 ? 'hard' : softness < 0.3 ? 'medium soft' : 'soft'}; key over fill{' '}
        <span className="figure">{keyOverFill.toFixed(1)}</span> stops; <span className="figure">{temperature}</span> K,
        tint <span className="figure">{tint}</span> if white is daylight
      </span>
    );
  }
  if (shown === 'background' && !findings.background)
    return <span>Circle the ball by hand: choose “Circle the ball”, then drag from one side of it to the other.</span>;
  if (findings.jpeg && (shown === 'plate' || shown === 'people'))
    return (
      <span className="quiet">
        JPEG of quality about {findings.jpeg.quality}
        {findings.jpeg.halvedChroma ? ', colour at half resolution' : ''}
      </span>
    );
  return null;
}

/** Digits choose a view unless a field has the focus. */
function useKeys(views: View[], onView: (view: View) => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (
        event.target instanceof HTMLInputElement ||
        event.target instanceof HTMLSelectElement ||
        event.altKey ||
        event.ctrlKey ||
        event.metaKey
      )
        return;
      const view = views[Number(event.key) - 1];
      if (view) onView(view);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
}
