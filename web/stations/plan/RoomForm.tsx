import type { Plan } from '../../../core/plan/index.ts';
import { Numbers, Section, WordChoice, type ThingProps } from './fields.tsx';
import { thingFacts } from './things.ts';

/** The numbers of the room or the place outdoors. */
export function RoomForm({ plan, units, onChange }: ThingProps) {
  const outdoors = ['latitude', 'longitude', 'utcOffset', 'facing', 'wind'];
  const put = (room: Plan['room'], label: string): void => onChange({ ...plan, room }, label);
  return (
    <>
      <WordChoice
        label="Is"
        value={plan.room.outdoors ? 'outdoors' : 'indoors'}
        options={['indoors', 'outdoors']}
        onChange={(value) => put({ ...plan.room, outdoors: value === 'outdoors' }, 'indoors or outdoors')}
      />
      <Numbers
        facts={thingFacts.room}
        of={plan.room}
        units={units}
        label="the room"
        onChange={put}
        without={plan.room.outdoors ? ['walls'] : [...outdoors]}
      />
      {!plan.room.outdoors && (
        <Section title="Where the sun comes from">
          <Numbers
            facts={thingFacts.room}
            of={plan.room}
            units={units}
            label="the place"
            onChange={put}
            only={outdoors.filter((name) => name !== 'wind')}
          />
        </Section>
      )}
    </>
  );
}
