import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import type { LibraryItem } from '../../../contract/index.ts';
import { lampModels, materials, startingPlan } from '../../../core/plan/index.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { LibraryDialog } from './LibraryDialog.tsx';
import { entryOf } from './libraryEntry.ts';
import type { ThingId } from './things.ts';

/** What is kept of one's own: under which name, with which numbers, and what takes the place of what. */

const plan = startingPlan('Hall', '2026-06-13');
const changed = vi.fn();
const closed = vi.fn();
const panel: LibraryItem = { id: 3, item: { kind: 'lamp', entry: { ...lampModels[0], name: 'Loft panel' } } };

let heard: Asked[];
beforeEach(() => {
  changed.mockClear();
  heard = standInServer(({ body }) => ({ id: 9, item: body }));
});
function show(chosen: ThingId, library: LibraryItem[] = []): void {
  render(
    <LibraryDialog
      open
      plan={plan}
      chosen={chosen}
      library={library}
      onClose={closed}
      onChanged={() => {
        changed();
      }}
    />,
  );
}
const keepAs = (label: string, name: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value: name } });
  fireEvent.click(screen.getByRole('button', { name: 'Keep it' }));
};

test('a lamp is kept with its own numbers, without its place', async () => {
  const lamp = plan.lamps[0];
  show(`lamp:${lamp.id}`);
  expect(screen.getByText(/Nothing kept yet/)).toBeTruthy();
  keepAs('Keep the chosen lamp as', ' Window panel ');
  await expect.poll(() => heard).toHaveLength(1);
  const { method, path, body } = heard[0];
  expect([method, path]).toEqual(['POST', '/api/library']);
  const { item } = { item: body as LibraryItem['item'] };
  expect(item).toMatchObject({ kind: 'lamp', entry: { name: 'Window panel', output: lamp.output, beam: lamp.beam } });
  expect(item.entry).not.toHaveProperty('position');
  await waitFor(() => expect(changed).toHaveBeenCalledOnce());
  expect((screen.getByLabelText('Keep the chosen lamp as') as HTMLInputElement).value).toBe('');
});

test('the same name takes the place of what was kept under it', async () => {
  show(`lamp:${plan.lamps[0].id}`, [panel]);
  keepAs('Keep the chosen lamp as', 'Loft panel');
  await expect.poll(() => heard).toHaveLength(1);
  expect(heard[0]).toMatchObject({ method: 'PUT', path: '/api/library/3' });
});

test('the same name of another kind is another thing', async () => {
  show('camera', [panel]);
  keepAs('Keep the chosen camera as', 'Loft panel');
  await expect.poll(() => heard).toHaveLength(1);
  expect(heard[0]).toMatchObject({ method: 'POST', body: { kind: 'camera' } });
});

test('nothing is kept without a name; the field says so', async () => {
  show('camera');
  keepAs('Keep the chosen camera as', '   ');
  expect(await screen.findByText('Give it a name.')).toBeTruthy();
  expect(heard).toEqual([]);
});

test('a material is kept with what it costs, typed with a comma; what is no number is refused at its field', async () => {
  show('screen');
  fireEvent.change(screen.getByLabelText('Price of a square metre'), { target: { value: 'cheap' } });
  keepAs('Keep the chosen material as', 'Felt');
  expect(await screen.findByText('Give a number.')).toBeTruthy();
  expect(heard).toEqual([]);
  fireEvent.change(screen.getByLabelText('Price of a square metre'), { target: { value: '12,5' } });
  fireEvent.click(screen.getByRole('button', { name: 'Keep it' }));
  await expect.poll(() => heard).toHaveLength(1);
  expect(heard[0].body).toMatchObject({ kind: 'material', entry: { name: 'Felt', price: 12.5 } });
});

test('what was kept is listed with its kind and can be removed', async () => {
  show('room', [panel]);
  // Of a room nothing can be kept: only the list is there.
  expect(screen.queryByRole('button', { name: 'Keep it' })).toBeNull();
  expect(screen.getByText('lamp')).toBeTruthy();
  heard = standInServer(() => null);
  fireEvent.click(screen.getByRole('button', { name: 'Remove Loft panel from the library' }));
  await expect.poll(() => heard).toHaveLength(1);
  expect(heard[0]).toMatchObject({ method: 'DELETE', path: '/api/library/3' });
  fireEvent.click(screen.getByRole('button', { name: 'Done' }));
  expect(closed).toHaveBeenCalled();
});

test('entries: of the screen its material with the gloss and wrinkles of now; of people, room and day none', () => {
  const glossy = { ...plan, screen: { ...plan.screen, gloss: 0.21 } };
  const entry = entryOf(glossy, 'screen');
  expect(entry).toMatchObject({ kind: 'material', entry: { gloss: 0.21, name: plan.screen.material } });
  const unknown = entryOf({ ...plan, screen: { ...plan.screen, material: 'gone' } }, 'screen');
  expect(unknown?.entry.name).toBe(materials[0].name);
  for (const id of ['room', 'day', 'power', `person:${plan.people[0].id}`, 'lamp:nobody'] as ThingId[])
    expect(entryOf(plan, id)).toBeUndefined();
});
