import { Button } from '@mui/material';
import { useEffect, useState } from 'react';
import { LEVELS, type PictureKind, type Rehearsal, type RehearsalResult } from '../../../contract/index.ts';
import { readingFacts } from '../../../core/plan/index.ts';
import { rehearsedFacts, type RehearsedCause } from '../../../core/screen/index.ts';
import { remedies, type RemedyId } from '../../../core/studio/index.ts';
import { titleOf } from '../check/kinds.ts';
import { EvidencePicture } from '../check/EvidencePicture.tsx';
import { BoundReading } from '../../shared/BoundReading.tsx';
import { Head } from '../../shell/Head.tsx';
import { ProblemBar } from '../../shell/ProblemBar.tsx';
import { api, pictures } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';

const levelWords = [
  'one gross fault',
  'one plain fault, sometimes none',
  'one faint fault, sometimes none',
  'two faults, sometimes none',
  'two faint faults, sometimes none',
];

/** Right answers in a row after which the next level is offered. */
const ROW = 3;

/** Sets with hidden faults: read, name cause and remedy, be told the truth. */
export function RehearsalPage() {
  const [results, setResults] = useState<RehearsalResult[]>([]);
  const [level, setLevel] = useState(1);
  const [current, setCurrent] = useState<Rehearsal>();
  const [busy, setBusy] = useState(false);
  const reload = async (): Promise<void> => {
    const list = await attempt(api.rehearsals());
    if (list) setResults(list);
  };
  useEffect(() => {
    void attempt(api.rehearsals()).then((list) => {
      if (!list) return;
      setResults(list);
      setLevel(offeredLevel(list));
      // What was left unanswered goes on after a reload.
      const open = list.find(({ answered }) => !answered);
      if (open) void attempt(api.rehearsal(open.id)).then((one) => one && setCurrent(one));
    });
  }, []);
  const next = async (): Promise<void> => {
    setBusy(true);
    const made = await attempt(api.newRehearsal(level));
    setBusy(false);
    if (made) setCurrent(made);
  };
  return (
    <div className="page">
      <header className="head">
        <Head />
        <ProblemBar />
      </header>
      <main className="main">
        <div className="check-sheet rehearsal">
          <aside className="margin left" aria-label="Rehearsal">
            <h1 style={{ padding: '4px 16px' }}>Rehearsal</h1>
            <p className="quiet">
              The stand-in camera has photographed a set with hidden faults. Read it, name what is wrong and what you
              would do.
            </p>
            <fieldset className="choices levels">
              <legend>Level</legend>
              {Array.from({ length: LEVELS }, (_, n) => (
                <label key={n}>
                  <input type="radio" name="level" checked={level === n + 1} onChange={() => setLevel(n + 1)} />
                  <span>
                    <span className="figure">{n + 1}</span> {levelWords[n]}
                  </span>
                </label>
              ))}
            </fieldset>
            <div className="actions">
              <Button variant="contained" color="primary" disabled={busy} onClick={() => void next()}>
                {current && !current.truth ? 'Another set' : 'New set'}
              </Button>
              {busy && (
                <span role="status" className="quiet">
                  Setting it up, some ten seconds …
                </span>
              )}
            </div>
            <h2 style={{ padding: '12px 16px 2px' }}>Results</h2>
            <ol className="rounds" aria-label="Results">
              {results
                .filter(({ answered }) => answered)
                .map((result) => (
                  <li key={result.id}>
                    <button
                      type="button"
                      aria-current={result.id === current?.id}
                      onClick={() => void attempt(api.rehearsal(result.id)).then((one) => one && setCurrent(one))}
                    >
                      <span className="figure">level {result.level}</span>
                      <span>{result.causes.join(', ') || 'nothing was wrong'}</span>
                      <span>
                        {result.causesRight ? result.remedyRight ? 'right' : 'cause right' : <strong>missed</strong>}
                      </span>
                    </button>
                  </li>
                ))}
            </ol>
            <Tally results={results} />
          </aside>
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
            <section className="plate">
              <div className="empty check-empty">
                <strong>No set is up yet.</strong>
                Choose a level and ask for a new set.
              </div>
            </section>
          )}
        </div>
      </main>
    </div>
  );
}

/** The level after the one that was answered rightly some times in a row, or that of the last try. */
function offeredLevel(results: RehearsalResult[]): number {
  const answered = results.filter(({ answered: done }) => done);
  const last = answered[0]?.level ?? 1;
  const row = answered.filter(({ level }) => level === last).slice(0, ROW);
  return row.length === ROW && row.every(({ causesRight }) => causesRight) ? Math.min(LEVELS, last + 1) : last;
}

function Tally({ results }: { results: RehearsalResult[] }) {
  const answered = results.filter(({ answered: done }) => done);
  if (!answered.length) return <p className="quiet">Nothing answered yet.</p>;
  const right = answered.filter(({ causesRight }) => causesRight).length;
  return (
    <p className="quiet">
      <span className="figure">{right}</span> of <span className="figure">{answered.length}</span> causes named rightly.
    </p>
  );
}

function Exercise({ rehearsal, onAnswered }: { rehearsal: Rehearsal; onAnswered: (rehearsal: Rehearsal) => void }) {
  const [kind, setKind] = useState<PictureKind>('people');
  const [causes, setCauses] = useState<RehearsedCause[]>([]);
  const [remedy, setRemedy] = useState<RemedyId | ''>('');
  const { findings, truth, answer } = rehearsal;
  const picture = rehearsal.pictures.find((one) => one.kind === kind) ?? rehearsal.pictures[0];
  const shownBy = new Set<string>(truth?.shownBy);
  const evidence = truth
    ? findings.readings.filter(({ id }) => shownBy.has(id)).flatMap((reading) => reading.evidence)
    : [];
  return (
    <>
      <section className="plate" aria-label="Photograph">
        <div className="views" role="group" aria-label="View">
          {rehearsal.pictures.map((one) => (
            <button
              key={one.kind}
              type="button"
              aria-pressed={one.kind === picture.kind}
              onClick={() => setKind(one.kind)}
            >
              {titleOf(one.kind)}
            </button>
          ))}
        </div>
        <div className="check-stage">
          <EvidencePicture
            src={pictures.rehearsed(rehearsal.id, picture)}
            label={titleOf(picture.kind)}
            aspect={picture.width / picture.height}
            evidence={picture.kind === 'people' || picture.kind === 'plate' ? evidence : []}
          />
        </div>
        <div className="caption" />
      </section>
      <aside className="margin right" aria-label="Answer">
        {truth && answer ? (
          <div role="status">
            <div className="headline">
              <strong>{truth.causesRight ? 'Right.' : 'Not what it was.'}</strong>
            </div>
            <p>
              It was: <strong>{truth.causes.map((id) => rehearsedFacts[id].title).join('; ') || 'nothing'}</strong>. You
              said: {answer.causes.map((id) => rehearsedFacts[id].title).join('; ') || 'nothing'}.
            </p>
            <p style={{ paddingTop: 4 }}>
              {truth.causes.length ? (
                <>
                  What helps: {truth.remedies.map((id) => remedies[id].words.toLowerCase()).join('; ')}.{' '}
                  {truth.remedyRight ? 'You chose one of these.' : 'Your remedy would not have.'}
                </>
              ) : truth.remedyRight ? (
                'Nothing needed changing, and you left it alone.'
              ) : (
                'Nothing needed changing.'
              )}
            </p>
            {truth.shownBy.length > 0 && (
              <p style={{ padding: '4px 0 8px' }}>
                It shows in:{' '}
                {[...shownBy].map((id) => readingFacts[id as keyof typeof readingFacts].title.toLowerCase()).join('; ')}
                .
              </p>
            )}
          </div>
        ) : (
          <form
            className="answer"
            onSubmit={(event) => {
              event.preventDefault();
              void attempt(api.answerRehearsal(rehearsal.id, { causes, remedy: remedy || null })).then(
                (answered) => answered && onAnswered(answered),
              );
            }}
          >
            <fieldset className="choices">
              <legend>What is wrong? None, if nothing is.</legend>
              {(Object.keys(rehearsedFacts) as RehearsedCause[]).map((id) => (
                <label key={id}>
                  <input
                    type="checkbox"
                    checked={causes.includes(id)}
                    disabled={!causes.includes(id) && causes.length >= 3}
                    onChange={(event) =>
                      setCauses(event.target.checked ? [...causes, id] : causes.filter((c) => c !== id))
                    }
                  />
                  {rehearsedFacts[id].title}
                </label>
              ))}
            </fieldset>
            <label className="stacked">
              <strong>What would you do first?</strong>
              <select value={remedy} onChange={(event) => setRemedy(event.target.value as RemedyId | '')}>
                <option value="">nothing, start</option>
                {(Object.keys(remedies) as RemedyId[]).map((id) => (
                  <option key={id} value={id}>
                    {remedies[id].words}
                  </option>
                ))}
              </select>
            </label>
            <Button type="submit" variant="contained" color="primary">
              That is my answer
            </Button>
          </form>
        )}
        <h2 style={{ paddingTop: 12 }}>Readings</h2>
        {[...findings.readings]
          .sort((a, b) => Number(shownBy.has(b.id)) - Number(shownBy.has(a.id)))
          .map(({ id, value, reason }) => (
            <BoundReading key={id} id={id} value={value} reason={reason} note={shownBy.has(id) ? 'shows it' : ''} />
          ))}
      </aside>
    </>
  );
}
