import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import type { ReactElement } from 'react';
import { MemoryRouter } from 'react-router';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { Frame, Subject } from '../../../contract/index.ts';
import { someCheck, someFrame, someSetup, someShoot, someSubject } from '../../../contract/testing/items.ts';
import { noCamera } from '../../../core/gather/camera.ts';
import type { FrameFacts } from '../../../core/gather/facts.ts';
import { someFacts as facts } from '../../../core/gather/testing/someFacts.ts';
import { Questioner } from '../../shared/ask.tsx';
import { undoLast } from '../../state/change.ts';
import { kept, takeItems, useStore } from '../../state/store.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import type { DayLine } from './DayChart.tsx';
import { CamerasPanel } from './CamerasPanel.tsx';
import { Drifts } from './Drifts.tsx';
import { PicksPanel } from './PicksPanel.tsx';
import { RosterImport } from './RosterImport.tsx';
import { RosterPanel } from './RosterPanel.tsx';
import { SetSign } from './SetSign.tsx';
import { SortPanel } from './SortPanel.tsx';
import { TargetFrames } from './TargetFrames.tsx';
import { WatchField } from './WatchField.tsx';

vi.mock('./DayChart.tsx', () => ({
  default: ({ lines }: { lines: DayLine[] }) => (
    <div role="img" aria-label={lines.map(({ name, levels }) => `${name} ${levels.join(' ')}`).join()} />
  ),
}));

/** What is proposed at Gather, and what a press makes of it. */

const shoot = someShoot();
const frame = (id: number, part: Partial<Frame> = {}): Frame =>
  someFrame(id, {
    takenAt: `2026-06-13T10:${String(id).padStart(2, '0')}:00`,
    camera: { ...noCamera, body: 'A' },
    facts: facts(),
    ...part,
  });
const slate = (id: number, number: string, part: Partial<Frame> = {}): Frame =>
  frame(id, { facts: facts({ kind: 'slate', slate: number }), ...part });

let heard: Asked[];
function show(
  element: ReactElement,
  items: { frames?: Frame[]; subjects?: ReturnType<typeof someSubject>[] } = {},
): void {
  const { frames = [], subjects = [] } = items;
  takeItems(undefined, { setups: [someSetup()], frames, subjects });
  render(
    <MemoryRouter>
      <main style={{ height: 600 }}>{element}</main>
      <Questioner />
    </MemoryRouter>,
  );
}
beforeEach(() => {
  vi.restoreAllMocks();
  for (const overlay of Object.values(kept)) overlay.clear();
  useStore.setState({ shoot, setups: [], frames: [], subjects: [], plans: [], steps: [], problem: null });
  heard = standInServer(() => []);
});
const sorted = (): unknown => heard.filter(({ path }) => path.endsWith('/sorting')).at(-1)?.body;

test('who was added to the roster is taken off again, but not who has a frame by now', async () => {
  let id = 0;
  heard = standInServer(({ method, body }) =>
    method === 'POST'
      ? (body as { subjects: Subject[] }).subjects.map((one) => ({ ...someSubject(++id), ...one }))
      : undefined,
  );
  show(<RosterPanel shoot={shoot} />, {});
  fireEvent.click(screen.getByRole('button', { name: 'Add somebody' }));
  await expect.poll(() => useStore.getState().subjects.map(({ name }) => name)).toEqual(['Guest 1']);
  fireEvent.click(screen.getByRole('button', { name: 'Add somebody' }));
  await expect.poll(() => useStore.getState().subjects).toHaveLength(2);
  useStore.setState({ frames: [frame(1, { subject: 'Guest 1' })] });
  await undoLast();
  await undoLast();
  const gone = heard.filter(({ method }) => method === 'DELETE').map(({ path }) => path);
  expect(gone).toEqual(['/api/subjects/2']);
});

describe('sort', () => {
  test('what the slates say is taken at one press, slates dropped, and taken back as one step', async () => {
    show(<SortPanel shoot={shoot} />, {
      frames: [slate(1, '7'), frame(2), frame(3), slate(4, '99'), frame(5)],
      subjects: [someSubject(1, { name: 'Ada', number: '07' })],
    });
    expect(screen.getByText(/The slate on F4.jpg says 99, which nobody/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Take 1 sure proposal' }));
    await expect.poll(sorted).toEqual({
      changes: [
        { frameIds: [1], subject: 'Ada', pick: 'drop' },
        { frameIds: [2, 3], subject: 'Ada' },
      ],
    });
    await undoLast();
    await expect.poll(sorted).toEqual({
      changes: [
        { frameIds: [1], subject: '', pick: null },
        { frameIds: [2], subject: '' },
        { frameIds: [3], subject: '' },
      ],
    });
  });
  test('an even shoot needs nothing; a lamp that goes out is named with its frame', async () => {
    const grid = Array.from({ length: 24 }, (_, n) => 0.12 * ((n % 6) - 2.5));
    const dim = facts({ screen: { ...(facts().screen as NonNullable<FrameFacts['screen']>), level: -2.4, grid } });
    show(<SortPanel shoot={shoot} />, {
      frames: [1, 2, 3, 4, 5].map((id) => frame(id, { subject: 'Ada', ...(id > 3 ? { facts: dim } : {}) })),
    });
    expect(screen.getByText('every frame has its person')).toBeTruthy();
    expect(screen.getByText('1 setup, as the frames stand')).toBeTruthy();
    const changed = within(screen.getByRole('region', { name: 'What changed unasked' }));
    expect(changed.getByText('F4.jpg')).toBeTruthy();
    expect(changed.getByText(/with a lamp out or moved/)).toBeTruthy();
    expect(await changed.findByRole('img', { name: /^Tent 0 0 0 -0\.3999/ })).toBeTruthy();
  });
  test('frames without a person are offered as plates of their setup, and say how many frames they are under', async () => {
    show(<SortPanel shoot={shoot} />, {
      frames: [
        frame(1),
        ...[2, 3].map((id) => frame(id, { facts: facts({ kind: 'plate', person: null }) })),
        frame(4, { plate: true, facts: facts({ kind: 'plate', person: null }) }),
      ],
    });
    expect(screen.getByText(/a plate of “Tent”, under 1 frame taken/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Take 2 as plates' }));
    await expect.poll(() => heard.at(-1)).toMatchObject({ body: { changes: [{ frameIds: [2, 3], plate: true }] } });
    fireEvent.click(screen.getAllByRole('button', { name: 'No plate' })[2]);
    await expect.poll(() => heard.at(-1)).toMatchObject({ body: { changes: [{ frameIds: [4], plate: false }] } });
  });
});

test('a list of names: columns are told by their head, odd lines are named, and what is added is as it was read', () => {
  const added = vi.fn();
  show(<RosterImport open taken={['Bo']} onAdd={added} onClose={() => undefined} />);
  const text = 'Name;Consent;Shoes\nAda;yes;38\nBo;perhaps;41\n;;40\n';
  fireEvent.change(screen.getByLabelText('The list'), { target: { value: text } });
  expect((screen.getByLabelText('Column 2') as HTMLSelectElement).value).toBe('consent');
  const odd = within(screen.getByRole('list', { name: 'Lines to look at' }));
  expect(odd.getAllByRole('listitem').map(({ textContent }) => textContent?.slice(0, 7))).toEqual([
    'Line 3:',
    'Line 3:',
    'Line 4:',
  ]);
  fireEvent.click(screen.getByRole('button', { name: 'Add 2 people' }));
  expect(added.mock.calls[0][0]).toMatchObject([
    { name: 'Ada', consent: 'yes', note: 'Shoes: 38' },
    { name: 'Bo (2)', consent: 'unasked', note: 'consent: perhaps; Shoes: 41' },
  ]);
});

test('picks: the frames of one person with a warning are found; what is chosen is picked by a key', async () => {
  const soft = facts({ sharp: 0.1 });
  show(<PicksPanel shoot={shoot} />, {
    frames: [frame(1, { subject: 'Ada' }), frame(2, { subject: 'Ada', facts: soft }), frame(3, { subject: 'Bo' })],
  });
  fireEvent.change(screen.getByLabelText('Search'), { target: { value: 'ada' } });
  expect(screen.getByText('2 frames')).toBeTruthy();
  fireEvent.change(screen.getByLabelText('Warning'), { target: { value: 'soft' } });
  expect(screen.getByText('1 frame')).toBeTruthy();
  fireEvent.keyDown(document.body, { key: 'ArrowRight', code: 'ArrowRight' });
  fireEvent.keyDown(document.body, { key: 'd', code: 'KeyD' });
  await expect.poll(sorted).toEqual({ changes: [{ frameIds: [2], pick: 'drop' }] });
  expect(useStore.getState().steps.at(-1)?.label).toBe('dropped, 1 frame');
});

test('a second camera’s clock is set by the slates that both saw', async () => {
  const second = { camera: { ...noCamera, body: 'B' } };
  show(
    <CamerasPanel
      shoot={shoot}
      frames={[slate(1, '7'), frame(2), slate(3, '8'), slate(11, '7', second), slate(13, '8', second)]}
    />,
    {
      frames: [slate(11, '7', second)],
    },
  );
  fireEvent.click(screen.getByRole('button', { name: '2 slates say −600 s: set' }));
  await expect
    .poll(() => heard.at(-1))
    .toMatchObject({ path: '/api/shoots/1/clocks', body: { body: 'B', seconds: -600 } });
});

describe('at the set', () => {
  test('the sign says good, or again and why', async () => {
    show(<SetSign shoot={shoot} />, { frames: [1, 2, 3].map((id) => frame(id, { subject: 'Ada' })) });
    expect(screen.getByRole('status').textContent).toBe('Good');
    const beyond = facts({ person: { share: 0.3, looks: [], beyond: 0.2, near: 0 } });
    takeItems(undefined, { frames: [frame(4, { subject: 'Ada', facts: beyond, revision: 9 })] });
    await waitFor(() =>
      expect(screen.getByRole('status').textContent).toContain('Again, becausereaches beyond the screen (20 %'),
    );
    takeItems(undefined, { frames: [frame(5, { facts: null, revision: 9 })] });
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe('Reading …'));
  });
  test('a watched folder: its path, following, and what was refused', async () => {
    const refused = [{ name: 'notes.txt', reason: 'it is no picture', remedy: 'Leave it.' }];
    show(<WatchField setup={someSetup({ watch: '/in', watched: { taken: 3, refused } })} />);
    expect(screen.getByRole('status').textContent).toBe('3 files taken from there, 1 refused');
    expect(screen.getByRole('alert').textContent).toContain('notes.txt: it is no picture');
    fireEvent.click(screen.getByLabelText('extract as they come'));
    await expect.poll(() => heard.at(-1)).toMatchObject({ path: '/api/setups/1', body: { follow: true } });
  });
});

describe('light that the camera changed', () => {
  const Live = () => <Drifts frames={useStore((state) => state.frames)} />;
  const lit = (id: number, level: number): Frame => {
    const { screen: light, ...rest } = facts();
    return frame(id, { facts: { ...rest, screen: light && { ...light, level } } });
  };
  const departures = (id: number): unknown =>
    useStore
      .getState()
      .frames.find((one) => one.id === id)
      ?.guidance.departures.map(({ id: name, to }) => [name, to]);

  test('is brought back at a press, frame by frame, and left again as it was shot', async () => {
    const frames = [lit(1, -2), lit(2, -2), lit(3, -2), lit(4, -1.5), lit(5, -2.3)];
    let revision = 10;
    heard = standInServer(({ path, body }) => {
      const { seen: _, ...to } = body as Partial<Frame> & { seen: unknown };
      const now = frames.find(({ id }) => path === `/api/frames/${id}`);
      return { ...now, ...to, revision: ++revision };
    });
    show(<Live />, { frames });
    const row = within(screen.getByRole('list', { name: 'Light that the camera changed' }));
    expect(row.getByText('2 frames', { exact: false }).textContent).toContain('−0.30 to +0.50');
    fireEvent.click(row.getByRole('button', { name: 'Bring them back' }));
    await waitFor(() => expect(departures(4)).toEqual([['personExposure', -0.5]]));
    await waitFor(() => expect(departures(5)).toEqual([['personExposure', 0.3]]));
    expect(departures(3)).toEqual([]);
    await expect
      .poll(() => heard.filter(({ method }) => method === 'PATCH').map(({ path }) => path))
      .toEqual(['/api/frames/4', '/api/frames/5']);
    fireEvent.click(await row.findByRole('button', { name: 'Leave them as they were shot' }));
    await waitFor(() => expect(departures(4)).toEqual([]));
  });

  test('frames whose pattern of light changed are left to the lamp', () => {
    const { screen: light, ...rest } = facts();
    const tilted = light && { ...light, level: -1.4, grid: light.grid.map((_, n) => 0.1 * ((n % 6) - 2.5)) };
    const frames = [lit(1, -2), lit(2, -2), lit(3, -2), frame(4, { facts: { ...rest, screen: tilted } })];
    show(<Drifts frames={frames} />, { frames });
    expect(screen.queryByRole('list', { name: 'Light that the camera changed' })).toBeNull();
  });
});

test('a frame of the grey card is read at Check at a press; that it is there is said afterwards', async () => {
  const card = frame(6, { name: 'card.jpg', facts: facts({ kind: 'grey card', person: null, faces: [] }) });
  const { name, width, height } = card;
  const picture = { kind: 'grey card' as const, name, width, height, version: 'a' };
  heard = standInServer(() => someCheck({ pictures: [picture] }));
  show(<TargetFrames shoot={shoot} frames={[card]} />, { frames: [card] });
  const row = screen.getByText('card.jpg').closest('li') as HTMLElement;
  expect(row.textContent).toContain('shows the grey card');
  fireEvent.click(within(row).getByRole('button', { name: 'Read it at Check' }));
  await waitFor(() => expect(row.textContent).toContain('it is in a round at Check'));
  expect(heard).toMatchObject([{ method: 'POST', path: '/api/frames/6/test-picture' }]);
  expect(within(row).queryByRole('button', { name: 'Read it at Check' })).toBeNull();
});
