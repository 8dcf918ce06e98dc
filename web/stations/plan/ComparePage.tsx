import { useMemo } from 'react';
import { Link, useSearchParams } from 'react-router';
import { isWithin, readingFacts, reportOn, type Plan, type ReadingId, type Report } from '../../../core/plan/index.ts';
import { useStore } from '../../state/store.ts';
import { CameraPicture } from './CameraPicture.tsx';
import { LawnMapView } from './LawnMapView.tsx';

/** Two plans side by side: pictures, maps, and every reading with the difference. */
export function ComparePage() {
  const plans = useStore((state) => state.plans);
  const [search, setSearch] = useSearchParams();
  const rows = (['a', 'b'] as const).map((key, n) => plans.find((p) => p.id === Number(search.get(key))) ?? plans[n]);
  const [a, b] = rows;
  const reports = useMemo(() => [a, b].map((row) => row && reportOn(row.plan, 18, 3)), [a, b]);
  if (!a || !b || !reports[0] || !reports[1]) {
    return (
      <p className="empty">
        <strong>Two plans are needed.</strong> <Link to="../plan">Copy one and change it.</Link>
      </p>
    );
  }
  const [left, right] = reports as [Report, Report];
  const choose = (key: 'a' | 'b', id: string): void =>
    setSearch({ a: search.get('a') ?? String(a.id), b: search.get('b') ?? String(b.id), [key]: id }, { replace: true });
  const ids = (Object.keys(readingFacts) as ReadingId[]).filter(
    (id) => left.readings.some((r) => r.id === id) || right.readings.some((r) => r.id === id),
  );
  return (
    <div className="sheet compare">
      <p>
        <Link to={`../plan?plan=${a.id}`}>Back to the plan</Link>
      </p>
      <table className="table">
        <thead>
          <tr>
            <th />
            {rows.map((row, n) => (
              <th key={n}>
                <select
                  aria-label={n ? 'Second plan' : 'First plan'}
                  value={row?.id}
                  onChange={(event) => choose(n ? 'b' : 'a', event.target.value)}
                >
                  {plans.map((p) => (
                    <option key={p.id} value={p.id}>
                      {p.plan.name}
                    </option>
                  ))}
                </select>
              </th>
            ))}
            <th className="number">difference</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td />
            {[a.plan, b.plan].map((plan, n) => (
              <td key={n}>
                <Pictures plan={plan} report={n ? right : left} />
              </td>
            ))}
            <td />
          </tr>
          <CompareRow
            title="Hand repair"
            unit="min"
            values={[left.forecast.minutes, right.forecast.minutes]}
            digits={0}
            good={[true, true]}
          />
          {ids.map((id) => {
            const { title, unit, digits } = readingFacts[id];
            const values = [left, right].map((report) => report.readings.find((r) => r.id === id)?.value);
            return (
              <CompareRow
                key={id}
                title={title}
                unit={unit}
                values={values}
                digits={digits}
                good={values.map((v) => v === undefined || isWithin(id, v))}
              />
            );
          })}
          <CompareRow
            title="Cost of the kit"
            unit=""
            values={[left.kit.cost, right.kit.cost]}
            digits={0}
            good={[true, true]}
          />
          <CompareRow
            title="To carry"
            unit="kg"
            values={[left.kit.mass, right.kit.mass]}
            digits={0}
            good={[true, true]}
          />
          <CompareRow
            title="Set-up"
            unit="min"
            values={[left.kit.setUpMinutes, right.kit.setUpMinutes]}
            digits={0}
            good={[true, true]}
          />
        </tbody>
      </table>
    </div>
  );
}

function Pictures({ plan, report }: { plan: Plan; report: Report }) {
  return (
    <div className="compare-pictures">
      <CameraPicture plan={plan} shot={{ kind: 'people', people: ['maren'], seed: 1 }} />
      <LawnMapView plan={plan} report={report} shadows={false} />
    </div>
  );
}

function CompareRow({
  title,
  unit,
  values,
  digits,
  good,
}: {
  title: string;
  unit: string;
  values: (number | undefined)[];
  digits: number;
  good: boolean[];
}) {
  const [a, b] = values;
  const difference = a !== undefined && b !== undefined ? b - a : undefined;
  return (
    <tr>
      <td>{title}</td>
      {values.map((value, n) => (
        <td key={n} className="figure">
          {value === undefined ? (
            '–'
          ) : good[n] ? (
            `${value.toFixed(digits)} ${unit}`
          ) : (
            <strong>{`${value.toFixed(digits)} ${unit}, out of bounds`}</strong>
          )}
        </td>
      ))}
      <td className="number">
        {difference === undefined || Math.abs(difference) < 0.5 * 10 ** -digits
          ? '–'
          : `${difference > 0 ? '+' : '−'}${Math.abs(difference).toFixed(digits)}`}
      </td>
    </tr>
  );
}
