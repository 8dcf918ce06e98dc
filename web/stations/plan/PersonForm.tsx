import { Button } from '@mui/material';
import { NameField } from '../../shared/NameField.tsx';
import { Numbers, type ThingProps } from './fields.tsx';
import { thingFacts } from './things.ts';

/** The numbers of somebody who stands there. */
export function PersonForm({ plan, units, id, onChange, onChoose }: ThingProps & { id: string }) {
  const person = plan.people.find((p) => p.id === id);
  if (!person) return null;
  const put = (value: typeof person, label: string): void =>
    onChange(
      { ...plan, people: plan.people.map((p) => (p.id === id ? { ...value, count: Math.round(value.count) } : p)) },
      label,
    );
  return (
    <>
      <NameField
        label="Name"
        size={13}
        name={person.name}
        onChange={(name) => put({ ...person, name }, 'name of a person')}
      />
      <Numbers facts={thingFacts.person} of={person} units={units} label={person.name} onChange={put} />
      <Button
        variant="text"
        onClick={() => {
          onChange({ ...plan, people: plan.people.filter((p) => p.id !== id) }, `remove ${person.name}`);
          onChoose('screen');
        }}
      >
        Remove
      </Button>
    </>
  );
}
