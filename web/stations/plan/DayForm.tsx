import { Button } from '@mui/material';
import type { Plan, Units } from '../../../core/plan/index.ts';
import { useStore } from '../../state/store.ts';
import { NumberField } from './NumberField.tsx';
import { thingFacts } from './things.ts';

/** The day: times, guests, breaks and who wears what. */
export function Day({
  plan,
  units,
  onChange,
}: {
  plan: Plan;
  units: Units;
  onChange: (plan: Plan, label: string) => void;
}) {
  const { event } = plan;
  const measured = useStore((state) => state.cutSeconds);
  const set = (change: Partial<Plan['event']>, label: string): void =>
    onChange({ ...plan, event: { ...event, ...change } }, label);
  return (
    <>
      <div className="fields">
        {(
          [
            ['date', 'Date', 'date'],
            ['arrive', 'Arrive at', 'time'],
            ['firstGuest', 'First guest', 'time'],
            ['packedBy', 'Packed by', 'time'],
            ['deadlineDate', 'Delivery, date', 'date'],
            ['deadlineTime', 'Delivery, time', 'time'],
          ] as const
        ).map(([name, label, type]) => (
          <label key={name} className="pair">
            {label}
            <input
              type={type}
              value={event[name]}
              required
              onChange={(change) => change.target.value && set({ [name]: change.target.value }, label.toLowerCase())}
            />
          </label>
        ))}
        {Object.entries(thingFacts.day).map(([name, fact]) => (
          <NumberField
            key={name}
            fact={fact}
            value={event[name as 'guests']}
            units={units}
            onChange={(value) =>
              set({ [name]: name === 'guests' ? Math.round(value) : value }, fact.label.toLowerCase())
            }
          />
        ))}
      </div>
      {measured !== null && Math.abs(measured - event.cutSeconds) > 0.2 && (
        <p className="quiet">
          This machine took <span className="figure">{measured.toFixed(1)} s</span> for a frame.{' '}
          <Button
            variant="text"
            onClick={() => set({ cutSeconds: Math.max(0.1, Number(measured.toFixed(1))) }, 'extraction of a frame')}
          >
            Plan with that
          </Button>
        </p>
      )}
      <fieldset>
        <legend>Breaks</legend>
        {event.breaks.map((pause, n) => (
          <div key={n} className="roster-row">
            <input
              aria-label={`Break ${n + 1} begins`}
              type="time"
              value={pause.start}
              onChange={(change) =>
                change.target.value &&
                set(
                  { breaks: event.breaks.map((b, k) => (k === n ? { ...b, start: change.target.value } : b)) },
                  'a break',
                )
              }
            />
            <input
              aria-label={`Break ${n + 1}, minutes`}
              className="short"
              key={pause.minutes}
              defaultValue={pause.minutes}
              inputMode="numeric"
              onBlur={(change) =>
                set(
                  {
                    breaks: event.breaks.map((b, k) =>
                      k === n ? { ...b, minutes: Math.max(1, Math.min(600, Number(change.target.value) || 1)) } : b,
                    ),
                  },
                  'a break',
                )
              }
            />
            <span className="quiet">min</span>
            <Button variant="text" onClick={() => set({ breaks: event.breaks.filter((_, k) => k !== n) }, 'a break')}>
              Remove
            </Button>
          </div>
        ))}
        <Button
          variant="text"
          onClick={() => set({ breaks: [...event.breaks, { start: '15:00', minutes: 15 }] }, 'a break')}
        >
          Add a break
        </Button>
      </fieldset>
      <fieldset>
        <legend>Who comes, and in what colours</legend>
        {event.roster.map((guest, n) => {
          const change = (part: Partial<typeof guest>): void =>
            set({ roster: event.roster.map((g, k) => (k === n ? { ...g, ...part } : g)) }, 'roster');
          return (
            <div key={n} className="roster-entry">
              <div className="roster-row">
                <input
                  aria-label={`Guests ${n + 1}, name`}
                  key={guest.name}
                  defaultValue={guest.name}
                  maxLength={120}
                  onBlur={(event_) =>
                    event_.target.value.trim() &&
                    event_.target.value !== guest.name &&
                    change({ name: event_.target.value.trim() })
                  }
                />
                <input
                  aria-label={`Guests ${n + 1}, people`}
                  className="short"
                  key={guest.people}
                  defaultValue={guest.people}
                  inputMode="numeric"
                  onBlur={(event_) =>
                    change({ people: Math.max(1, Math.min(20000, Math.round(Number(event_.target.value)) || 1)) })
                  }
                />
              </div>
              <div className="roster-row">
                {guest.colours.map((colour, k) => (
                  <span key={k} className="worn">
                    <input
                      type="color"
                      aria-label={`Guests ${n + 1}, colour ${k + 1}`}
                      value={`#${colour}`}
                      onChange={(event_) =>
                        change({ colours: guest.colours.map((c, m) => (m === k ? event_.target.value.slice(1) : c)) })
                      }
                    />
                    <button
                      type="button"
                      aria-label={`Remove colour ${k + 1} of ${guest.name}`}
                      onClick={() => change({ colours: guest.colours.filter((_, m) => m !== k) })}
                    >
                      ×
                    </button>
                  </span>
                ))}
                <Button variant="text" onClick={() => change({ colours: [...guest.colours, '808080'].slice(0, 12) })}>
                  Add a colour
                </Button>
                <Button
                  variant="text"
                  onClick={() => set({ roster: event.roster.filter((_, k) => k !== n) }, 'roster')}
                >
                  Remove
                </Button>
              </div>
            </div>
          );
        })}
        <Button
          variant="text"
          onClick={() =>
            set(
              {
                roster: [
                  ...event.roster,
                  { name: `Guests ${event.roster.length + 1}`, colours: ['808080'], people: 10 },
                ],
              },
              'roster',
            )
          }
        >
          Add guests
        </Button>
      </fieldset>
    </>
  );
}
