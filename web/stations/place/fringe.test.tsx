import { fireEvent, render, screen, within } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { someBackground, someCut, someFrame, someShoot } from '../../../contract/testing/items.ts';
import { useStore } from '../../state/store.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { FringeTable } from './FringeTable.tsx';

/** What will be seen of fringes, before somebody is put on a background. */

const hall = someBackground({ id: 1, name: 'Hall' });
const dusk = someBackground({ id: 2, name: 'Dusk' });
const gone = someBackground({ id: 3, name: 'Gone', removed: true });
const at = { backgroundId: 2, x: 0.4, y: 1, height: 0.8, look: {} };
let heard: Asked[];
let version = 0;

beforeEach(() => {
  useStore.setState({ shoot: someShoot(), styles: [] });
  const seen: Record<string, (number | null)[]> = { 1: [60, 200], 2: [20, 300], 3: [null, 12] };
  heard = standInServer(({ path }) => ({ seen: seen[/frames\/(\d)/.exec(path)?.[1] ?? ''] }));
  version++;
});
const cut = (id: number, subject: string, placed = false) => {
  const made = someCut();
  return someFrame(id, {
    ...made,
    // What was foretold of a cut is kept; each test has cuts of its own.
    cut: made.cut && { ...made.cut, version: `v${version}` },
    subject,
    placement: placed ? at : null,
  });
};

test('the mean of a person’s frames stands on each background, with its word; the one that forgives most is bold', async () => {
  const end = vi.fn();
  render(<FringeTable frames={[cut(1, 'Ada', true), cut(2, 'Ada')]} backgrounds={[hall, dusk, gone]} onEnd={end} />);
  const row = screen.getByRole('row', { name: /^Ada/ });
  // Where somebody stands already comes first: Dusk.
  expect(screen.getAllByRole('columnheader').map(({ textContent }) => textContent)).toEqual(['Person', 'Dusk', 'Hall']);
  const cells = () => within(row).getAllByRole('cell').slice(1);
  await expect.poll(() => cells().map(({ textContent }) => textContent)).toEqual(['40hardly seen', '250plainly seen']);
  expect(cells().map((cell) => getComputedStyle(cell).fontWeight === '700')).toEqual([true, false]);
  expect(screen.getByRole('status').textContent).toContain('foretold from the soft outline');
  fireEvent.click(within(row).getByRole('button', { name: 'Ada' }));
  expect(end).toHaveBeenCalledWith(1);
});

test('each is looked at where they stand, and elsewhere where the style puts them; once', async () => {
  const standing = {
    cut: { width: 40, height: 60 },
    extent: { x: 0.2, y: 0.1, width: 0.6, height: 0.9 },
    faces: [],
    way: 'scale' as const,
    placement: { x: 0.5, y: 1, height: 0.5 },
  };
  const { rerender } = render(<div />);
  useStore.setState({
    styles: [{ id: 1, revision: 1, backgroundId: 1, look: {} as never, extras: {} as never, standing }],
  });
  const frames = [cut(1, 'Ada', true)];
  rerender(<FringeTable frames={frames} backgrounds={[dusk, hall]} onEnd={() => undefined} />);
  await expect.poll(() => heard.length).toBe(1);
  const asked = JSON.parse(new URL(heard[0].path, 'http://x').searchParams.get('on') ?? '[]') as object[];
  expect(asked).toMatchObject([
    { backgroundId: 2, x: 0.4, height: 0.8 },
    { backgroundId: 1, height: 0.5 },
  ]);
  await screen.findByText(
    'foretold from the soft outline of each cut, its own tone and that of the background behind it',
  );
  rerender(<FringeTable frames={[...frames]} backgrounds={[dusk, hall]} onEnd={() => undefined} />);
  expect(heard).toHaveLength(1);
});

test('a background that went meanwhile has no figure', async () => {
  render(<FringeTable frames={[cut(3, 'Cy')]} backgrounds={[hall, dusk]} onEnd={() => undefined} />);
  const row = screen.getByRole('row', { name: /^Cy/ });
  await expect
    .poll(() =>
      within(row)
        .getAllByRole('cell')
        .slice(1)
        .map(({ textContent }) => textContent),
    )
    .toEqual(['…', '12hardly seen']);
});
