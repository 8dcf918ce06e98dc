import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test, vi } from 'vitest';
import type { PlanRow } from '../../../contract/index.ts';
import { somePlanRow, someSetup } from '../../../contract/testing/items.ts';
import { startingPlan, type Plan } from '../../../core/plan/index.ts';
import { Questioner } from '../../shared/ask.tsx';
import { useStore } from '../../state/store.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { PlanBar } from './PlanBar.tsx';
import { useUnits } from './useUnits.ts';

/** The planned sets: new, copied, imported, removed, and what each was built as. */

const hall = startingPlan('Hall', '2026-06-13');
const row = (id: number, plan: Plan): PlanRow => somePlanRow({ id, plan });
const rows = [row(1, hall), row(2, { ...hall, name: 'Tent' })];
const chosen = vi.fn();
let heard: Asked[];
beforeEach(() => {
  chosen.mockClear();
  useUnits.setState({ units: 'metric' });
  useStore.setState({ setups: [someSetup({ id: 4, name: 'Window' })], problem: null });
  heard = standInServer(({ method, body }) =>
    method === 'DELETE' ? null : { ...row(7, hall), ...(body as Partial<PlanRow>) },
  );
});
function show(all = rows, current: PlanRow | undefined = all[0]): void {
  render(
    <MemoryRouter>
      <PlanBar shootId={1} date="2026-06-13" rows={all} row={current} onChoose={chosen} />
      <Questioner />
    </MemoryRouter>,
  );
}
const give = (name: string, text: string): void => {
  const file = new File([text], name, { type: 'application/json' });
  fireEvent.change(screen.getByLabelText('Plan file'), { target: { files: [file] } });
};

test('plans stand side by side; a press opens one', () => {
  show();
  const tabs = within(screen.getByRole('group', { name: 'Plans' })).getAllByRole('button');
  expect(tabs.map((tab) => [tab.textContent, tab.getAttribute('aria-pressed')])).toEqual([
    ['Hall', 'true'],
    ['Tent', 'false'],
  ]);
  fireEvent.click(tabs[1]);
  expect(chosen).toHaveBeenCalledWith(2);
});

test('a new plan begins on the shoot’s day and is opened', async () => {
  show();
  fireEvent.click(screen.getByRole('button', { name: 'New plan' }));
  await waitFor(() => expect(chosen).toHaveBeenCalledWith(7));
  expect(heard[0]).toMatchObject({
    method: 'POST',
    path: '/api/shoots/1/plans',
    body: { plan: { name: 'New plan', event: { date: '2026-06-13' } }, setupId: null },
  });
});

test('a copy says that it is one, however long the name', async () => {
  const long = row(1, { ...hall, name: 'n'.repeat(120) });
  show([long]);
  fireEvent.click(screen.getByRole('button', { name: 'Copy' }));
  await expect.poll(() => heard).toHaveLength(1);
  const { name } = (heard[0].body as { plan: Plan }).plan;
  expect(name.endsWith(', copy')).toBe(true);
  expect(name.length).toBeLessThanOrEqual(120);
});

test('one plan alone is compared with nothing; two are', () => {
  show([rows[0]]);
  expect(screen.queryByRole('link', { name: 'Compare' })).toBeNull();
});

test('compared are the open one and another; sheet and export are its own', () => {
  show(rows, rows[1]);
  expect(screen.getByRole('link', { name: 'Compare' }).getAttribute('href')).toBe('/compare?a=2&b=1');
  expect(screen.getByRole('link', { name: 'Set sheet' }).getAttribute('href')).toBe('/2/sheet');
  expect(screen.getByRole('link', { name: 'Export' }).getAttribute('href')).toBe('/api/plans/2/plan.json?units=metric');
});

test('what a plan was built as is told to the server; none as well', async () => {
  show();
  const built = screen.getByLabelText('Built as');
  fireEvent.change(built, { target: { value: '4' } });
  await expect.poll(() => heard.at(-1)).toEqual({ method: 'PATCH', path: '/api/plans/1', body: { setupId: 4 } });
  fireEvent.change(built, { target: { value: '' } });
  await expect.poll(() => heard.at(-1)?.body).toEqual({ setupId: null });
});

test('removing asks first, and says what stays', async () => {
  show();
  fireEvent.click(screen.getByRole('button', { name: 'Remove the plan' }));
  const question = await screen.findByRole('dialog');
  expect(question.textContent).toContain('Remove the plan “Hall”?');
  expect(question.textContent).toContain('Frames and rounds stay.');
  expect(heard).toEqual([]);
  fireEvent.click(screen.getByRole('button', { name: 'Remove it' }));
  await expect.poll(() => heard).toEqual([{ method: 'DELETE', path: '/api/plans/1', body: undefined }]);
});

test('a plan’s file is taken in and opened', async () => {
  show();
  give('hall.json', JSON.stringify({ ...hall, name: 'From the other machine' }));
  await waitFor(() => expect(chosen).toHaveBeenCalledWith(7));
  expect((heard[0].body as { plan: Plan }).plan.name).toBe('From the other machine');
});

test('a file that is none is refused by name; one with a wrong field by that field; a good one clears the complaint', async () => {
  show();
  give('notes.json', 'buy batteries');
  expect(await screen.findByText(/^notes\.json is not JSON/)).toBeTruthy();
  give('far.json', JSON.stringify({ ...hall, camera: { ...hall.camera, focal: -3 } }));
  expect(await screen.findByText(/^far\.json: camera\.focal: /)).toBeTruthy();
  expect(heard).toEqual([]);
  give('hall.json', JSON.stringify(hall));
  await waitFor(() => expect(screen.queryByText(/far\.json/)).toBeNull());
});

test('units are this browser’s, and stay', () => {
  show();
  fireEvent.change(screen.getByLabelText('Units'), { target: { value: 'imperial' } });
  expect(useUnits.getState().units).toBe('imperial');
  expect(localStorage.getItem('silent-lawn-units')).toContain('imperial');
});
