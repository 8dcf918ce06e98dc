import { Box } from '@mui/material';
import type { Plan, Report } from '../../../core/plan/index.ts';
import { BoundReading } from '../../shared/BoundReading.tsx';

/** All readings, those that cost most first; each opens to its reason and remedy. */
export function Findings({ report }: { report: Report; plan: Plan }) {
  const cost = (id: string): number => report.forecast.causes.find((cause) => cause.id === id)?.minutes ?? 0;
  const ordered = [...report.readings].sort(
    (a, b) => Number(b.verdict === 'beyond') - Number(a.verdict === 'beyond') || cost(b.id) - cost(a.id),
  );
  const beyond = ordered.filter((reading) => reading.verdict === 'beyond').length;
  return (
    <section aria-label="Findings">
      <Box component="p" className="quiet" sx={{ pb: 0.75 }}>
        <span className="figure">{beyond}</span> of <span className="figure">{ordered.length}</span> readings out of
        bounds; what costs most stands first.
      </Box>
      {ordered.map(({ id, value, reason }) => (
        <BoundReading key={id} id={id} value={value} reason={reason} minutes={cost(id)} />
      ))}
      <Box component="ul" aria-label="Cautions" sx={{ borderTop: 1, mt: 1, pt: 1.25, pl: 2, '& li': { pb: 0.4 } }}>
        {report.cautions.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </Box>
    </section>
  );
}
