import { fireEvent, render, screen, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test, vi } from 'vitest';
import type { Check, Findings } from '../../../contract/index.ts';
import { someCheck, someFindings } from '../../../contract/testing/items.ts';
import { readingFacts } from '../../../core/plan/index.ts';
import { useStore } from '../../state/store.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { CheckFindings } from './CheckFindings.tsx';

/** What a round says: ready or not, what to change first, what became of it, and who signed. */

type Reading = Findings['readings'][number];
const reading = (id: Reading['id'], part: Partial<Reading> = {}): Reading => ({
  id,
  value: 1,
  verdict: 'within',
  reason: 'So.',
  minutes: 0,
  evidence: [],
  ...part,
});
const forecast = { minutes: 12.4, low: 8.2, high: 19.9, frames: 90, causes: [] } as unknown as Findings['forecast'];
const findings = (part: Partial<Findings> = {}): Findings => someFindings({ forecast, ...part });
const plate = { kind: 'plate', name: 'P.jpg', width: 40, height: 60, version: 'v' } as const;
const round = (part: Partial<Check> = {}): Check => someCheck({ pictures: [plate], findings: findings(), ...part });
const chosen = vi.fn();
let heard: Asked[];
beforeEach(() => {
  chosen.mockClear();
  useStore.setState({ checks: [], steps: [], problem: null });
});
function show(check: Check, previous?: Findings, cause?: string): void {
  heard = standInServer(({ method }) => ({
    ...check,
    signedAt: method === 'PUT' ? '2026-06-13T11:00:00.000Z' : null,
  }));
  render(
    <MemoryRouter>
      <CheckFindings check={check} previous={previous} chosen={cause} onChoose={chosen} />
    </MemoryRouter>,
  );
}

test('before it is read: whether there is anything to read', () => {
  show(round({ findings: null }));
  expect(screen.getByRole('status').textContent).toBe('Reading the photographs …');
});

test('nothing photographed yet is said as that', () => {
  show(round({ findings: null, pictures: [] }));
  expect(screen.getByRole('status').textContent).toContain('Nothing has been photographed');
});

test('no screen found tells how to photograph it', () => {
  show(round({ findings: findings({ found: false }) }));
  expect(screen.getByText('No green or blue screen was found.')).toBeTruthy();
  expect(screen.queryByRole('button', { name: /Sign off/ })).toBeNull();
});

test('ready: the minutes with their spread, nothing to change, and what is behind the number on request', () => {
  show(round());
  const head = document.querySelector('.headline');
  expect(head?.textContent).toBe('Ready. 12 min by hand 8–20 for 90 frames');
  expect(screen.getByText('Nothing to change')).toBeTruthy();
  expect(screen.queryByText(/causes add up/)).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Why this number?' }));
  expect(screen.getByText(/causes add up/)).toBeTruthy();
});

const causes: Findings['causes'] = [
  { id: 'weakLamp', title: 'One lamp is weaker', weight: 2, minutes: 14.4, remedy: 'Turn it up.', evidence: [] },
  { id: 'gain', title: 'The gain is high', weight: 1, minutes: 0.4, remedy: 'Lower it.', evidence: [] },
];

test('the foremost cause is open with its remedy; another is opened by choosing it', () => {
  show(round({ findings: findings({ ready: false, causes }) }));
  const list = within(screen.getByRole('list', { name: 'Causes' }));
  expect(list.getByText('Turn it up.')).toBeTruthy();
  expect(list.queryByText('Lower it.')).toBeNull();
  expect(list.getByText('14 min')).toBeTruthy();
  // What costs less than a minute shows no figure.
  expect(list.queryByText('0 min')).toBeNull();
  fireEvent.click(list.getByRole('button', { name: /The gain is high/ }));
  expect(chosen).toHaveBeenCalledWith('gain');
});

test('a chosen cause is the one that is open', () => {
  show(round({ findings: findings({ ready: false, causes }) }), undefined, 'gain');
  expect(screen.getByText('Lower it.')).toBeTruthy();
  expect(screen.queryByText('Turn it up.')).toBeNull();
});

test('readings: those out of bounds first, the dearest of them before the others', () => {
  const readings = [
    reading('spread', { minutes: 9 }),
    reading('noise', { verdict: 'beyond', minutes: 1 }),
    reading('shadow', { verdict: 'beyond', minutes: 5 }),
  ];
  show(round({ findings: findings({ readings }) }));
  expect(screen.getByText('2 of 3 out of bounds')).toBeTruthy();
  const section = screen.getByRole('region', { name: 'What the test says' }).textContent ?? '';
  const places = (['shadow', 'noise', 'spread'] as const).map((id) => section.indexOf(readingFacts[id].title));
  expect(places.every((place) => place >= 0)).toBe(true);
  expect([...places].sort((a, b) => a - b)).toEqual(places);
});

test('since the last round: what changed noticeably, with what it was, and the minutes', () => {
  const before = findings({
    readings: [reading('spread', { value: 1.4 }), reading('noise', { value: 2 })],
    forecast: { ...(findings().forecast as object), minutes: 30 } as Findings['forecast'],
  });
  const now = findings({ readings: [reading('spread', { value: 0.3 }), reading('noise', { value: 2 })] });
  show(round({ findings: now }), before);
  expect(screen.getByText('18 min less')).toBeTruthy();
  const rows = within(screen.getByRole('list', { name: 'Since the last round' })).getAllByRole('listitem');
  expect(rows).toHaveLength(1);
  expect(rows[0].textContent).toMatch(/1\.4\d* → 0\.3\d*.*better$/);
});

test('a round like the last one says that nothing has changed', () => {
  const same = findings({ readings: [reading('spread')] });
  show(round({ findings: same }), same);
  expect(screen.getByText('No reading has changed noticeably.')).toBeTruthy();
  expect(screen.getByText('as many minutes')).toBeTruthy();
});

test('how to turn the key to the background’s light; small differences are no move', () => {
  const move = { right: -22.4, up: 8, ratio: 0.6, softer: 0, warmer: -40 } as NonNullable<Findings['move']>;
  show(round({ findings: findings({ move }) }));
  expect(screen.getByText(/^As the camera sees it/).textContent).toBe(
    'As the camera sees it: turn the key 22° to the left, raise it by 8°, take the fill 0.6 stops down, cool it by 40 mired.',
  );
});

test('light that stands as the background’s does is said as that', () => {
  const move = { right: 1, up: -2, ratio: 0.1, softer: 0.05, warmer: 4 } as NonNullable<Findings['move']>;
  show(round({ findings: findings({ move }) }));
  expect(screen.getByText('The studio’s light stands as the background’s does.')).toBeTruthy();
});

test('signing off says how many points stay open, and can be taken back', async () => {
  const open = [reading('spread', { verdict: 'beyond' }), reading('noise')];
  show(round({ findings: findings({ ready: false, readings: open }) }));
  expect(screen.getByText(/open point/).textContent).toContain('1 open point will be listed');
  fireEvent.click(screen.getByRole('button', { name: 'Sign off this setup' }));
  await expect.poll(() => heard).toHaveLength(1);
  expect(heard[0]).toMatchObject({ method: 'PUT', path: '/api/checks/3/signature' });
  await expect.poll(() => useStore.getState().steps.at(-1)?.label).toBe('signing off');
});

test('a signed round names its open points and can be opened again', async () => {
  show(round({ signedAt: '2026-06-13T11:00:00.000Z', openPoints: ['The left lamp is weaker'] }));
  expect(screen.getByText(/^Signed off at/).parentElement?.textContent).toContain(
    'Open points: The left lamp is weaker.',
  );
  fireEvent.click(screen.getByRole('button', { name: 'Open again' }));
  await expect.poll(() => heard.at(-1)).toMatchObject({ method: 'DELETE', path: '/api/checks/3/signature' });
});
