import { Button } from '@mui/material';
import {
  diffusions,
  gels,
  lampKinds,
  lampModels,
  lampRoles,
  outputUnits,
  supplies,
  type Lamp,
} from '../../../core/plan/index.ts';
import { Actions } from '../../shared/layout.tsx';
import { NameField } from '../../shared/NameField.tsx';
import { FromLibrary, Numbers, PlaceFields, WordChoice, type ThingProps } from './fields.tsx';
import { thingFacts } from './things.ts';

/** The numbers of a lamp. */
export function LampForm({ plan, units, lamp, library, onChange, onChoose, onLibrary }: ThingProps & { lamp: Lamp }) {
  const set = (change: Partial<Lamp>, what: string): void =>
    onChange(
      { ...plan, lamps: plan.lamps.map((l) => (l.id === lamp.id ? { ...l, ...change } : l)) },
      `${what} of ${lamp.name}`,
    );
  const models = [...lampModels, ...library.flatMap(({ item }) => (item.kind === 'lamp' ? [item.entry] : []))];
  return (
    <>
      <NameField label="Name" size={13} name={lamp.name} onChange={(name) => set({ name }, 'name')} />
      <FromLibrary models={models} onTake={(model) => set(model, 'model')} />
      <WordChoice
        label="For"
        value={lamp.role}
        options={lampRoles}
        onChange={(role) => set({ role: role as Lamp['role'] }, 'purpose')}
      />
      <WordChoice
        label="Kind"
        value={lamp.kind}
        options={lampKinds}
        onChange={(kind) => set({ kind: kind as Lamp['kind'] }, 'kind')}
      />
      <PlaceFields
        title="Stands at"
        place={lamp.position}
        units={units}
        onChange={(position) => set({ position }, 'place')}
      />
      <PlaceFields title="Aims at" place={lamp.aim} units={units} onChange={(aim) => set({ aim }, 'aim')} />
      <WordChoice
        label="Output in"
        value={lamp.unit}
        options={outputUnits}
        onChange={(unit) => set({ unit: unit as Lamp['unit'] }, 'unit')}
      />
      <WordChoice
        label="Gel"
        value={lamp.gel}
        options={gels.map((g) => g.name)}
        onChange={(gel) => set({ gel }, 'gel')}
      />
      <WordChoice
        label="Diffusion"
        value={lamp.diffusion}
        options={diffusions.map((d) => d.name)}
        onChange={(diffusion) => set({ diffusion }, 'diffusion')}
      />
      <Numbers
        facts={thingFacts.lamp}
        of={lamp}
        units={units}
        label={lamp.name}
        onChange={(value, label) =>
          onChange({ ...plan, lamps: plan.lamps.map((l) => (l.id === lamp.id ? value : l)) }, label)
        }
      />
      <WordChoice
        label="Circuit"
        value={lamp.circuit}
        options={{ '': 'battery or none', ...Object.fromEntries(plan.circuits.map((c) => [c.name, c.name])) }}
        onChange={(circuit) => set({ circuit }, 'circuit')}
      />
      <WordChoice
        label="Is"
        value={lamp.supply}
        options={supplies}
        onChange={(supply) => set({ supply: supply as Lamp['supply'] }, 'supply')}
      />
      <Actions>
        <Button variant="text" onClick={onLibrary}>
          Keep in the library
        </Button>
        <Button
          variant="text"
          onClick={() => {
            onChange({ ...plan, lamps: plan.lamps.filter((l) => l.id !== lamp.id) }, `remove ${lamp.name}`);
            onChoose('screen');
          }}
        >
          Remove
        </Button>
      </Actions>
    </>
  );
}
