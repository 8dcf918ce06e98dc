import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test, vi } from 'vitest';
import { someFrame, someSetup, someShoot } from '../../../contract/testing/items.ts';
import { Questioner } from '../../shared/ask.tsx';
import { api } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';
import { useUploads } from '../../state/uploads.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { GatherPage } from './GatherPage.tsx';

/** Bringing frames in: where they go, setup by setup, and what it takes to take one out. */

let heard: Asked[];
beforeEach(() => {
  vi.restoreAllMocks();
  useUploads.setState({ uploads: [] });
  useStore.setState({ shoot: someShoot(), setups: [someSetup()], frames: [], steps: [], problem: null });
  heard = standInServer(({ method, body }) =>
    method === 'DELETE' ? null : { ...someSetup({ id: 5, name: 'Setup 2' }), ...(body as object) },
  );
});
function show(): void {
  render(
    <MemoryRouter>
      <main style={{ height: 600 }}>
        <GatherPage />
      </main>
      <Questioner />
    </MemoryRouter>,
  );
}
/** Gives files to the page, and tells which setup each went to. */
async function give(...names: string[]): Promise<[number, string][]> {
  const sent = vi
    .spyOn(api, 'uploadFrame')
    .mockImplementation((_setup, { name }) =>
      Promise.resolve({ outcome: 'refused', name, reason: 'it is damaged', remedy: 'Copy it again.' }),
    );
  const files = names.map((name) => new File(['x'], name, { type: 'image/jpeg' }));
  fireEvent.change(screen.getByLabelText('Frame files'), { target: { files } });
  await waitFor(() =>
    expect(screen.getByText(`0 taken in, 0 already here, ${names.length} refused, 0 to go`)).toBeTruthy(),
  );
  return sent.mock.calls.map(([setupId, file]) => [setupId, file.name]);
}

test('an empty setup says what belongs there; files go to the only one', async () => {
  show();
  expect(screen.getByText('No frames yet.')).toBeTruthy();
  expect(screen.queryByRole('radio')).toBeNull();
  expect(await give('a.jpg', 'b.jpg')).toEqual([
    [1, 'a.jpg'],
    [1, 'b.jpg'],
  ]);
});

test('of several setups the first takes the files, until another is chosen', async () => {
  useStore.setState({ setups: [someSetup(), someSetup({ id: 2, name: 'Window' })] });
  show();
  const second = within(screen.getByRole('region', { name: 'Window' }));
  expect((second.getByRole('radio', { name: 'new frames go here' }) as HTMLInputElement).checked).toBe(false);
  expect(screen.getByText(/They go to “Tent”/)).toBeTruthy();
  fireEvent.click(second.getByRole('radio', { name: 'new frames go here' }));
  expect(screen.getByText(/They go to “Window”/)).toBeTruthy();
  expect(await give('c.jpg')).toEqual([[2, 'c.jpg']]);
});

test('a setup that is added has the next number', async () => {
  show();
  fireEvent.click(screen.getByRole('button', { name: 'Add a setup' }));
  await expect.poll(() => heard.at(-1)).toMatchObject({ path: '/api/shoots/1/setups', body: { name: 'Setup 2' } });
});

test('a setup is renamed in its place; it can be taken back', async () => {
  show();
  const name = screen.getByLabelText('Name of the setup');
  fireEvent.change(name, { target: { value: 'By the window' } });
  fireEvent.blur(name);
  await expect
    .poll(() => heard.at(-1))
    .toMatchObject({
      method: 'PATCH',
      path: '/api/setups/1',
      body: { name: 'By the window', seen: { name: 'Tent' } },
    });
  expect(useStore.getState().steps.at(-1)?.label).toBe('name of the setup');
});

test('frames are counted by their setup', () => {
  useStore.setState({
    setups: [someSetup(), someSetup({ id: 2, name: 'Window' })],
    frames: [someFrame(1), someFrame(2), someFrame(3, { setupId: 2 })],
  });
  show();
  expect(screen.getByRole('region', { name: 'Tent' }).textContent).toContain('2 frames');
  expect(screen.getByRole('region', { name: 'Window' }).textContent).toMatch(/1 frame(?!s)/);
});
