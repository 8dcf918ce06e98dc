import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test } from 'vitest';
import { keyPlaces, keyTable, type KeyFacts } from '../shared/keys.ts';
import { KeysHelp, showKeys } from './KeysHelp.tsx';

/** The list of keys: of the station one is at, and those that hold everywhere. */

beforeEach(() => showKeys(false));
const open = async (address: string): Promise<string[]> => {
  render(
    <MemoryRouter initialEntries={[address]}>
      <KeysHelp />
    </MemoryRouter>,
  );
  fireEvent.keyDown(document.body, { key: '?', code: 'Slash', shiftKey: true });
  const dialog = within(await screen.findByRole('dialog', { name: 'Keys' }));
  return dialog.getAllByRole('region').map((section) => section.getAttribute('aria-label') ?? '');
};

test('at Extract its keys, those of a mask, and the common ones last, each with what it does', async () => {
  const titles = await open('/shoots/3/extract');
  expect(titles.at(-1)).toBe(keyPlaces.everywhere);
  expect(titles.slice(0, -1).sort()).toEqual([keyPlaces.extract, keyPlaces.mask].sort());
  const section = screen.getByRole('region', { name: keyPlaces.extract });
  for (const { shown, does } of Object.values(keyTable.extract) as KeyFacts[]) {
    expect(section.textContent).toContain(shown);
    expect(section.textContent).toContain(does);
  }
});

test('where a station has none, the common ones alone', async () => {
  expect(await open('/shoots/3/hand-over')).toEqual([keyPlaces.everywhere]);
});

test('it closes by its button and by Escape, and opens again', async () => {
  await open('/');
  fireEvent.click(screen.getByRole('button', { name: 'Close' }));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  fireEvent.keyDown(document.body, { key: '?', code: 'Slash', shiftKey: true });
  const dialog = await screen.findByRole('dialog', { name: 'Keys' });
  fireEvent.keyDown(dialog, { key: 'Escape' });
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});
