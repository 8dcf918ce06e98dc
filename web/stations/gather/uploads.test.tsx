import { act, fireEvent, render, screen } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import type { ImportResult } from '../../../contract/index.ts';
import { api } from '../../state/api.ts';
import { RequestError } from '../../state/request.ts';
import { useStore } from '../../state/store.ts';
import { startUploads, useUploads } from '../../state/uploads.ts';
import { someFrame, someSetup } from '../../../contract/testing/items.ts';
import { Uploads } from './Uploads.tsx';

/** Uploads that wait until the test ends them. */
let waiting: { name: string; end: (result: ImportResult) => void; fail: (error: Error) => void }[];

beforeEach(() => {
  waiting = [];
  localStorage.clear();
  useUploads.setState({ uploads: [], left: null });
  vi.spyOn(api, 'uploadFrame').mockImplementation(
    (_setup, { name }) => new Promise((end, fail) => waiting.push({ name, end, fail })),
  );
});

const file = (name: string): File => new File(['x'.repeat(1000)], name);
const stored = (name: string): ImportResult => ({ outcome: 'stored', name, frame: someFrame(1, { name }) });
const line = (): string => screen.getByText(/to go$/).textContent ?? '';

test('three go up at once, the next as soon as one has ended; other shoots’ are not listed here', async () => {
  startUploads(1, 1, ['a', 'b', 'c', 'd'].map(file));
  startUploads(2, 5, [file('elsewhere')]);
  render(<Uploads shootId={1} />);
  expect(waiting.map(({ name }) => name)).toEqual(['a', 'b', 'c']);
  expect(screen.getByText('Importing')).toBeTruthy();
  expect(screen.queryByText('elsewhere')).toBeNull();
  waiting[1].end(stored('b'));
  await expect.poll(() => waiting.map(({ name }) => name)).toEqual(['a', 'b', 'c', 'd']);
  await expect.poll(line).toBe('1 taken in, 0 already here, 0 refused, 3 to go');
  // What went well needs no line.
  expect(screen.queryByText('b')).toBeNull();
  for (const { name, end } of waiting) end(stored(name));
  await expect.poll(() => waiting.length).toBe(5);
  waiting[4].end(stored('elsewhere'));
  await expect.poll(line).toContain('0 to go');
});

test('what was refused, already here, or odd keeps its line until the list is put away; a broken upload says its reason', async () => {
  startUploads(1, 1, ['twice.jpg', 'raw.cr2', 'odd.jpg'].map(file));
  render(<Uploads shootId={1} />);
  waiting[0].end({ outcome: 'duplicate', name: 'twice.jpg', of: 'first.jpg' });
  waiting[1].fail(new RequestError({ reason: 'A raw file', remedy: 'Develop it first.' }));
  const frame = someFrame(2);
  waiting[2].end({
    outcome: 'stored',
    name: 'odd.jpg',
    frame,
    question: { reason: 'It is small', remedy: 'Look at it.' },
  });
  expect(await screen.findByText('Already in this shoot as first.jpg.')).toBeTruthy();
  expect((await screen.findByText('Refused:')).parentElement?.textContent).toBe(
    'Refused: A raw file. Develop it first.',
  );
  expect((await screen.findByText('Taken in, but:')).parentElement?.textContent).toContain('It is small. Look at it.');
  expect(line()).toBe('1 taken in, 1 already here, 1 refused, 0 to go');
  fireEvent.click(screen.getByRole('button', { name: 'Put this list away' }));
  expect(screen.queryByText('raw.cr2')).toBeNull();
});

test('left in the middle, it is said when the page is opened again; the same files go on, and what had arrived is passed over', async () => {
  const files = ['a', 'b', 'c', 'd'].map(file);
  startUploads(1, 1, files);
  waiting[0].end(stored('a'));
  await expect.poll(() => waiting.length).toBe(4);
  for (const { fail } of waiting.slice(1)) fail(new RequestError({ reason: 'gone', remedy: '' }));
  await expect.poll(() => useUploads.getState().uploads.every(({ result }) => result)).toBe(true);
  // As the browser keeps it of a page that was closed before the others were answered.
  const key = ({ name, size, lastModified }: File): string => `${name}|${size}|${lastModified}`;
  const kept = { shootId: 1, setupId: 1, files: Object.fromEntries(files.map((one, n) => [key(one), n === 0])) };
  localStorage.setItem('silent-lawn arriving', JSON.stringify(kept));
  useUploads.setState({ uploads: [], left: null });
  useStore.setState({ setups: [someSetup({ id: 1, name: 'Tent' })] });
  render(<Uploads shootId={1} />);
  expect((await screen.findByRole('note')).textContent).toContain('3 of 4 files had not arrived');
  waiting = [];
  act(() => startUploads(1, 1, files));
  expect(waiting.map(({ name }) => name)).toEqual(['b', 'c', 'd']);
  expect(screen.getByText('Already in this shoot as a.')).toBeTruthy();
  for (const { name, end } of waiting) end(stored(name));
  await expect.poll(line).toBe('3 taken in, 1 already here, 0 refused, 0 to go');
  expect(localStorage.getItem('silent-lawn arriving')).toBeNull();
});

test('what was left can be let be', async () => {
  localStorage.setItem('silent-lawn arriving', JSON.stringify({ shootId: 1, setupId: 1, files: { 'a|1|1': false } }));
  useStore.setState({ setups: [someSetup({ id: 1 })] });
  render(<Uploads shootId={1} />);
  fireEvent.click(await screen.findByRole('button', { name: 'Let them be' }));
  expect(screen.queryByRole('note')).toBeNull();
  expect(localStorage.getItem('silent-lawn arriving')).toBeNull();
});
