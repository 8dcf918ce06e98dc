import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import { useMemo } from 'react';
import type { ShootLog } from '../../../contract/index.ts';
import { factorsFrom, fitDoubts, fitForecast, type FittedCause, type LoggedSetup } from '../../../core/log/index.ts';
import { counted } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { api } from '../../state/api.ts';
import { loadFactors, useFactors } from '../../state/factors.ts';
import { attempt } from '../../state/store.ts';
import { useLogs } from './useLog.ts';

const sum = (values: object): number => Object.values(values as Record<string, number>).reduce((all, v) => all + v, 0);
const min = (value: number | null): string => (value === null ? '–' : value.toFixed(value < 10 ? 1 : 0));

/** Minutes foreseen against minutes spent, and what the own log makes of the coefficients. */
export function TruthPanel({ log }: { log: ShootLog }) {
  const logs = useLogs();
  const taken = useFactors((state) => state.taken);
  const setups = useMemo(() => (logs ?? [log]).flatMap((one) => one.setups), [logs, log]);
  const causes = useMemo(() => fitForecast(setups), [setups]);
  const doubts = useMemo(() => fitDoubts(setups), [setups]);
  const seen = [...causes, ...doubts].some((one) => one.seen > 0);
  const take = async (): Promise<void> => {
    await attempt(api.takeFactors(factorsFrom(causes, doubts)));
    await loadFactors();
  };
  const leave = async (): Promise<void> => {
    await attempt(api.leaveFactors());
    await loadFactors();
  };
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <section>
        <h2>Minutes by hand, setup by setup</h2>
        <p className="quiet">
          Spent is what Extract counted on frames that were accepted; what was foreseen is scaled to these.
        </p>
        <Table size="small" aria-label="Minutes by hand">
          <TableHead>
            <TableRow>
              {['Setup', 'accepted', 'Plan', 'Check', 'Extract', 'spent'].map((title, n) => (
                <TableCell key={title} align={n ? 'right' : 'left'}>
                  {title}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {log.setups.map((setup) => (
              <TableRow key={setup.id}>
                <TableCell>{setup.name}</TableCell>
                <TableCell align="right" className="figure">
                  {setup.accepted.frames} of {setup.cut}
                </TableCell>
                {foreseenOf(setup).map((value, n) => (
                  <TableCell key={n} align="right" className="figure">
                    {min(value)}
                  </TableCell>
                ))}
                <TableCell align="right" className="figure">
                  <strong>{setup.accepted.frames ? min(setup.accepted.spent) : '–'}</strong>
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </section>
      <section>
        <h2>What your own log says of the coefficients</h2>
        {seen ? (
          <p>
            From {counted(setups.filter(({ accepted }) => accepted.frames).length, 'setup')} of all shoots. A factor of
            1 is what shipped; a cause that was never met stays there.
          </p>
        ) : (
          <p className="quiet">
            Nothing yet: accept frames at Extract, and what they took is held against what was foreseen.
          </p>
        )}
        <Actions>
          <Button variant="contained" disabled={!seen} onClick={() => void take()}>
            Take these for the forecast
          </Button>
          <Button disabled={!taken} onClick={() => void leave()}>
            {taken ? 'Go back to those before' : 'The shipped ones hold'}
          </Button>
        </Actions>
      </section>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 4, alignItems: 'start' }}>
        <FactorTable title="Plan and Check" fitted={causes} taken={taken?.causes} />
        <FactorTable title="Extract" fitted={doubts} taken={taken?.doubts} />
      </Box>
    </Box>
  );
}

/** Minutes for the accepted frames by Plan, Check and Extract. */
function foreseenOf({ plan, check, accepted }: LoggedSetup): (number | null)[] {
  const scaled = (foreseen: LoggedSetup['plan']): number | null =>
    foreseen && (sum(foreseen.causes) / foreseen.frames) * accepted.frames;
  return accepted.frames ? [scaled(plan), scaled(check), sum(accepted.foreseen)] : [null, null, null];
}

function FactorTable<C extends string>({
  title,
  fitted,
  taken,
}: {
  title: string;
  fitted: readonly FittedCause<C>[];
  taken: Partial<Record<C, number>> | undefined;
}) {
  const shown = fitted.filter((one) => one.seen > 0).toSorted((a, b) => b.seen - a.seen);
  if (!shown.length) return null;
  return (
    <Table size="small" aria-label={`Coefficients of ${title}`}>
      <TableHead>
        <TableRow>
          <TableCell>{title}</TableCell>
          <TableCell align="right">holds</TableCell>
          <TableCell align="right">own log</TableCell>
          <TableCell align="right">from</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {shown.map(({ id, title: cause, factor, deviation, seen }) => (
          <TableRow key={id}>
            <TableCell>{cause}</TableCell>
            <TableCell align="right" className="figure">
              × {(taken?.[id] ?? 1).toFixed(2)}
            </TableCell>
            <TableCell align="right" className="figure">
              × {factor.toFixed(2)} ± {deviation.toFixed(2)}
            </TableCell>
            <TableCell align="right" className="figure">
              {counted(seen, 'setup')}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
