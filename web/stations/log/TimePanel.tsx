import { Box, Table, TableBody, TableCell, TableHead, TableRow, TextField } from '@mui/material';
import type { ShootLog } from '../../../contract/index.ts';
import {
  costOf,
  secondsOf,
  workPlaces,
  type ShootCosts,
  type WorkPlace,
  type WorkTime,
} from '../../../core/log/index.ts';
import { span } from '../../shared/format.ts';
import { NumberField } from '../../shared/NumberField.tsx';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { SpaceSection } from './SpaceSection.tsx';
import type { OpenLog } from './useLog.ts';

/** Less work than this says nothing of how many pictures an hour brings. */
const LEAST_HOURS = 0.25;

/** Time at the stations, which a hand can set right, and what the shoot cost. */
export function TimePanel({ open, log }: { open: OpenLog; log: ShootLog }) {
  const { times, costs, setups, pictures } = log;
  const places = (Object.keys(workPlaces) as WorkPlace[]).filter((place) => times.some((time) => time.place === place));
  const hours = secondsOf(times) / 3600;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 1fr)', gap: 5, alignItems: 'start' }}>
      <section>
        <h2>Time at the stations</h2>
        <p className="quiet">
          Counted while somebody moves or types; a minute without is a pause. Set it right where it is wrong.
        </p>
        <Table size="small" aria-label="Time at the stations">
          <TableHead>
            <TableRow>
              <TableCell>Station</TableCell>
              <TableCell>Day</TableCell>
              <TableCell align="right">counted</TableCell>
              <TableCell align="right">as it was, min</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {places.flatMap((place) =>
              times
                .filter((time) => time.place === place)
                .map((time) => <TimeRow key={`${place}${time.day}`} time={time} open={open} log={log} />),
            )}
            <TableRow>
              <TableCell colSpan={3}>
                <strong>In all</strong>
              </TableCell>
              <TableCell align="right" className="figure">
                <strong>{span(hours * 60)}</strong>
              </TableCell>
            </TableRow>
            {hours >= LEAST_HOURS && pictures > 0 && (
              <TableRow>
                <TableCell colSpan={3}>Pictures for each hour</TableCell>
                <TableCell align="right" className="figure">
                  {(pictures / hours).toFixed(1)}
                </TableCell>
              </TableRow>
            )}
          </TableBody>
        </Table>
        <SpaceSection shootId={log.shoot.id} />
      </section>
      <CostSection
        costs={costs}
        sum={costOf(setups, times, costs, pictures)}
        onChange={async (to) => {
          const read = await attempt(api.setCosts(log.shoot.id, to));
          if (read) open.take(read);
        }}
      />
    </Box>
  );
}

function TimeRow({ time, open, log }: { time: WorkTime; open: OpenLog; log: ShootLog }) {
  const { place, day, seconds, corrected } = time;
  const correct = async (typed: string): Promise<void> => {
    const value = Number(typed.replace(',', '.'));
    const wanted = typed.trim() === '' ? null : Math.round(value * 60);
    if (wanted !== null && !(wanted >= 0 && wanted <= 86_400)) return;
    const read = await attempt(api.correctTime(log.shoot.id, { place, day, seconds: wanted }));
    if (read) open.take(read);
  };
  return (
    <TableRow>
      <TableCell>{workPlaces[place]}</TableCell>
      <TableCell className="figure">{day}</TableCell>
      <TableCell align="right" className="figure">
        {span(seconds / 60)}
      </TableCell>
      <TableCell align="right">
        <TextField
          key={String(corrected)}
          variant="standard"
          defaultValue={corrected === null ? '' : (corrected / 60).toFixed(0)}
          placeholder={(seconds / 60).toFixed(0)}
          slotProps={{
            htmlInput: {
              'aria-label': `Minutes at ${workPlaces[place]} on ${day}`,
              inputMode: 'decimal',
              className: 'figure',
              style: { textAlign: 'right', width: 64 },
            },
          }}
          onBlur={(event) => void correct(event.target.value)}
        />
      </TableCell>
    </TableRow>
  );
}

function CostSection({
  costs,
  sum,
  onChange,
}: {
  costs: ShootCosts;
  sum: ReturnType<typeof costOf>;
  onChange: (to: ShootCosts) => Promise<void>;
}) {
  const rows: [string, number][] = [
    ['Kit and what was used up', sum.kit],
    [`Work, ${sum.hours.toFixed(1)} h`, sum.work],
    [costs.otherWhat || 'Other', sum.other],
  ];
  return (
    <section>
      <h2>Cost</h2>
      <p className="quiet">In your own currency. The kit comes from the plans: wear, hire and what is used up.</p>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: '6px 12px', alignItems: 'baseline', py: 1 }}>
        <NumberField
          label="An hour of work"
          min={0}
          max={10_000}
          step={5}
          value={costs.hour}
          onChange={(hour) => void onChange({ ...costs, hour })}
        />
        <NumberField
          label="Hours at the shoot itself"
          unit="h"
          min={0}
          max={1000}
          step={0.5}
          value={costs.hoursThere}
          onChange={(hoursThere) => void onChange({ ...costs, hoursThere })}
        />
        <NumberField
          label="Other cost"
          min={0}
          max={1_000_000}
          step={10}
          value={costs.other}
          onChange={(other) => void onChange({ ...costs, other })}
        />
      </Box>
      <TextField
        key={costs.otherWhat}
        label="What the other cost was"
        fullWidth
        defaultValue={costs.otherWhat}
        slotProps={{ htmlInput: { maxLength: 120 } }}
        onBlur={(event) =>
          event.target.value.trim() !== costs.otherWhat &&
          void onChange({ ...costs, otherWhat: event.target.value.trim() })
        }
      />
      <Table size="small" aria-label="Cost" sx={{ mt: 1.5 }}>
        <TableBody>
          {rows.map(([name, value]) => (
            <TableRow key={name}>
              <TableCell>{name}</TableCell>
              <TableCell align="right" className="figure">
                {value.toFixed(2)}
              </TableCell>
            </TableRow>
          ))}
          <TableRow>
            <TableCell>
              <strong>In all</strong>
            </TableCell>
            <TableCell align="right" className="figure">
              <strong>{sum.total.toFixed(2)}</strong>
            </TableCell>
          </TableRow>
          {sum.each !== null && (
            <TableRow>
              <TableCell>For each portrait</TableCell>
              <TableCell align="right" className="figure">
                {sum.each.toFixed(2)}
              </TableCell>
            </TableRow>
          )}
        </TableBody>
      </Table>
    </section>
  );
}
