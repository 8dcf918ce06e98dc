import { Button, Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import type { Frame, Shoot } from '../../../contract/index.ts';
import { clocksOff } from '../../../core/gather/clocks.ts';
import { grouped } from '../../../core/gather/grouped.ts';
import { NumberField } from '../../shared/NumberField.tsx';
import { setClock } from '../../state/changes.ts';
import { sortableOf } from './sortable.ts';

/** More than twelve years: a clock that was never set. */
const MOST = 400_000_000;

/** The cameras of a shoot and their clocks; nothing where only one took all of it. */
export function CamerasPanel({ shoot, frames }: { shoot: Shoot; frames: readonly Frame[] }) {
  const cameras = [...grouped(frames, ({ camera }) => camera.body)].filter(([body]) => body !== '');
  if (cameras.length < 2) return null;
  const off = clocksOff(frames.map(sortableOf));
  return (
    <section aria-label="Cameras">
      <Table size="small" sx={{ maxWidth: 900 }} aria-label="Cameras and their clocks">
        <TableHead>
          <TableRow>
            <TableCell>Camera</TableCell>
            <TableCell align="right">Frames</TableCell>
            <TableCell>From, to</TableCell>
            <TableCell align="right">Clock set right by, s</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {cameras.map(([body, own]) => {
            const times = own.flatMap(({ takenAt }) => takenAt ?? []).toSorted();
            const proposal = off.find(({ camera }) => camera === body);
            const { clock } = own[0];
            return (
              <TableRow key={body}>
                <TableCell>{body}</TableCell>
                <TableCell align="right" className="figure">
                  {own.length}
                </TableCell>
                <TableCell className="figure">
                  {times.length ? `${times[0].slice(11, 16)}–${times.at(-1)?.slice(11, 16)}` : 'no time'}
                </TableCell>
                <TableCell align="right" sx={{ width: 120 }}>
                  <NumberField
                    hideLabel
                    label={`Clock of ${body}, seconds`}
                    value={clock}
                    min={-MOST}
                    max={MOST}
                    step={1}
                    digits={0}
                    onChange={(seconds) => void setClock(shoot.id, body, seconds)}
                  />
                </TableCell>
                <TableCell>
                  {proposal && (
                    <Button onClick={() => void setClock(shoot.id, body, clock + proposal.seconds)}>
                      {proposal.slates} slates say {proposal.seconds > 0 ? '+' : '−'}
                      {Math.abs(proposal.seconds)} s: set
                    </Button>
                  )}
                </TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
    </section>
  );
}
