import { fireEvent, render, screen } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import type { ImportResult } from '../../../contract/index.ts';
import { api, RequestError } from '../../state/api.ts';
import { startUploads, useUploads } from '../../state/uploads.ts';
import { someFrame } from '../../../contract/testing/items.ts';
import { Uploads } from './Uploads.tsx';

/** Uploads that wait until the test ends them. */
let waiting: { name: string; end: (result: ImportResult) => void; fail: (error: Error) => void }[];

beforeEach(() => {
  waiting = [];
  useUploads.setState({ uploads: [] });
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
