import { Button } from '@mui/material';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { reportOn, scheduleOf, setSheet } from '../../../core/plan/index.ts';
import { pictures } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';
import { SetDrawing } from './SetDrawing.tsx';
import { useUnits } from './useUnits.ts';

/** The set sheet: one plan on paper, to build the set by. */
export function SheetPage() {
  const id = Number(useParams().planId);
  const row = useStore((state) => state.plans.find((p) => p.id === id));
  const { units } = useUnits();
  const sections = useMemo(() => {
    if (!row) return [];
    const report = reportOn(row.plan);
    return setSheet(row.plan, report, scheduleOf(row.plan, report.kit, report.forecast), units);
  }, [row, units]);
  if (!row) {
    return (
      <p className="empty">
        <strong>This plan does not exist.</strong> <Link to="../plan">Go to the plans.</Link>
      </p>
    );
  }
  const ignore = (): void => undefined;
  return (
    <div className="sheet set-sheet">
      <div className="actions no-print">
        <Link to={`../plan?plan=${id}`}>Back to the plan</Link>
        <Button onClick={() => window.print()}>Print</Button>
        <Button href={pictures.planFile(id, 'sheet.pdf', units)} download>
          PDF
        </Button>
      </div>
      <h1>{row.plan.name}</h1>
      <div inert>
        <SetDrawing plan={row.plan} units={units} chosen="room" onChoose={ignore} onDraft={ignore} onChange={ignore} />
      </div>
      {sections.map(({ title, head, rows }) => (
        <section key={title} aria-label={title}>
          <h2>{title}</h2>
          <table className="table small">
            {head && (
              <thead>
                <tr>
                  {head.map((cell) => (
                    <th key={cell}>{cell}</th>
                  ))}
                </tr>
              </thead>
            )}
            <tbody>
              {rows.map((cells, n) => (
                <tr key={n}>
                  {cells.map((cell, k) => (
                    <td key={k} className="figure">
                      {cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </div>
  );
}
