import { isWithin, readingFacts, type Plan, type PlanReading, type ReadingFacts, type Report } from '../../core/plan/index.ts';

/** All readings, those that cost most first; each opens to its reason and remedy. */
export function Findings({ report }: { report: Report; plan: Plan }) {
  const cost = (id: string): number => report.forecast.causes.find((cause) => cause.id === id)?.minutes ?? 0;
  const ordered = [...report.readings].sort((a, b) => Number(b.verdict === 'beyond') - Number(a.verdict === 'beyond') || cost(b.id) - cost(a.id));
  const beyond = ordered.filter((reading) => reading.verdict === 'beyond').length;
  return (
    <section aria-label="Findings">
      <p className="quiet" style={{ paddingBottom: 6 }}>
        <span className="figure">{beyond}</span> of <span className="figure">{ordered.length}</span> readings out of bounds; what costs most stands first.
      </p>
      {ordered.map((reading) => (
        <PlanReadingRow key={reading.id} reading={reading} minutes={cost(reading.id)} />
      ))}
      <ul className="cautions" aria-label="Cautions">
        {report.cautions.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </section>
  );
}

function PlanReadingRow({ reading: { id, value, reason }, minutes }: { reading: PlanReading; minutes: number }) {
  const { title, unit, digits, scale, min, max, remedy, source }: ReadingFacts = readingFacts[id];
  const good = isWithin(id, value);
  const at = (v: number): number => (100 * Math.max(0, Math.min(1, (v - scale[0]) / (scale[1] - scale[0]))));
  const bound = [min !== undefined && `≥ ${min}`, max !== undefined && `≤ ${max}`].filter(Boolean).join(', ');
  return (
    <details className="reading">
      <summary>
        <span>{good ? title : <strong>{title}</strong>}</span>
        <span className="figure">
          {value.toFixed(digits).replace('-', '−')} {unit}
        </span>
        <svg viewBox="0 0 100 13" preserveAspectRatio="none" aria-hidden="true">
          <line x1="0" x2="100" y1="7" y2="7" stroke="var(--rule)" strokeWidth="1" vectorEffect="non-scaling-stroke" />
          {[min, max].map((b, n) => b !== undefined && <line key={n} x1={at(b)} x2={at(b)} y1="1" y2="13" stroke="var(--ink)" strokeWidth="1" strokeDasharray="2 2" vectorEffect="non-scaling-stroke" />)}
          <line x1={at(value)} x2={at(value)} y1="2" y2="12" stroke={good ? 'var(--ink)' : 'var(--accent)'} strokeWidth="5" vectorEffect="non-scaling-stroke" />
        </svg>
        <span className="quiet">
          {good ? 'within' : 'out of bounds'}, {bound} {unit}
        </span>
        <span className="quiet figure">{minutes >= 0.5 ? `${minutes.toFixed(0)} min` : ''}</span>
      </summary>
      <p>{reason}</p>
      {!good && <p>{remedy}</p>}
      <p>Bound: {source}.</p>
    </details>
  );
}
