import { Link, styled, Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import { useMemo } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { isWithin, readingFacts, reportOn, type Plan, type ReadingId, type Report } from '../../../core/plan/index.ts';
import { Choice } from '../../shared/Choice.tsx';
import { EmptyPlace, Sheet } from '../../shared/layout.tsx';
import { useStore } from '../../state/store.ts';
import { CameraPicture } from './CameraPicture.tsx';
import { LawnMapView } from './LawnMapView.tsx';

const Side = styled('div')`
  display: grid;
  grid-template-columns: 150px 150px;
  gap: 10px;
  align-items: start;
  background: var(--surround);
  padding: 10px;
  width: max-content;
  & > * {
    width: 150px;
  }
`;

/** Two plans side by side: pictures, maps, and every reading with the difference. */
export function ComparePage() {
  const plans = useStore((state) => state.plans);
  const [search, setSearch] = useSearchParams();
  const rows = (['a', 'b'] as const).map((key, n) => plans.find((p) => p.id === Number(search.get(key))) ?? plans[n]);
  const [a, b] = rows;
  const reports = useMemo(() => [a, b].map((row) => row && reportOn(row.plan, 18, 3)), [a, b]);
  if (!a || !b || !reports[0] || !reports[1]) {
    return (
      <EmptyPlace title="Two plans are needed.">
        <Link component={RouterLink} to="../plan">
          Copy one and change it.
        </Link>{' '}
        Then their pictures, light and readings stand side by side here.
      </EmptyPlace>
    );
  }
  const [left, right] = reports as [Report, Report];
  const choose = (key: 'a' | 'b', id: string): void =>
    setSearch({ a: search.get('a') ?? String(a.id), b: search.get('b') ?? String(b.id), [key]: id }, { replace: true });
  const ids = (Object.keys(readingFacts) as ReadingId[]).filter(
    (id) => left.readings.some((r) => r.id === id) || right.readings.some((r) => r.id === id),
  );
  return (
    <Sheet>
      <p>
        <Link component={RouterLink} to={`../plan?plan=${a.id}`}>
          Back to the plan
        </Link>
      </p>
      <Table>
        <TableHead>
          <TableRow>
            <TableCell>reading</TableCell>
            {rows.map((row, n) => (
              <TableCell key={n}>
                <Choice
                  aria={n ? 'Second plan' : 'First plan'}
                  value={String(row?.id)}
                  options={plans.map((p) => ({ value: String(p.id), title: p.plan.name }))}
                  onChange={(id) => choose(n ? 'b' : 'a', id)}
                />
              </TableCell>
            ))}
            <TableCell align="right">difference</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          <TableRow>
            <TableCell />
            {[a.plan, b.plan].map((plan, n) => (
              <TableCell key={n}>
                <Pictures plan={plan} report={n ? right : left} />
              </TableCell>
            ))}
            <TableCell />
          </TableRow>
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
        </TableBody>
      </Table>
    </Sheet>
  );
}

function Pictures({ plan, report }: { plan: Plan; report: Report }) {
  return (
    <Side>
      <CameraPicture plan={plan} shot={{ kind: 'people', people: ['maren'], seed: 1 }} />
      <LawnMapView plan={plan} report={report} shadows={false} />
    </Side>
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
    <TableRow>
      <TableCell>{title}</TableCell>
      {values.map((value, n) => (
        <TableCell key={n} className="figure">
          {value === undefined ? (
            '–'
          ) : good[n] ? (
            `${value.toFixed(digits)} ${unit}`
          ) : (
            <strong>{`${value.toFixed(digits)} ${unit}, out of bounds`}</strong>
          )}
        </TableCell>
      ))}
      <TableCell align="right" className="figure">
        {difference === undefined || Math.abs(difference) < 0.5 * 10 ** -digits
          ? '–'
          : `${difference > 0 ? '+' : '−'}${Math.abs(difference).toFixed(digits)}`}
      </TableCell>
    </TableRow>
  );
}
