import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import type { LibraryItem } from '../../../contract/index.ts';
import { lampModels, materials, screenReflectance, startingPlan, type Plan } from '../../../core/plan/index.ts';
import { ThingForm } from './ThingForm.tsx';
import type { ThingId } from './things.ts';

/** The forms of a plan: what is typed changes that one number of that one thing, under a name that says so. */

const plan = startingPlan('Hall', '2026-06-13');
const changed = vi.fn<(plan: Plan, label: string) => void>();
const chosen = vi.fn<(id: ThingId) => void>();
const library = vi.fn();
beforeEach(() => {
  changed.mockClear();
  chosen.mockClear();
  library.mockClear();
});

function show(id: ThingId, part: Partial<Plan> = {}, kept: LibraryItem[] = []): void {
  render(
    <ThingForm
      plan={{ ...plan, ...part }}
      units="metric"
      chosen={id}
      library={kept}
      onChoose={chosen}
      onChange={changed}
      onLibrary={library}
    />,
  );
}
const form = () => within(screen.getByRole('region', { name: 'Numbers of what is chosen' }));
const type = (label: string | RegExp, text: string): void => {
  const field = form().getByLabelText(label);
  fireEvent.change(field, { target: { value: text } });
  fireEvent.blur(field);
};
const choose = (label: string, value: string): void => {
  fireEvent.change(form().getByLabelText(label), { target: { value } });
};
const last = (): { plan: Plan; label: string } => {
  const [next, label] = changed.mock.lastCall ?? [];
  if (!next || label === undefined) throw new Error('nothing was changed');
  return { plan: next, label };
};

test('the list names everything of the set; a press chooses it', () => {
  show('screen');
  const rows = within(screen.getByRole('list', { name: /set/i })).getAllByRole('button');
  expect(rows.map((row) => row.textContent)).toEqual([
    'Screen',
    ...plan.lamps.map(({ name }) => name),
    ...plan.people.map(({ name }) => name),
    'Camera',
    'Room and place',
    'Circuits',
    'Day and guests',
  ]);
  fireEvent.click(rows[1]);
  expect(chosen).toHaveBeenCalledWith(`lamp:${plan.lamps[0].id}`);
});

test('a lamp and a person are added, and are what is chosen then', () => {
  show('screen');
  fireEvent.click(screen.getByRole('button', { name: 'Add a lamp' }));
  const { lamps } = last().plan;
  expect(lamps).toHaveLength(plan.lamps.length + 1);
  expect(new Set(lamps.map(({ id }) => id)).size).toBe(lamps.length);
  expect(chosen).toHaveBeenLastCalledWith(`lamp:${lamps.at(-1)?.id}`);
  fireEvent.click(screen.getByRole('button', { name: 'Add a person' }));
  const { people } = last().plan;
  expect(people).toHaveLength(plan.people.length + 1);
  expect(chosen).toHaveBeenLastCalledWith(`person:${people.at(-1)?.id}`);
});

test('a lamp: name, purpose, place, gel and circuit, each for itself and for this lamp alone', () => {
  const lamp = plan.lamps[1];
  show(`lamp:${lamp.id}`, { circuits: [{ name: 'Wall', volts: 230, amperes: 16 }] });
  const now = () => last().plan.lamps.find(({ id }) => id === lamp.id);
  type('Name', 'Window side');
  expect(last().label).toBe(`name of ${lamp.name}`);
  expect(now()).toEqual({ ...lamp, name: 'Window side' });
  choose('For', lamp.role === 'screen' ? 'person' : 'screen');
  expect(now()?.role).not.toBe(lamp.role);
  choose('Circuit', 'Wall');
  expect(now()).toEqual({ ...lamp, circuit: 'Wall' });
  const place = within(form().getByRole('group', { name: 'Stands at' })).getAllByRole('spinbutton');
  fireEvent.change(place[1], { target: { value: '2,4' } });
  fireEvent.blur(place[1]);
  expect(now()).toEqual({ ...lamp, position: { ...lamp.position, y: 2.4 } });
  const aim = within(form().getByRole('group', { name: 'Aims at' })).getAllByRole('spinbutton');
  fireEvent.keyDown(aim[0], { key: 'ArrowUp' });
  expect(now()?.position).toEqual(lamp.position);
  expect(now()?.aim.x).toBeGreaterThan(lamp.aim.x);
  for (const { plan: next } of changed.mock.calls.map(([one]) => ({ plan: one })))
    expect(next.lamps.filter(({ id }) => id !== lamp.id)).toEqual(plan.lamps.filter(({ id }) => id !== lamp.id));
});

test('a lamp takes the numbers of a model, its own name and place stay', () => {
  const lamp = plan.lamps[0];
  const kept: LibraryItem = {
    id: 4,
    item: { kind: 'lamp', entry: { ...lampModels[0], name: 'Loft panel', watts: 61 } },
  } as LibraryItem;
  show(`lamp:${lamp.id}`, {}, [kept]);
  choose('Take from the library', 'Loft panel');
  const next = last().plan.lamps[0];
  expect(next).toMatchObject({ id: lamp.id, name: lamp.name, position: lamp.position, aim: lamp.aim, watts: 61 });
  // The empty first line is no model.
  changed.mockClear();
  choose('Take from the library', '');
  expect(changed).not.toHaveBeenCalled();
});

test('a lamp is removed and the screen chosen; it is kept in the library on request', () => {
  const lamp = plan.lamps[0];
  show(`lamp:${lamp.id}`);
  fireEvent.click(form().getByRole('button', { name: 'Keep in the library' }));
  expect(library).toHaveBeenCalledOnce();
  fireEvent.click(form().getByRole('button', { name: 'Remove' }));
  expect(last().plan.lamps).toEqual(plan.lamps.slice(1));
  expect(last().label).toBe(`remove ${lamp.name}`);
  expect(chosen).toHaveBeenCalledWith('screen');
});

test('a person: name, whole numbers of people, removal', () => {
  const person = plan.people[0];
  show(`person:${person.id}`);
  type('Name', 'The bride');
  expect(last().plan.people[0]).toEqual({ ...person, name: 'The bride' });
  const count = form().getByLabelText(/^People/);
  fireEvent.change(count, { target: { value: '2.6' } });
  fireEvent.blur(count);
  expect(last().plan.people[0].count).toBe(3);
  fireEvent.click(form().getByRole('button', { name: 'Remove' }));
  expect(last().plan.people).toEqual([]);
});

test('the screen: a colour brings its reflectance, a material its gloss and wrinkles', () => {
  show('screen');
  const other = plan.screen.colour === 'green' ? 'blue' : 'green';
  choose('Colour', other);
  expect(last().plan.screen).toEqual({ ...plan.screen, colour: other, ...screenReflectance[other] });
  const material = materials.find(({ name }) => name !== plan.screen.material) ?? materials[0];
  choose('Material', material.name);
  const { gloss, wrinklePeriod, wrinkleDepth } = material;
  expect(last().plan.screen).toEqual({
    ...plan.screen,
    material: material.name,
    gloss,
    wrinklePeriod,
    wrinkleDepth,
  });
  // What comes with the product need not be carried along by the plan.
  expect(last().plan.materials).toEqual(plan.materials);
});

test('a material of one’s own goes with the plan, so that another machine knows it', () => {
  const own = { ...materials[0], name: 'Felt from the attic', gloss: 0.01 };
  show('screen', {}, [{ id: 1, item: { kind: 'material', entry: own } } as LibraryItem]);
  choose('Material', own.name);
  expect(last().plan.materials).toContainEqual(own);
  expect(last().plan.screen.material).toBe(own.name);
});

test('base and ballast of a screen are asked outdoors only; walls indoors only', () => {
  show('screen', { room: { ...plan.room, outdoors: true } });
  const outdoors = form().getAllByRole('spinbutton').length;
  expect(form().getByLabelText(/ballast/i)).toBeTruthy();
  cleanup();
  show('screen');
  expect(form().getAllByRole('spinbutton').length).toBe(outdoors - 2);
});

test('the room: outdoors asks for wind, indoors for where the sun comes from beside the walls', () => {
  show('room');
  expect(form().queryByLabelText(/wind/i)).toBeNull();
  expect(form().getByRole('group', { name: 'Where the sun comes from' })).toBeTruthy();
  choose('Is', 'outdoors');
  expect(last().plan.room).toEqual({ ...plan.room, outdoors: true });
});

test('the camera: pixels are whole, its lens does not sink into the floor, a model brings its numbers', () => {
  show('camera');
  const across = form().getByLabelText(/^Pixels across/);
  fireEvent.change(across, { target: { value: '6000.4' } });
  fireEvent.blur(across);
  expect(last().plan.camera.pixelsAcross).toBe(6000);
  const lens = within(form().getByRole('group', { name: 'Lens at' })).getAllByRole('spinbutton');
  fireEvent.change(lens[2], { target: { value: '0' } });
  fireEvent.blur(lens[2]);
  expect(last().plan.camera.position.z).toBe(0.3);
  choose('Writes', plan.camera.file === 'jpeg' ? '16-bit' : 'jpeg');
  expect(last().plan.camera.file).not.toBe(plan.camera.file);
});

test('a circuit renamed takes its lamps along, one removed lets them go', () => {
  const circuits = [
    { name: 'Wall', volts: 230, amperes: 16 },
    { name: 'Stage', volts: 230, amperes: 32 },
  ];
  const lamps = plan.lamps.map((lamp, n) => ({ ...lamp, circuit: n ? 'Stage' : 'Wall' }));
  show('power', { circuits, lamps });
  const names = form().getAllByLabelText('Name');
  fireEvent.change(names[1], { target: { value: 'Balcony' } });
  fireEvent.blur(names[1]);
  expect(last().plan.circuits.map(({ name }) => name)).toEqual(['Wall', 'Balcony']);
  expect(last().plan.lamps.map(({ circuit }) => circuit)).toEqual(lamps.map((_, n) => (n ? 'Balcony' : 'Wall')));
  fireEvent.click(form().getAllByRole('button', { name: 'Remove' })[0]);
  expect(last().plan.circuits.map(({ name }) => name)).toEqual(['Stage']);
  expect(last().plan.lamps.map(({ circuit }) => circuit)).toEqual(lamps.map((_, n) => (n ? 'Stage' : '')));
  fireEvent.click(form().getByRole('button', { name: 'Add a circuit' }));
  expect(last().plan.circuits).toHaveLength(3);
});

test('a number out of its range is held at the end of it, and the field says the range', () => {
  show('camera');
  const aperture = form().getByLabelText(/^Aperture/);
  fireEvent.change(aperture, { target: { value: '900' } });
  fireEvent.blur(aperture);
  const most = Number(aperture.getAttribute('aria-valuemax'));
  expect(last().plan.camera.aperture).toBe(most);
  expect(form().getByRole('status').textContent).toContain(`to ${most}`);
});
