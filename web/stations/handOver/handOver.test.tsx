import { fireEvent, render, screen, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test } from 'vitest';
import { useStore } from '../../state/store.ts';
import { someBatch, someCut, someDelivery, someFrame, someSetup, someShoot } from '../../../contract/testing/items.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { DeliveryRow } from './DeliveryRow.tsx';
import { HandOverPage } from './HandOverPage.tsx';

const placement = { backgroundId: 1, x: 0.5, y: 1, height: 0.8, look: {} };
let heard: Asked[];

beforeEach(() => {
  heard = standInServer(() => someDelivery());
  useStore.setState({ shoot: someShoot(), setups: [someSetup({ plateFrameId: 9 })], frames: [], deliveries: [] });
});

function open(): void {
  render(<HandOverPage />, { wrapper: MemoryRouter });
}

test('the button counts the files that will be made; what will be missing is said with a way out', () => {
  useStore.setState({
    frames: [
      someFrame(1, { ...someCut(), placement }),
      someFrame(2, someCut()),
      someFrame(3),
      // The plate is nobody's picture.
      someFrame(9),
    ],
  });
  open();
  expect(screen.getByRole('button', { name: 'Make 3 files' })).toBeTruthy();
  const notes = screen.getAllByRole('note').map((note) => note.textContent);
  expect(notes[0]).toContain('1 of 2 people have no background.');
  expect(notes[1]).toContain('1 of 3 frames are not extracted');
  fireEvent.click(screen.getByRole('radio', { name: /No finished pictures/ }));
  expect(screen.getByRole('button', { name: 'Make 2 files' })).toBeTruthy();
  expect(screen.getAllByRole('note')).toHaveLength(1);
  expect(screen.queryByRole('slider', { name: 'JPEG quality' })).toBeNull();
});

test('neither cutouts nor finished pictures is nothing: the button says so and asks the server for nothing', () => {
  useStore.setState({ frames: [someFrame(1, { ...someCut(), placement })] });
  open();
  fireEvent.click(screen.getByRole('radio', { name: /No finished pictures/ }));
  fireEvent.click(screen.getByRole('radio', { name: /No cutouts/ }));
  const button = screen.getByRole('button', { name: 'Make 0 files' });
  expect(button.hasAttribute('disabled')).toBe(true);
  expect(screen.getByText('Choose cutouts, finished pictures or both.')).toBeTruthy();
  fireEvent.click(button);
  expect(heard).toHaveLength(0);
});

test('what is chosen is what is asked for', async () => {
  useStore.setState({ frames: [someFrame(1, { ...someCut(), placement })] });
  open();
  fireEvent.click(screen.getByRole('radio', { name: /PNG, 16 bit/ }));
  fireEvent.change(screen.getByRole('slider', { name: 'JPEG quality' }), { target: { value: 80 } });
  fireEvent.click(screen.getByRole('button', { name: 'Make 2 files' }));
  await expect.poll(() => heard).toHaveLength(1);
  expect(heard[0]).toEqual({
    method: 'POST',
    path: '/api/shoots/1/deliveries',
    body: { cutout: 'png16', finished: 'jpeg', quality: 80 },
  });
});

test('before anything is extracted the page says what it is for and leads there', () => {
  useStore.setState({ frames: [someFrame(1)] });
  open();
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
  await expect.poll(() => heard[0]?.path).toBe('/api/batches/5');
});

test('what has one reason is told once, the commonest first, with the frames it holds for', () => {
  const gone = { reason: 'The photograph is missing', remedy: 'Bring it in again.' };
  row({
    problems: [
      { reason: 'The background is missing', remedy: 'Choose another.', frame: 'F0.jpg' },
      ...Array.from({ length: 10 }, (_, n) => ({ ...gone, frame: `G${n}.jpg` })),
    ],
  });
  const [most, one, ...more] = screen.getAllByRole('note').map((note) => note.textContent ?? '');
  expect(more).toHaveLength(0);
  expect(most).toContain('10 frames:');
  expect(most).toContain('The photograph is missing. Bring it in again.');
  expect(most).toContain('G7.jpg and 2 more');
  expect(one).toContain('F0.jpg:');
});

test('who was kept out is named, and why', () => {
  const keptBack = [{ frame: 'K1.jpg', subject: 'Bo', reason: 'said no' }];
  const shown = row({ keptBack });
  expect(shown.getByRole('note').textContent).toContain('1 frame kept out of it: K1.jpg (Bo: said no).');
});

test('who has no background is named', () => {
  const shown = row({ leftOut: Array.from({ length: 8 }, (_, n) => `L${n}.jpg`), files: 0 });
  expect(shown.getByText('8 people have no finished picture,')).toBeTruthy();
  expect(shown.getByText(/L5\.jpg and 2 more/)).toBeTruthy();
  expect(shown.queryByText('Download the ZIP')).toBeNull();
});
