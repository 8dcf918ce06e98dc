import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { beforeEach, expect, test } from 'vitest';
import type { ShootLog, Space } from '../../../contract/index.ts';
import { someCheck, someShoot } from '../../../contract/testing/items.ts';
import { noCosts } from '../../../core/log/index.ts';
import { useFactors } from '../../state/factors.ts';
import { useStore } from '../../state/store.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { LogPage } from './LogPage.tsx';

const log: ShootLog = {
  format: 'silent-lawn-log',
  version: 1,
  shoot: { id: 1, name: 'Pier', date: '2026-06-13', place: '', sample: false },
  setups: [
    {
      id: 5,
      name: 'Tent',
      set: {
        material: 'Muslin',
        colour: 'green',
        area: 6,
        screenCost: 4,
        kitCost: 30,
        distance: 1.2,
        light: 'softbox; tubes on the screen',
      },
      readings: { spread: 1.4 },
      measured: true,
      plan: { frames: 100, causes: { base: 8, spread: 20 } },
      check: null,
      frames: 100,
      cut: 100,
      accepted: { frames: 100, foreseen: { strands: 30 }, spent: 56 },
      doubts: 40,
    },
  ],
  times: [{ place: 'extract', day: '2026-06-13', seconds: 3600, corrected: null }],
  costs: { ...noCosts, hour: 40 },
  pictures: 100,
  handedOver: 1,
  events: [
    {
      at: '2026-06-13T09:00:00.000Z',
      place: 'gather',
      setup: 'Tent',
      words: '100 frames came in',
      details: ['a', 'b'],
    },
  ],
  notes: [
    {
      id: 3,
      kind: 'camera',
      at: '2026-06-13T08:30',
      place: 'check',
      setupId: 5,
      words: 'On the tripod',
      camera: {
        ...{ camera: 'C-1', lens: '', focal: 85, aperture: 8, shutter: 0.00625, iso: 200 },
        ...{ height: 1.4, tilt: null, distance: 3 },
      },
      picture: null,
    },
  ],
};
let heard: Asked[];
let archive: Space['archive'];

beforeEach(() => {
  archive = null;
  heard = standInServer(({ method, path }) => {
    if (path.endsWith('/space')) return { taken: [{ what: 'photographs', files: 2, bytes: 3_000_000 }], archive };
    if (path === '/api/shoots/1/notes') return { id: 8 };
    if (path === '/api/log/factors') return method === 'POST' ? { causes: {}, doubts: {} } : null;
    return path === '/api/log' ? [log] : log;
  });
  useFactors.setState({ taken: null });
  useStore.setState({ shoot: someShoot(), frames: [], plans: [], checks: [], deliveries: [], setups: [], jobs: [] });
});
async function open(panel = ''): Promise<void> {
  render(
    <MemoryRouter initialEntries={[`/shoots/1/log${panel}`]}>
      <Routes>
        <Route path="/shoots/:shootId/log/:panel?" element={<LogPage />} />
      </Routes>
    </MemoryRouter>,
  );
  await expect.poll(() => heard.some(({ path }) => path === '/api/shoots/1/log')).toBe(true);
}

test('what happened and what was written down stand in their order, by the day', async () => {
  await open();
  const day = within(await screen.findByRole('region', { name: '13 June 2026' }));
  const lines = day.getAllByRole('listitem').map((line) => line.textContent);
  expect(lines[0]).toContain('C-1, 85 mm, f/8, 1/160 s, ISO 200, 1.4 m high, 3 m away. On the tripod');
  expect(lines[1]).toContain('100 frames came in. a; b');
});

test('a time that is set right is sent in seconds, an empty one goes back to what was counted; cost follows', async () => {
  await open('/time');
  const field = await screen.findByRole('textbox', { name: 'Minutes at Extract on 2026-06-13' });
  fireEvent.change(field, { target: { value: '12,5' } });
  fireEvent.blur(field);
  await expect.poll(() => heard.find(({ method }) => method === 'PUT')?.body).toMatchObject({ seconds: 750 });
  const cost = within(screen.getByRole('table', { name: 'Cost' }));
  expect(cost.getByRole('row', { name: /^In all 70.00/ })).toBeTruthy();
  expect(cost.getByRole('row', { name: /^For each portrait 0.70/ })).toBeTruthy();
  expect((await screen.findByRole('table', { name: 'Space on the disk' })).textContent).toContain('3.0 MB');
});

test('forecast and truth: minutes side by side, factors with how far they are known, taken at a press', async () => {
  await open('/truth');
  const table = within(await screen.findByRole('table', { name: 'Minutes by hand' }));
  expect(table.getByRole('row', { name: 'Tent 100 of 100 28 – 30 56' })).toBeTruthy();
  const factors = within(await screen.findByRole('table', { name: 'Coefficients of Plan and Check' }));
  expect(
    factors.getByRole('row', { name: /Unevenness of the seen screen × 1.00 × 1\.[3-9]\d ± 0\.\d\d 1 setup/ }),
  ).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Take these for the forecast' }));
  await expect
    .poll(() => heard.find(({ method }) => method === 'POST')?.body)
    .toMatchObject({
      causes: { spread: expect.any(Number) as number },
      doubts: { strands: expect.any(Number) as number },
    });
});

test('next time: what cost most with its evidence, and materials with what they cost', async () => {
  await open('/next');
  const first = (await screen.findAllByRole('listitem'))[0];
  expect(first.textContent).toContain('Unevenness of the seen screen cost 40 min in 1 setup');
  expect(first.textContent).toContain('Pier, Tent: 1.40 stops (40 min)');
  const materials = within(screen.getByRole('table', { name: 'Materials' }));
  expect(materials.getByRole('row', { name: 'Muslin 1 6.0 4.00 1.40 – – 0.56' })).toBeTruthy();
  expect(screen.getByRole('button', { name: 'From “Tent”' })).toBeTruthy();
});

test('the month of a note is known, though no other page with a date was opened', async () => {
  await open();
  fireEvent.click(await screen.findByRole('button', { name: 'Note the camera' }));
  const months = await screen.findAllByRole('spinbutton', { name: 'Month' });
  expect(months.map((month) => Number(month.getAttribute('aria-valuenow')))).toEqual([new Date().getMonth() + 1]);
});

test('a note takes the ball of its setup’s latest round, where there is one', async () => {
  const ball = { kind: 'ball' as const, name: 'b.jpg', width: 60, height: 40, version: 'b' };
  useStore.setState({ checks: [someCheck({ setupId: 5, pictures: [ball] })] });
  await open();
  fireEvent.click(await screen.findByRole('button', { name: 'Note the camera' }));
  fireEvent.click(screen.getByRole('button', { name: 'Take the ball of the latest round' }));
  fireEvent.click(screen.getByRole('button', { name: 'Keep' }));
  await expect.poll(() => heard.map(({ path }) => path)).toContainEqual(expect.stringMatching(/notes\/\d+\/ball$/));
});

test('the pictures move to a folder that is named, and come back; a disk that is away is said', async () => {
  await open('/time');
  fireEvent.click(await screen.findByRole('button', { name: 'Move the pictures to another disk' }));
  const field = screen.getByRole('textbox', { name: 'Folder on the machine that runs Silent Lawn' });
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Move' }).disabled).toBe(true);
  fireEvent.change(field, { target: { value: ' /mnt/old ' } });
  fireEvent.click(screen.getByRole('button', { name: 'Move' }));
  await expect
    .poll(() => heard.find(({ method }) => method === 'POST'))
    .toMatchObject({
      path: '/api/shoots/1/archive',
      body: { folder: '/mnt/old' },
    });
  cleanup();
  archive = { folder: '/mnt/old', there: false };
  await open('/time');
  expect((await screen.findByRole('note')).textContent).toContain('/mnt/old, which is not there now');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Bring them back' }).disabled).toBe(true);
});
