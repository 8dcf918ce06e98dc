import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { MemoryRouter, Route, Routes, useParams } from 'react-router';
import { beforeEach, expect, test } from 'vitest';
import { BACK_MINUTES, type Shoot } from '../../../contract/index.ts';
import { someShoot } from '../../../contract/testing/items.ts';
import { Questioner } from '../../shared/ask.tsx';
import { useStore } from '../../state/store.ts';
import { silentEvents, standInServer, type Asked } from '../../testing/server.ts';
import { ShootsPage } from './ShootsPage.tsx';

/** The first page: every shoot, what goes with one that is removed, and how it comes back. */

const pier = someShoot({ id: 1, name: 'Pier', frames: 40, cut: 38, plans: 2, handedOver: 1 });
const empty = someShoot({ id: 2, name: 'Quay' });
const sample = someShoot({ id: 3, name: 'Saltmarsh', sample: true, frames: 48 });

let shoots: Shoot[];
let sampleHere: boolean;
let heard: Asked[];
beforeEach(() => {
  shoots = [pier, empty];
  sampleHere = true;
  useStore.setState({ shoots: null, problem: null });
  silentEvents();
  heard = standInServer(({ method, path, body }) => {
    const id = Number(/shoots\/(\d+)/.exec(path)?.[1]);
    const one = shoots.find((shoot) => shoot.id === id) ?? empty;
    if (path === '/api/shoots' && method === 'POST') return { ...someShoot({ id: 9 }), ...(body as object) };
    if (path === '/api/sample') sampleHere = true;
    if (method === 'DELETE') {
      shoots = shoots.map((shoot) => (shoot.id === id ? { ...shoot, removedAt: '2026-06-13T10:00:00.000Z' } : shoot));
      return null;
    }
    if (path.endsWith('/return')) shoots = shoots.map((shoot) => ({ ...shoot, removedAt: null }));
    if (method === 'GET' || path === '/api/sample') return { shoots, sampleHere, cutSeconds: 2 };
    return one;
  });
});
const Opened = () => <p>opened {useParams().id}</p>;
function show(): void {
  render(
    <MemoryRouter>
      <Routes>
        <Route path="/" element={<ShootsPage />} />
        <Route path="/shoots/:id/gather" element={<Opened />} />
      </Routes>
      <Questioner />
    </MemoryRouter>,
  );
}
const asked = (method: string): Asked | undefined => heard.findLast((one) => one.method === method);
async function fromMenu(shoot: string, item: string): Promise<void> {
  fireEvent.click(await screen.findByRole('button', { name: `More for ${shoot}` }));
  fireEvent.click(await screen.findByRole('menuitem', { name: item }));
}

test('every shoot has its card; where there is none it is said what a shoot is', async () => {
  show();
  expect(screen.getByText('Reading the shoots …')).toBeTruthy();
  expect(await screen.findByRole('link', { name: 'Pier' })).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Quay' })).toBeTruthy();
  expect(screen.queryByText('No shoots yet.')).toBeNull();
});

test('no shoots: what one is, and the sample can be brought back', async () => {
  shoots = [];
  sampleHere = false;
  show();
  expect(await screen.findByText('No shoots yet.')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Bring the sample back' }));
  await expect.poll(() => asked('POST')?.path).toBe('/api/sample');
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Bring the sample back' })).toBeNull());
});

test('a new shoot is made by its dialog and opened at Gather', async () => {
  show();
  fireEvent.click(await screen.findByRole('button', { name: 'New shoot' }));
  const name = await screen.findByLabelText('Name');
  fireEvent.change(name, { target: { value: 'Harbour' } });
  fireEvent.click(screen.getByRole('button', { name: 'Make the shoot' }));
  expect(await screen.findByText('opened 9')).toBeTruthy();
  expect(asked('POST')).toMatchObject({ path: '/api/shoots', body: { name: 'Harbour' } });
});

test('removing names what goes with it; “Leave it” removes nothing', async () => {
  show();
  await fromMenu('Pier', 'Remove');
  const question = await screen.findByRole('dialog');
  expect(question.textContent).toContain('40 frames with 38 cuts, 2 plans, 1 hand-over');
  expect(question.textContent).toContain(`For ${BACK_MINUTES} minutes`);
  fireEvent.click(screen.getByRole('button', { name: 'Leave it' }));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(asked('DELETE')).toBeUndefined();
});

test('an empty shoot is said to be empty; of the sample, that it can be made anew', async () => {
  shoots = [empty, sample];
  show();
  await fromMenu('Quay', 'Remove');
  expect((await screen.findByRole('dialog')).textContent).toContain('It is empty.');
  fireEvent.click(screen.getByRole('button', { name: 'Leave it' }));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  await fromMenu('Saltmarsh', 'Remove');
  expect((await screen.findByRole('dialog')).textContent).toContain('can always be made anew');
  fireEvent.click(screen.getByRole('button', { name: 'Leave it' }));
});

test('what was removed can be taken back from the notice and from the page', async () => {
  show();
  await fromMenu('Pier', 'Remove');
  fireEvent.click(await screen.findByRole('button', { name: 'Remove it' }));
  expect(await screen.findByText('“Pier” is removed')).toBeTruthy();
  expect(screen.queryByRole('link', { name: 'Pier' })).toBeNull();
  expect(await screen.findByRole('button', { name: 'Bring Pier back' })).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Take back' }));
  expect(await screen.findByRole('link', { name: 'Pier' })).toBeTruthy();
  expect(asked('POST')?.path).toBe('/api/shoots/1/return');
});

test('renaming opens with what it is called now and sends what was changed', async () => {
  show();
  await fromMenu('Quay', 'Name, date, place');
  const name = (await screen.findByLabelText('Name')) as HTMLInputElement;
  expect(name.value).toBe('Quay');
  fireEvent.change(name, { target: { value: 'Old quay' } });
  fireEvent.click(screen.getByRole('button', { name: 'Keep it' }));
  await expect.poll(() => asked('PATCH')).toMatchObject({ path: '/api/shoots/2', body: { name: 'Old quay' } });
});

test('duplicating asks for a copy and reads the list anew', async () => {
  show();
  await fromMenu('Pier', 'Duplicate its plans and settings');
  await expect.poll(() => asked('POST')?.path).toBe('/api/shoots/1/copy');
  await expect.poll(() => heard.at(-1)).toMatchObject({ method: 'GET', path: '/api/shoots' });
});
