import { Button } from '@mui/material';
import { DatePicker } from '@mui/x-date-pickers/DatePicker';
import { TimePicker } from '@mui/x-date-pickers/TimePicker';
import dayjs, { type Dayjs } from 'dayjs';
import { produce } from 'immer';
import { lazy, Suspense, useState } from 'react';
import type { Plan } from '../../../core/plan/index.ts';
import { Dates } from '../../shared/Dates.tsx';
import { counted } from '../../shared/format.ts';
import { Actions, Fields } from '../../shared/layout.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { part } from '../../shared/part.ts';
import { useStore } from '../../state/store.ts';
import { FactField, Section, type ThingProps } from './fields.tsx';
import { thingFacts } from './things.ts';

// The table is loaded when somebody wants it.
const RosterDialog = lazy(async () => ({ default: (await part(() => import('./RosterDialog.tsx'))).RosterDialog }));

type Event = Plan['event'];

const moments = [
  ['date', 'Date', 'date'],
  ['arrive', 'Arrive at', 'time'],
  ['firstGuest', 'First guest', 'time'],
  ['packedBy', 'Packed by', 'time'],
  ['deadlineDate', 'Hand-over, date', 'date'],
  ['deadlineTime', 'Hand-over, time', 'time'],
] as const;

/** The day: times, guests, breaks and who wears what. */
export function DayForm({ plan, units, onChange }: ThingProps) {
  const { event } = plan;
  const measured = useStore((state) => state.cutSeconds);
  const [listing, setListing] = useState(false);
  const change = (make: (event: Event) => void, label: string): void =>
    onChange(
      produce(plan, (draft) => make(draft.event)),
      label,
    );
  return (
    <Dates>
      {moments.map(([name, label, type]) => (
        <Moment
          key={name}
          label={label}
          type={type}
          value={event[name]}
          onChange={(value) => change((draft) => void (draft[name] = value), label.toLowerCase())}
        />
      ))}
      <Fields as="div">
        {Object.entries(thingFacts.day).map(([name, fact]) => (
          <FactField
            key={name}
            fact={fact}
            value={event[name as 'guests']}
            units={units}
            onChange={(value) =>
              change(
                (draft) => void (draft[name as 'guests'] = name === 'guests' ? Math.round(value) : value),
                fact.label.toLowerCase(),
              )
            }
          />
        ))}
      </Fields>
      {measured !== null && Math.abs(measured - event.cutSeconds) > 0.2 && (
        <p className="quiet">
          This machine took <span className="figure">{measured.toFixed(1)} s</span> for a frame.{' '}
          <Button
            variant="text"
            onClick={() =>
              change(
                (draft) => void (draft.cutSeconds = Math.max(0.1, Number(measured.toFixed(1)))),
                'extraction of a frame',
              )
            }
          >
            Plan with that
          </Button>
        </p>
      )}
      <Section title="Breaks">
        {event.breaks.map((pause, n) => (
          <Actions key={n} sx={{ flexWrap: 'nowrap', alignItems: 'end' }}>
            <Moment
              label={`Break ${n + 1} begins`}
              type="time"
              value={pause.start}
              onChange={(value) => change((draft) => void (draft.breaks[n].start = value), 'a break')}
            />
            <NumberField
              label={`Break ${n + 1}, minutes`}
              hideLabel
              value={pause.minutes}
              min={1}
              max={600}
              step={5}
              onChange={(value) => change((draft) => void (draft.breaks[n].minutes = value), 'a break')}
            />
            <span className="quiet">min</span>
            <Button variant="text" onClick={() => change((draft) => void draft.breaks.splice(n, 1), 'a break')}>
              Remove
            </Button>
          </Actions>
        ))}
        <Button
          variant="text"
          onClick={() => change((draft) => void draft.breaks.push({ start: '15:00', minutes: 15 }), 'a break')}
        >
          Add a break
        </Button>
      </Section>
      <Section title="Who comes, and in what colours">
        <p className="quiet">
          {event.roster.length
            ? `${counted(event.roster.length, 'entry', 'entries')}, ${event.roster.reduce((sum, { people }) => sum + people, 0)} people.`
            : 'Nobody is listed; clothes near the screen’s colour are told beforehand from this list.'}
        </p>
        <Button onClick={() => setListing(true)}>Edit who comes</Button>
      </Section>
      {listing && (
        <Suspense>
          <RosterDialog
            open
            roster={event.roster}
            onChange={(roster) => change((draft) => void (draft.roster = roster), 'roster')}
            onClose={() => setListing(false)}
          />
        </Suspense>
      )}
    </Dates>
  );
}

/** A date or a time of day; taken when it is whole. */
function Moment({
  label,
  type,
  value,
  onChange,
}: {
  label: string;
  type: 'date' | 'time';
  value: string;
  onChange: (value: string) => void;
}) {
  const form = type === 'date' ? 'YYYY-MM-DD' : 'HH:mm';
  const shared = {
    label,
    value: type === 'date' ? dayjs(value) : dayjs(`2000-01-01T${value}`),
    onChange: (moment: Dayjs | null) => {
      const text = moment?.isValid() ? moment.format(form) : value;
      if (text !== value) onChange(text);
    },
    slotProps: { textField: { size: 'small', variant: 'standard', fullWidth: true } },
  } as const;
  return type === 'date' ? <DatePicker {...shared} /> : <TimePicker {...shared} ampm={false} />;
}
