import { FormLabel, Box } from '@mui/material';
import type { ReactNode } from 'react';
import { fieldUnit, placeFacts, type Fact, type Units, type Vec } from '../../../core/plan/index.ts';
import { Choice } from '../../shared/Choice.tsx';
import { Fields } from '../../shared/layout.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import type { LibraryItem } from '../../../contract/index.ts';
import type { Plan } from '../../../core/plan/index.ts';
import type { ThingId } from './things.ts';

/** What every form of a thing works with. */
export interface ThingProps {
  plan: Plan;
  units: Units;
  chosen: ThingId;
  library: LibraryItem[];
  onChoose: (id: ThingId) => void;
  onChange: (plan: Plan, label: string) => void;
  onLibrary: () => void;
}

/** A number of a plan in the photographer's own units. */
export function FactField({
  fact,
  value,
  units,
  onChange,
}: {
  fact: Fact;
  value: number;
  units: Units;
  onChange: (value: number) => void;
}) {
  const { unit, factor, digits } = fieldUnit(fact, units);
  const { label, min, max, step } = fact;
  return <NumberField {...{ label, unit, value, min, max, step, factor, digits, onChange }} />;
}

/** All numbers of an object that the facts know. */
export function Numbers<T extends object>({
  facts,
  of,
  units,
  label,
  onChange,
  only,
  without = [],
}: {
  facts: Record<string, Fact>;
  of: T;
  units: Units;
  label: string;
  onChange: (value: T, label: string) => void;
  only?: string[];
  without?: string[];
}) {
  const values = of as Record<string, number>;
  return (
    <Fields as="div">
      {Object.entries(facts)
        .filter(([name]) => (only ? only.includes(name) : !without.includes(name)))
        .map(([name, fact]) => (
          <FactField
            key={name}
            fact={fact}
            value={values[name]}
            units={units}
            onChange={(value) => onChange({ ...of, [name]: value }, `${fact.label.toLowerCase()} of ${label}`)}
          />
        ))}
    </Fields>
  );
}

/** One of a table's words, or of a list of names. What is chosen stands in it even where the table does not know it. */
export function WordChoice({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: Record<string, string> | readonly string[];
  onChange: (value: string) => void;
}) {
  const known = Array.isArray(options)
    ? options.map((name: string) => ({ value: name, title: name }))
    : Object.entries(options).map(([key, title]) => ({ value: key, title: title as string }));
  const all = known.some((option) => option.value === value) ? known : [{ value, title: value }, ...known];
  return <Choice label={label} value={value} options={all} onChange={onChange} />;
}

/** Takes all numbers of a library entry but its name. */
export function FromLibrary<T extends { name: string }>({
  models,
  onTake,
}: {
  models: T[];
  onTake: (model: Omit<T, 'name'>) => void;
}) {
  const take = (chosen: string): void => {
    const model = models.find((m) => m.name === chosen);
    if (!model) return;
    const { name: _, ...rest } = model;
    onTake(rest);
  };
  return (
    <WordChoice label="Take from the library" value="" options={['', ...models.map((m) => m.name)]} onChange={take} />
  );
}

export function PlaceFields({
  title,
  place,
  units,
  onChange,
}: {
  title: string;
  place: Vec;
  units: Units;
  onChange: (place: Vec) => void;
}) {
  return (
    <Section title={title}>
      <Fields as="div">
        {(['x', 'y', 'z'] as const).map((axis) => (
          <FactField
            key={axis}
            fact={placeFacts[axis]}
            value={place[axis]}
            units={units}
            onChange={(value) => onChange({ ...place, [axis]: value })}
          />
        ))}
      </Fields>
    </Section>
  );
}

/** Fields that belong together. */
export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="fieldset" sx={{ borderTop: '1px solid', borderColor: 'divider', pt: 0.4, minWidth: 0 }}>
      {title && (
        <FormLabel component="legend" sx={{ fontWeight: 600, pr: 0.75 }}>
          {title}
        </FormLabel>
      )}
      {children}
    </Box>
  );
}
