import { fireEvent, render, screen, within } from '@testing-library/react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { beforeEach, expect, test } from 'vitest';
import { noMetadata, noPapers } from '../../../core/handOver/index.ts';
import { kept, takeItems, useStore } from '../../state/store.ts';
import {
  someBatch,
  someCut,
  someDelivery,
  someFrame,
  someSetup,
  someShoot,
  someSubject,
} from '../../../contract/testing/items.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { DeliveryRow } from './DeliveryRow.tsx';
import { changeDraft } from './draft.ts';
import { HandOverPage } from './HandOverPage.tsx';

const placement = { backgroundId: 1, x: 0.5, y: 1, height: 0.8, look: {} };
const dusk = { id: 1, name: 'Dusk', width: 3000, height: 2000, picture: 'd', tags: [], removed: false };
const scene = { horizon: null, cameraHeight: null, focal: null, lightFrom: null, ball: null, by: {}, notes: '' };
let heard: Asked[];

beforeEach(() => {
  heard = standInServer(({ path }) => (path === '/api/library' ? [] : someDelivery()));
  for (const overlay of Object.values(kept)) overlay.clear();
  changeDraft({ used: ['Screen', 'Cutout'], names: '{preset}/{frame}', metadata: noMetadata, papers: noPapers });
  useStore.setState({
    shoot: someShoot(),
    setups: [someSetup()],
    frames: [],
    deliveries: [],
    subjects: [],
    backgrounds: [{ ...dusk, scene }],
    jobs: [],
  });
});

async function open(at = '/hand-over'): Promise<void> {
  render(
    <MemoryRouter initialEntries={[at]}>
      <Routes>
        <Route path="hand-over/:panel?" element={<HandOverPage />} />
      </Routes>
    </MemoryRouter>,
  );
  await expect.poll(() => heard.some(({ path }) => path === '/api/library')).toBe(true);
}
const asked = (method: string): Asked[] => heard.filter((one) => one.method === method);

test('the button counts the files that will be made; what will be missing is said with a way out', async () => {
  useStore.setState({
    frames: [
      someFrame(1, { ...someCut(), placement }),
      someFrame(2, someCut()),
      someFrame(3),
      // The plate is nobody's picture.
      someFrame(9, { ...someCut(), plate: true }),
    ],
  });
  await open();
  expect(screen.getByRole('button', { name: 'Make 3 files' })).toBeTruthy();
  const notes = screen.getAllByRole('note').map((note) => note.textContent);
  expect(notes[0]).toContain('1 frame not placed.');
  expect(notes[1]).toContain('1 frame not extracted');
  fireEvent.click(screen.getByRole('checkbox', { name: /^Screen/ }));
  expect(screen.getByRole('button', { name: 'Make 2 files' })).toBeTruthy();
  expect(screen.getAllByRole('note')).toHaveLength(1);
  fireEvent.click(screen.getByRole('checkbox', { name: /^Cutout PNG/ }));
  expect(screen.getByRole('button', { name: 'Make 0 files' }).hasAttribute('disabled')).toBe(true);
  expect(screen.getByText('Choose at least one preset.')).toBeTruthy();
});

test('names are shown as they will be; a pattern that cannot be used is refused in words and keeps the button', async () => {
  useStore.setState({
    frames: [someFrame(1, { ...someCut(), placement, subject: 'Ida' })],
    subjects: [someSubject(1, { name: 'Ida', number: '7' })],
  });
  await open();
  const pattern = screen.getByRole('textbox', { name: 'Pattern' });
  fireEvent.change(pattern, { target: { value: '{number} {subject}' } });
  const names = within(screen.getByRole('list', { name: 'Names as they will be' }));
  expect(names.getAllByRole('listitem').map((one) => one.textContent)).toEqual(['7 Ida.jpg', '7 Ida.png']);
  fireEvent.change(pattern, { target: { value: '{numbre}' } });
  expect(screen.getByText(/It cannot be used: {numbre} is not known/)).toBeTruthy();
  expect(screen.getByRole('button', { name: /^Make/ }).hasAttribute('disabled')).toBe(true);
});

test('what is chosen is what is asked for, with everything that is written into the files', async () => {
  useStore.setState({ frames: [someFrame(1, { ...someCut(), placement })] });
  await open();
  fireEvent.click(screen.getByRole('checkbox', { name: /order slip/ }));
  fireEvent.click(screen.getByRole('button', { name: /Written into the files/ }));
  fireEvent.change(screen.getByRole('textbox', { name: 'Photographer' }), { target: { value: 'Ada' } });
  fireEvent.click(screen.getByRole('button', { name: 'Make 2 files' }));
  await expect.poll(() => asked('POST')).toHaveLength(1);
  expect(asked('POST')[0]).toMatchObject({
    path: '/api/shoots/1/deliveries',
    body: {
      presets: [
        { name: 'Screen', kind: 'screen' },
        { name: 'Cutout', kind: 'cutout' },
      ],
      names: '{preset}/{frame}',
      chosen: { picks: 'all', subjects: null, setups: null, backgrounds: null },
      metadata: { photographer: 'Ada' },
      papers: { contact: false, slips: true, proof: false },
    },
  });
});

test('a preset of one’s own is kept in the library and used; what cannot be is said', async () => {
  useStore.setState({ frames: [someFrame(1, { ...someCut(), placement })] });
  await open();
  fireEvent.click(screen.getByRole('button', { name: 'A preset of your own' }));
  fireEvent.click(screen.getByRole('menuitem', { name: /^Print/ }));
  fireEvent.click(screen.getByRole('button', { name: 'Keep the preset' }));
  expect(screen.getByText('Give the preset a name.')).toBeTruthy();
  fireEvent.change(screen.getByRole('textbox', { name: 'Name' }), { target: { value: 'Passport' } });
  fireEvent.click(screen.getByRole('button', { name: 'Keep the preset' }));
  await expect.poll(() => asked('POST')).toHaveLength(1);
  expect(asked('POST')[0]).toMatchObject({
    path: '/api/library',
    body: { kind: 'preset', entry: { kind: 'print', name: 'Passport' } },
  });
});

test('a profile for inks makes the print a TIFF', async () => {
  const entry = { file: 'a'.repeat(64), name: 'Offset, coated', inks: true };
  heard = standInServer(({ path }) => (path === '/api/library' ? [{ id: 4, item: { kind: 'profile', entry } }] : {}));
  useStore.setState({ frames: [someFrame(1, { ...someCut(), placement })] });
  await open();
  fireEvent.click(screen.getByRole('button', { name: 'A preset of your own' }));
  fireEvent.click(screen.getByRole('menuitem', { name: /^Print/ }));
  fireEvent.change(screen.getByRole('textbox', { name: 'Name' }), { target: { value: 'Leaflet' } });
  expect(screen.getByRole('option', { name: 'Offset, coated (CMYK)' })).toBeTruthy();
  fireEvent.change(screen.getByRole('combobox', { name: 'Colours' }), { target: { value: entry.file } });
  expect(screen.getByRole('combobox', { name: 'File' }).textContent).toBe('TIFF, 16 bit');
  fireEvent.click(screen.getByRole('button', { name: 'Keep the preset' }));
  await expect.poll(() => asked('POST')[0]?.body).toMatchObject({ entry: { profile: entry, format: 'tiff16' } });
});

test('crops are proposed for every picture; one that is too small says how large it is good; keys move it', async () => {
  changeDraft({ used: ['Print 20 × 30 cm'] });
  const frame = someFrame(1, { ...someCut(), placement });
  takeItems(undefined, { frames: [frame, someFrame(2, someCut())] });
  const moved = { ...frame, crops: { '0.673': { x: 0.1, y: 0, width: 0.4 } }, revision: 2 };
  heard = standInServer(({ method }) => (method === 'PUT' ? moved : []));
  await open('/hand-over/crops');
  expect(screen.getByRole('heading', { name: 'Crops of 1 picture' })).toBeTruthy();
  const crop = screen.getByRole('button', { name: 'Crop of F1.jpg' });
  // The background is 2000 pixels high; 30.6 cm need 3614.
  expect(crop.getAttribute('aria-description')).toMatch(/good up to \d+\.\d × 16\.9 cm at 300 px\/in/);
  fireEvent.keyDown(crop, { key: 'ArrowLeft' });
  await expect.poll(() => asked('PUT')).toHaveLength(1);
  expect(asked('PUT')[0]).toMatchObject({ path: '/api/frames/1/crop', body: { shape: '0.673' } });
  await expect.poll(() => useStore.getState().unsaved).toBe(0);
  expect(screen.getByRole('button', { name: 'As proposed' })).toBeTruthy();
});

test('before anything is extracted the page says what it is for and leads there', async () => {
  useStore.setState({ frames: [someFrame(1)] });
  await open();
  expect(screen.getByText('Nothing to hand over yet.')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Extract the frames' })).toBeTruthy();
  expect(screen.queryByRole('button', { name: /^Make/ })).toBeNull();
});

function row(part: Parameters<typeof someDelivery>[0]): ReturnType<typeof within> {
  render(<DeliveryRow delivery={someDelivery(part)} />, { wrapper: MemoryRouter });
  return within(screen.getByRole('article'));
}

test('a hand-over under way can be cancelled and offers no ZIP yet', async () => {
  const shown = row({ batch: someBatch({ id: 5, kind: 'deliver', total: 10, open: 4, done: 6, secondsLeft: 95 }) });
  expect(shown.getByText('6 of 10 people, 1 min 35 s left')).toBeTruthy();
  expect(shown.queryByText('Download the ZIP')).toBeNull();
  fireEvent.click(shown.getByRole('button', { name: 'Cancel the rest' }));
  await expect.poll(() => heard.at(-1)?.path).toBe('/api/batches/5');
});

test('what is made again says what is different; a copy goes into the folder that was named', async () => {
  const shown = row({ differences: { of: 1, same: 18, changed: ['a.jpg'], added: [], gone: ['b.jpg'] } });
  expect(shown.getByLabelText('Differences').textContent).toBe(
    'Against the one before, 18 files as they were. 1 changed: a.jpg. 1 not in it any more: b.jpg',
  );
  fireEvent.click(shown.getByRole('button', { name: 'Into a folder' }));
  fireEvent.change(shown.getByRole('textbox', { name: /Folder/ }), { target: { value: '/mnt/client' } });
  fireEvent.click(shown.getByRole('button', { name: 'Copy' }));
  await expect
    .poll(() => asked('POST').at(-1))
    .toMatchObject({
      path: '/api/deliveries/1/folder',
      body: { folder: '/mnt/client' },
    });
});

test('what has one reason is told once, the commonest first, with the frames it holds for', () => {
  const gone = { reason: 'The photograph is missing', remedy: 'Bring it in again.' };
  const shown = row({
    problems: [
      { reason: 'The background is missing', remedy: 'Choose another.', frame: 'F0.jpg' },
      ...Array.from({ length: 10 }, (_, n) => ({ ...gone, frame: `G${n}.jpg` })),
    ],
    notPlaced: ['F7.jpg'],
  });
  const notes = shown.getAllByRole('note').map((note: HTMLElement) => note.textContent);
  expect(notes[0]).toContain('10 frames');
  expect(notes[0]).toContain('and 4 more');
  expect(notes[1]).toContain('F0.jpg');
  expect(shown.getByText(/1 frame not placed:/)).toBeTruthy();
});
