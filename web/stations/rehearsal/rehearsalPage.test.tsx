import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test } from 'vitest';
import type { Job, Rehearsal, RehearsalResult } from '../../../contract/index.ts';
import { someJob } from '../../../contract/testing/items.ts';
import { useStore } from '../../state/store.ts';
import { silentEvents, standInServer, type Asked } from '../../testing/server.ts';
import { RehearsalPage } from './RehearsalPage.tsx';

/** Rehearsing: the level offered, a set made, what was left unanswered, and how one has done. */

const result = (id: number, part: Partial<RehearsalResult> = {}): RehearsalResult => ({
  id,
  level: 1,
  createdAt: '2026-06-13T10:00:00.000Z',
  answered: true,
  causes: ['One lamp is weaker'],
  causesRight: true,
  remedyRight: true,
  ...part,
});
const set = (id: number): Rehearsal =>
  ({
    id,
    level: 2,
    createdAt: '2026-06-13T10:00:00.000Z',
    pictures: [{ kind: 'plate', name: 'plate.jpg', width: 40, height: 60, version: 'v' }],
    findings: { found: true, inView: [], patches: [], readings: [], causes: [], ready: true },
    answer: null,
    truth: null,
  }) as unknown as Rehearsal;
const job = (part: Partial<Job> = {}): Job =>
  someJob({ kind: 'rehearsal', shootId: null, state: 'running', progress: 0.5, secondsLeft: 5, ...part });

let results: RehearsalResult[];
let heard: Asked[];
beforeEach(() => {
  useStore.setState({ looseJobs: {}, problem: null });
  silentEvents();
  results = [];
  heard = standInServer(({ method, path }) => {
    if (method === 'POST' && path === '/api/rehearsals') return job({ state: 'queued', progress: null });
    if (method === 'DELETE') return job({ state: 'cancelled' });
    const id = /rehearsals\/(\d+)$/.exec(path)?.[1];
    return id ? set(Number(id)) : { results, making: [] };
  });
});
const show = (): void => {
  render(
    <MemoryRouter>
      <RehearsalPage />
    </MemoryRouter>,
  );
};
const asked = (method: string): Asked | undefined => heard.findLast((one) => one.method === method);

test('at first: what it is, the easiest level, and nothing answered', async () => {
  show();
  expect(screen.getByText('No set is up yet.')).toBeTruthy();
  expect(await screen.findByText('Nothing answered yet.')).toBeTruthy();
  expect((screen.getByRole('radio', { name: /^1 one gross fault/ }) as HTMLInputElement).checked).toBe(true);
});

test('a set of the chosen level is made with its progress, can be ended, and is shown when it is there', async () => {
  show();
  fireEvent.click(screen.getByRole('radio', { name: /^3/ }));
  fireEvent.click(screen.getByRole('button', { name: 'New set' }));
  await expect.poll(() => asked('POST')).toMatchObject({ path: '/api/rehearsals', body: { level: 3 } });
  expect(await screen.findByText(/waits its turn/)).toBeTruthy();
  expect(screen.getByRole('button', { name: 'New set' }).hasAttribute('disabled')).toBe(true);
  useStore.setState({ looseJobs: { 8: job() } });
  await waitFor(() =>
    expect(screen.getByRole('progressbar', { name: 'Set' }).getAttribute('aria-valuenow')).toBe('50'),
  );
  fireEvent.click(screen.getByRole('button', { name: 'Cancel: Setting it up' }));
  await expect.poll(() => asked('DELETE')?.path).toBe('/api/jobs/8');
  useStore.setState({ looseJobs: { 8: job({ state: 'done', progress: 1, made: { rehearsalId: 21 } }) } });
  expect(await screen.findByRole('button', { name: 'Another set' })).toBeTruthy();
  expect(heard.some(({ path }) => path === '/api/rehearsals/21')).toBe(true);
});

test('a set that could not be made says why', async () => {
  show();
  const problem = { reason: 'the disk is full', remedy: 'Make room.' };
  useStore.setState({ looseJobs: { 8: job({ state: 'failed', problem }) } });
  expect(await screen.findByText('The disk is full.')).toBeTruthy();
  expect(screen.getByText(/Make room/)).toBeTruthy();
});

test('what was left unanswered goes on after a reload', async () => {
  results = [result(30, { answered: false, causes: [] }), result(29)];
  show();
  expect(await screen.findByRole('button', { name: 'Another set' })).toBeTruthy();
  expect(heard.some(({ path }) => path === '/api/rehearsals/30')).toBe(true);
});

test('results: how often the cause was named, each set with what it was; one of them is looked at again', async () => {
  results = [
    result(3),
    result(2, { causesRight: true, remedyRight: false, causes: ['Wrinkles', 'High gain'] }),
    result(1, { causesRight: false, remedyRight: false, causes: [] }),
  ];
  show();
  await screen.findByText(/causes named/);
  expect(screen.getByText(/causes named/).textContent).toBe('2 of 3 causes named rightly.');
  const rows = within(screen.getByRole('list', { name: 'Results' })).getAllByRole('button');
  expect(rows.map((row) => row.textContent)).toEqual([
    'level 1One lamp is weakerright',
    'level 1Wrinkles, High gaincause right',
    'level 1nothing was wrongmissed',
  ]);
  fireEvent.click(rows[1]);
  await expect.poll(() => heard.at(-1)?.path).toBe('/api/rehearsals/2');
});
