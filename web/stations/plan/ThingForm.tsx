import AddIcon from '@mui/icons-material/Add';
import { Button, List, ListItem, ListItemButton, styled } from '@mui/material';
import { lazy, Suspense } from 'react';
import { lampFrom, lampModels, personAt, type Plan } from '../../../core/plan/index.ts';
import { Actions } from '../../shared/layout.tsx';
import { part } from '../../shared/part.ts';
import { CameraForm } from './CameraForm.tsx';
import type { ThingProps } from './fields.tsx';
import { LampForm } from './LampForm.tsx';
import { PersonForm } from './PersonForm.tsx';
import { PowerForm } from './PowerForm.tsx';
import { RoomForm } from './RoomForm.tsx';
import { ScreenForm } from './ScreenForm.tsx';
import { thingsOf, type ThingId } from './things.ts';

// Brings the pickers of dates and times, which only the day needs.
const DayForm = lazy(async () => ({ default: (await part(() => import('./DayForm.tsx'))).DayForm }));

const Form = styled('section')`
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding-block: 8px 20px;
  display: flex;
  flex-direction: column;
  align-items: stretch;
  gap: 6px;
  & > .MuiButton-root {
    align-self: flex-start;
  }
`;

/** The list of things in the set, and the numbers of the chosen one. */
export function ThingForm(props: ThingProps) {
  const { plan, chosen, onChoose, onChange } = props;
  const add = (change: Partial<Plan>, id: ThingId, label: string): void => {
    onChange({ ...plan, ...change }, label);
    onChoose(id);
  };
  const newId = (): string =>
    `n${Math.max(0, ...[...plan.lamps, ...plan.people].map((thing) => Number(/^n(\d+)$/.exec(thing.id)?.[1] ?? 0))) + 1}`;
  const addLamp = (): void => {
    const id = newId();
    const face = plan.people[0];
    const lamp = lampFrom(
      lampModels[0],
      id,
      'fill',
      { x: 1.2, y: 2, z: plan.camera.position.z - 0.8 },
      { x: face?.x ?? 0, y: 1.5, z: face?.z ?? 2 },
      { name: 'New lamp' },
    );
    add({ lamps: [...plan.lamps, lamp] }, `lamp:${id}`, 'add a lamp');
  };
  const addPerson = (): void => {
    const id = newId();
    add(
      { people: [...plan.people, personAt(id, 'Another', 0.6, plan.people[0]?.z ?? 2)] },
      `person:${id}`,
      'add a person',
    );
  };
  return (
    <>
      <List
        aria-label="Things in the set"
        sx={{ maxHeight: 238, overflow: 'auto', borderBlock: 1, borderColor: 'divider', flex: '0 0 auto' }}
      >
        {thingsOf(plan).map(({ id, name }) => (
          <ListItem key={id} disablePadding>
            <ListItemButton
              component="button"
              selected={chosen === id}
              aria-current={chosen === id}
              sx={{ py: 0.2 }}
              onClick={() => onChoose(id)}
            >
              {name}
            </ListItemButton>
          </ListItem>
        ))}
      </List>
      <Actions>
        <Button variant="text" startIcon={<AddIcon />} onClick={addLamp}>
          Add a lamp
        </Button>
        <Button variant="text" startIcon={<AddIcon />} onClick={addPerson}>
          Add a person
        </Button>
      </Actions>
      <Form aria-label="Numbers of what is chosen">
        <Chosen {...props} />
      </Form>
    </>
  );
}

function Chosen(props: ThingProps) {
  const { chosen, plan } = props;
  const [kind, key] = chosen.split(':');
  if (kind === 'lamp') {
    const lamp = plan.lamps.find((l) => l.id === key);
    return lamp ? <LampForm {...props} lamp={lamp} /> : null;
  }
  if (kind === 'person') return <PersonForm {...props} id={key} />;
  if (kind === 'screen') return <ScreenForm {...props} />;
  if (kind === 'camera') return <CameraForm {...props} />;
  if (kind === 'day')
    return (
      <Suspense>
        <DayForm {...props} />
      </Suspense>
    );
  if (kind === 'power') return <PowerForm {...props} />;
  return <RoomForm {...props} />;
}
