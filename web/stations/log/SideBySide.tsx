import { Box, Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import { useState } from 'react';
import type { ShootLog } from '../../../contract/index.ts';
import { costOf, secondsOf } from '../../../core/log/index.ts';
import { readingFacts, type ReadingId } from '../../../core/plan/readings.ts';
import { Choice } from '../../shared/Choice.tsx';

/** Two shoots with the same figures. */
export function SideBySide({ logs, first }: { logs: readonly ShootLog[]; first: number }) {
  const [other, setOther] = useState<number>();
  const a = logs.find(({ shoot }) => shoot.id === first);
  const b = logs.find(({ shoot }) => shoot.id === other);
  const others = logs.filter(({ shoot }) => shoot.id !== first);
  if (!a || !others.length) return null;
  return (
    <section>
      <h2>Beside another shoot</h2>
      <Box sx={{ maxWidth: 420 }}>
        <Choice
          label="The other"
          value={String(other ?? '')}
          options={[
            { value: '', title: 'choose a shoot' },
            ...others.map(({ shoot }) => ({ value: String(shoot.id), title: `${shoot.name}, ${shoot.date}` })),
          ]}
          onChange={(value) => setOther(value ? Number(value) : undefined)}
        />
      </Box>
      {b && (
        <Table size="small" aria-label="Two shoots">
          <TableHead>
            <TableRow>
              <TableCell />
              <TableCell align="right">{a.shoot.name}</TableCell>
              <TableCell align="right">{b.shoot.name}</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {compared(a).map(([title, value], n) => (
              <TableRow key={title}>
                <TableCell>{title}</TableCell>
                {[value, compared(b)[n][1]].map((shown, k) => (
                  <TableCell key={k} align="right" className="figure">
                    {shown}
                  </TableCell>
                ))}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </section>
  );
}

function compared({ setups, times, costs, pictures, handedOver }: ShootLog): [string, string][] {
  const cost = costOf(setups, times, costs, pictures);
  const accepted = setups.reduce((sum, setup) => sum + setup.accepted.frames, 0);
  const spent = setups.reduce((sum, setup) => sum + setup.accepted.spent, 0);
  const worst = (id: ReadingId): string => {
    const values = setups.flatMap(({ readings }) => readings[id] ?? []);
    return values.length ? `${Math.max(...values).toFixed(readingFacts[id].digits)} ${readingFacts[id].unit}` : '–';
  };
  return [
    ['Pictures', String(pictures)],
    ['Setups', String(setups.length)],
    ['Materials', [...new Set(setups.flatMap(({ set }) => set?.material ?? []))].join(', ') || '–'],
    ['Worst unevenness', worst('spread')],
    ['Worst noise', worst('noise')],
    ['Worst creases', worst('wrinkle')],
    ['By hand, foreseen by Extract', `${setups.reduce((sum, setup) => sum + setup.doubts, 0).toFixed(0)} min`],
    ['By hand, spent', accepted ? `${spent.toFixed(1)} min on ${accepted}` : '–'],
    ['At the stations', `${(secondsOf(times) / 60).toFixed(0)} min`],
    ['Cost', cost.total.toFixed(2)],
    ['Cost of each portrait', cost.each === null ? '–' : cost.each.toFixed(2)],
    ['Hand-overs', String(handedOver)],
  ];
}
