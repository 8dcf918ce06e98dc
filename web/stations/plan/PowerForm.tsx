import { Button } from '@mui/material';
import type { Plan } from '../../../core/plan/index.ts';
import { NameField } from '../../shared/NameField.tsx';
import { Numbers, Section, type ThingProps } from './fields.tsx';
import { thingFacts } from './things.ts';

/** The circuits that lamps hang on. */
export function PowerForm({ plan, units, onChange }: ThingProps) {
  const put = (circuits: Plan['circuits'], label: string, lamps = plan.lamps): void =>
    onChange({ ...plan, circuits, lamps }, label);
  return (
    <>
      {plan.circuits.map((circuit, n) => (
        <Section key={n} title="">
          <NameField
            label="Name"
            size={13}
            name={circuit.name}
            onChange={(name) =>
              put(
                plan.circuits.map((c, k) => (k === n ? { ...c, name } : c)),
                'name of a circuit',
                plan.lamps.map((lamp) => (lamp.circuit === circuit.name ? { ...lamp, circuit: name } : lamp)),
              )
            }
          />
          <Numbers
            facts={thingFacts.circuit}
            of={circuit}
            units={units}
            label={circuit.name}
            onChange={(value, label) =>
              put(
                plan.circuits.map((c, k) => (k === n ? value : c)),
                label,
              )
            }
          />
          <Button
            variant="text"
            onClick={() =>
              put(
                plan.circuits.filter((_, k) => k !== n),
                'remove a circuit',
                plan.lamps.map((lamp) => (lamp.circuit === circuit.name ? { ...lamp, circuit: '' } : lamp)),
              )
            }
          >
            Remove
          </Button>
        </Section>
      ))}
      <Button
        variant="text"
        onClick={() =>
          put(
            [...plan.circuits, { name: `Circuit ${plan.circuits.length + 1}`, volts: 230, amperes: 16 }],
            'add a circuit',
          )
        }
      >
        Add a circuit
      </Button>
      <p className="quiet">
        A circuit carries volts × amperes; keep to four fifths of it for a long time. What is fixed to a building is for
        an electrician.
      </p>
    </>
  );
}
