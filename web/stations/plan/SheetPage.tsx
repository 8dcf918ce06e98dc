import { Box, Button, Link, styled, Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import { useMemo } from 'react';
import { Link as RouterLink, useParams } from 'react-router';
import { reportOn, scheduleOf, setSheet } from '../../../core/plan/index.ts';
import { Actions, EmptyPlace, Sheet } from '../../shared/layout.tsx';
import { pictures } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';
import { SetDrawing } from './SetDrawing.tsx';
import { useUnits } from './useUnits.ts';

const Paper = styled(Sheet)`
  & .set-drawing {
    grid-template-rows: none;
    grid-template-columns: 1fr 1fr;
    height: 300px;
  }
  @media print {
    padding: 0;
    max-width: none;
    & .no-print {
      display: none;
    }
    & section {
      break-inside: avoid;
    }
  }
`;

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
      <EmptyPlace title="This plan does not exist.">
        <Link component={RouterLink} to="../plan">
          Go to the plans.
        </Link>
      </EmptyPlace>
    );
  }
  const ignore = (): void => undefined;
  return (
    <Paper>
      <Actions className="no-print">
        <Link component={RouterLink} to={`../plan?plan=${id}`}>
          Back to the plan
        </Link>
        <Button onClick={() => window.print()}>Print</Button>
        <Button href={pictures.planFile(id, 'sheet.pdf', units)} download>
          PDF
        </Button>
      </Actions>
      <h2 className="title">{row.plan.name}</h2>
      <Box inert>
        <SetDrawing plan={row.plan} units={units} chosen="room" onChoose={ignore} onDraft={ignore} onChange={ignore} />
      </Box>
      {sections.map(({ title, head, rows }) => (
        <section key={title} aria-label={title}>
          <h2>{title}</h2>
          <Table size="small">
            {head && (
              <TableHead>
                <TableRow>
                  {head.map((cell) => (
                    <TableCell key={cell}>{cell}</TableCell>
                  ))}
                </TableRow>
              </TableHead>
            )}
            <TableBody>
              {rows.map((cells, n) => (
                <TableRow key={n}>
                  {cells.map((cell, k) => (
                    <TableCell key={k} className="figure">
                      {cell}
                    </TableCell>
                  ))}
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </section>
      ))}
    </Paper>
  );
}
