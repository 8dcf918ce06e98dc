import { Button } from '@mui/material';
import type { ReactNode } from 'react';
import type { LibraryItem } from '../../../contract/index.ts';
import {
  cameraModels,
  diffusions,
  gels,
  lampFrom,
  lampKinds,
  lampModels,
  lampRoles,
  materials,
  outputUnits,
  personAt,
  placeFacts,
  screenColours,
  screenReflectance,
  supplies,
  type Lamp,
  type Plan,
  type Units,
  type Vec,
} from '../../../core/plan/index.ts';
import { Day } from './DayForm.tsx';
import { NumberField } from './NumberField.tsx';
import { thingFacts, thingsOf, type ThingId } from './things.ts';

interface Props {
  plan: Plan;
  units: Units;
  chosen: ThingId;
  library: LibraryItem[];
  onChoose: (id: ThingId) => void;
  onChange: (plan: Plan, label: string) => void;
  onLibrary: () => void;
}

/** The list of things in the set, and the numbers of the chosen one. */
export function ThingForm(props: Props) {
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
      <ul className="things" aria-label="Things in the set">
        {thingsOf(plan).map(({ id, name }) => (
          <li key={id}>
            <button type="button" aria-current={chosen === id} onClick={() => onChoose(id)}>
              {name}
            </button>
          </li>
        ))}
        <li>
          <Button variant="text" onClick={addLamp}>
            Add a lamp
          </Button>
          <Button variant="text" onClick={addPerson}>
            Add a person
          </Button>
        </li>
      </ul>
      <section className="thing-form" aria-label="Numbers of what is chosen">
        <Chosen {...props} />
      </section>
    </>
  );
}

function Chosen(props: Props) {
  const { chosen, plan } = props;
  const [kind, key] = chosen.split(':');
  if (kind === 'lamp') {
    const lamp = plan.lamps.find((l) => l.id === key);
    return lamp ? <LampForm {...props} lamp={lamp} /> : null;
  }
  if (kind === 'person') return <PersonForm {...props} id={key} />;
  if (kind === 'screen') return <ScreenForm {...props} />;
  if (kind === 'camera') return <CameraForm {...props} />;
  if (kind === 'day') return <Day {...props} />;
  if (kind === 'power') return <PowerForm {...props} />;
  return <RoomForm {...props} />;
}

/** All numbers of an object that the facts know. */
function Numbers<T extends object>({
  facts,
  of,
  units,
  label,
  onChange,
  only,
  without = [],
}: {
  facts: Record<string, (typeof thingFacts)['room'][string]>;
  of: T;
  units: Units;
  label: string;
  onChange: (value: T, label: string) => void;
  only?: string[];
  without?: string[];
}) {
  const values = of as Record<string, number>;
  return (
    <div className="fields">
      {Object.entries(facts)
        .filter(([name]) => (only ? only.includes(name) : !without.includes(name)))
        .map(([name, fact]) => (
          <NumberField
            key={name}
            fact={fact}
            value={values[name]}
            units={units}
            onChange={(value) => onChange({ ...of, [name]: value }, `${fact.label.toLowerCase()} of ${label}`)}
          />
        ))}
    </div>
  );
}

export function Choice({
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
  const entries = Array.isArray(options) ? options.map((name: string) => [name, name]) : Object.entries(options);
  return (
    <label className="choice">
      {label}
      <select value={value} onChange={(event) => onChange(event.target.value)}>
        {!entries.some(([key]) => key === value) && <option value={value}>{value}</option>}
        {entries.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Takes all numbers of a library entry but its name. */
function FromLibrary<T extends { name: string }>({
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
  return <Choice label="Take from the library" value="" options={['', ...models.map((m) => m.name)]} onChange={take} />;
}

function Name({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  return (
    <input
      className="name-field"
      aria-label="Name"
      key={value}
      defaultValue={value}
      maxLength={120}
      onBlur={(event) =>
        event.target.value.trim()
          ? event.target.value.trim() !== value && onChange(event.target.value.trim())
          : (event.target.value = value)
      }
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

function PlaceFields({
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
    <fieldset>
      <legend>{title}</legend>
      <div className="fields">
        {(['x', 'y', 'z'] as const).map((axis) => (
          <NumberField
            key={axis}
            fact={placeFacts[axis]}
            value={place[axis]}
            units={units}
            onChange={(value) => onChange({ ...place, [axis]: value })}
          />
        ))}
      </div>
    </fieldset>
  );
}

function LampForm({ plan, units, lamp, library, onChange, onChoose, onLibrary }: Props & { lamp: Lamp }) {
  const set = (change: Partial<Lamp>, what: string): void =>
    onChange(
      { ...plan, lamps: plan.lamps.map((l) => (l.id === lamp.id ? { ...l, ...change } : l)) },
      `${what} of ${lamp.name}`,
    );
  const models = [...lampModels, ...library.flatMap(({ item }) => (item.kind === 'lamp' ? [item.entry] : []))];
  return (
    <>
      <Name value={lamp.name} onChange={(name) => set({ name }, 'name')} />
      <FromLibrary models={models} onTake={(model) => set(model, 'model')} />
      <Choice
        label="For"
        value={lamp.role}
        options={lampRoles}
        onChange={(role) => set({ role: role as Lamp['role'] }, 'purpose')}
      />
      <Choice
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
      <Choice
        label="Output in"
        value={lamp.unit}
        options={outputUnits}
        onChange={(unit) => set({ unit: unit as Lamp['unit'] }, 'unit')}
      />
      <Choice label="Gel" value={lamp.gel} options={gels.map((g) => g.name)} onChange={(gel) => set({ gel }, 'gel')} />
      <Choice
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
      <Choice
        label="Circuit"
        value={lamp.circuit}
        options={{ '': 'battery or none', ...Object.fromEntries(plan.circuits.map((c) => [c.name, c.name])) }}
        onChange={(circuit) => set({ circuit }, 'circuit')}
      />
      <Choice
        label="Is"
        value={lamp.supply}
        options={supplies}
        onChange={(supply) => set({ supply: supply as Lamp['supply'] }, 'supply')}
      />
      <div className="actions">
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
      </div>
    </>
  );
}

function PersonForm({ plan, units, id, onChange, onChoose }: Props & { id: string }) {
  const person = plan.people.find((p) => p.id === id);
  if (!person) return null;
  const put = (value: typeof person, label: string): void =>
    onChange(
      { ...plan, people: plan.people.map((p) => (p.id === id ? { ...value, count: Math.round(value.count) } : p)) },
      label,
    );
  return (
    <>
      <Name value={person.name} onChange={(name) => put({ ...person, name }, 'name of a person')} />
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

function ScreenForm({ plan, units, library, onChange, onLibrary }: Props) {
  const { screen } = plan;
  const set = (change: Partial<Plan['screen']>, label: string, more: Partial<Plan> = {}): void =>
    onChange({ ...plan, ...more, screen: { ...screen, ...change } }, label);
  const own = library.flatMap(({ item }) => (item.kind === 'material' ? [item.entry] : []));
  const all = [...materials, ...own];
  const note = [...plan.materials, ...all].find((m) => m.name === screen.material)?.note;
  return (
    <>
      <Choice
        label="Colour"
        value={screen.colour}
        options={screenColours}
        onChange={(colour) =>
          set(
            { colour: colour as Plan['screen']['colour'], ...screenReflectance[colour as Plan['screen']['colour']] },
            'colour of the screen',
          )
        }
      />
      <Choice
        label="Material"
        value={screen.material}
        options={all.map((m) => m.name)}
        onChange={(name) => {
          const material = all.find((m) => m.name === name);
          if (!material) return;
          const { gloss, wrinklePeriod, wrinkleDepth } = material;
          set(
            { material: name, gloss, wrinklePeriod, wrinkleDepth },
            'material of the screen',
            materials.includes(material)
              ? {}
              : { materials: [...plan.materials.filter((m) => m.name !== name), material] },
          );
        }}
      />
      {note && <p className="quiet">{note}</p>}
      <Choice
        label="Is"
        value={screen.supply}
        options={supplies}
        onChange={(supply) => set({ supply: supply as Plan['screen']['supply'] }, 'supply of the screen')}
      />
      <Numbers
        facts={thingFacts.screen}
        of={screen}
        units={units}
        label="the screen"
        onChange={(value, label) => onChange({ ...plan, screen: value }, label)}
        without={plan.room.outdoors ? [] : ['base', 'ballast']}
      />
      <Button variant="text" onClick={onLibrary}>
        Keep the material in the library
      </Button>
    </>
  );
}

function CameraForm({ plan, units, library, onChange, onLibrary }: Props) {
  const { camera } = plan;
  const set = (change: Partial<Plan['camera']>, label: string): void =>
    onChange({ ...plan, camera: { ...camera, ...change } }, label);
  const models = [...cameraModels, ...library.flatMap(({ item }) => (item.kind === 'camera' ? [item.entry] : []))];
  return (
    <>
      <FromLibrary models={models} onTake={(model) => set(model, 'camera')} />
      <Numbers
        facts={thingFacts.camera}
        of={camera}
        units={units}
        label="the camera"
        only={['focal', 'aperture', 'shutter', 'iso', 'tilt', 'pan']}
        onChange={(value, label) => onChange({ ...plan, camera: value }, label)}
      />
      <PlaceFields
        title="Lens at"
        place={camera.position}
        units={units}
        onChange={(position) => set({ position: { ...position, z: Math.max(0.3, position.z) } }, 'place of the camera')}
      />
      <Choice
        label="Writes"
        value={camera.file}
        options={{ jpeg: 'JPEG', '16-bit': '16 bit or raw' }}
        onChange={(file) => set({ file: file as Plan['camera']['file'] }, 'file of the camera')}
      />
      <Numbers
        facts={thingFacts.camera}
        of={camera}
        units={units}
        label="the camera"
        only={['sensorWidth', 'sensorHeight', 'pixelsAcross', 'pixelsDown']}
        onChange={(value, label) =>
          onChange(
            {
              ...plan,
              camera: {
                ...value,
                pixelsAcross: Math.round(value.pixelsAcross),
                pixelsDown: Math.round(value.pixelsDown),
              },
            },
            label,
          )
        }
      />
      <Button variant="text" onClick={onLibrary}>
        Keep in the library
      </Button>
    </>
  );
}

function RoomForm({ plan, units, onChange }: Props) {
  const outdoors = ['latitude', 'longitude', 'utcOffset', 'facing', 'wind'];
  const put = (room: Plan['room'], label: string): void => onChange({ ...plan, room }, label);
  return (
    <>
      <Choice
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

function PowerForm({ plan, units, onChange }: Props) {
  const put = (circuits: Plan['circuits'], label: string, lamps = plan.lamps): void =>
    onChange({ ...plan, circuits, lamps }, label);
  return (
    <>
      {plan.circuits.map((circuit, n) => (
        <Section key={n} title="">
          <Name
            value={circuit.name}
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

export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset>
      {title && <legend>{title}</legend>}
      {children}
    </fieldset>
  );
}
