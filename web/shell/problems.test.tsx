import { fireEvent, render, screen } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { useStore } from '../state/store.ts';
import { useUploads, type Upload } from '../state/uploads.ts';
import { ProblemBar, UploadsUnderWay } from './ProblemBar.tsx';

/** What every page says when something is away, refused or on its way. */

const upload = (id: number, part: Partial<Upload> = {}): Upload =>
  ({ id, shootId: 1, setupId: 1, name: `${id}.jpg`, share: 0, ...part }) as Upload;
beforeEach(() => {
  useStore.setState({ problem: null, connected: true, databaseUp: true, unsaved: 0, broken: [] });
  useUploads.setState({ uploads: [] });
});
/** Whether the browser would ask before the page is left. */
function asks(): boolean {
  const leaving = new Event('beforeunload', { cancelable: true });
  window.dispatchEvent(leaving);
  return leaving.defaultPrevented;
}

test('all is well: nothing is said, and the page may be left', () => {
  const { container } = render(<ProblemBar />);
  expect(container.textContent).toBe('');
  expect(asks()).toBe(false);
});

test('a broken line says what waits to be saved, and that a batch goes on', () => {
  useStore.setState({ connected: false });
  const { rerender } = render(<ProblemBar />);
  expect(screen.getByRole('status').textContent).toContain('a running batch goes on when the server does');
  expect(screen.getByRole('status').textContent).toContain('What was saved is safe.');
  useStore.setState({ unsaved: 1 });
  rerender(<ProblemBar />);
  expect(screen.getByRole('status').textContent).toContain('One change of yours waits');
  useStore.setState({ unsaved: 3 });
  rerender(<ProblemBar />);
  expect(screen.getByRole('status').textContent).toContain('3 changes of yours wait');
});

test('the database alone is told apart from the line; while the line is broken nobody knows', () => {
  useStore.setState({ databaseUp: false });
  const { rerender } = render(<ProblemBar />);
  expect(screen.getByRole('status').textContent).toContain('The database ended and is being started again.');
  useStore.setState({ connected: false });
  rerender(<ProblemBar />);
  expect(screen.getAllByRole('status')).toHaveLength(1);
  expect(screen.getByRole('status').textContent).toContain('The connection is broken.');
});

test('a failure stands with its remedy until it is put away', () => {
  useStore.setState({ problem: { reason: 'the disk is full', remedy: 'Make room and do it again.' } });
  render(<ProblemBar />);
  const alert = screen.getByRole('alert');
  expect(alert.textContent).toContain('The disk is full.');
  expect(alert.textContent).toContain('Make room and do it again.');
  fireEvent.click(screen.getByRole('button', { name: 'Put away' }));
  expect(screen.queryByRole('alert')).toBeNull();
  expect(useStore.getState().problem).toBeNull();
});

test('what is kept and cannot be read is told beside the rest, each with its remedy', () => {
  useStore.setState({
    broken: [
      { reason: 'the plan “Hall” cannot be read', remedy: 'Import it anew.' },
      { reason: 'the settings of “Tent” cannot be read', remedy: 'Set them anew.' },
    ],
  });
  render(<ProblemBar />);
  const notes = screen.getAllByRole('note').map((note) => note.textContent);
  expect(notes).toHaveLength(2);
  expect(notes[0]).toContain('The plan “Hall” cannot be read.');
  expect(notes[1]).toContain('Set them anew.');
});

test('the browser asks before a page is left with a change or a file on its way, and no longer than that', () => {
  useStore.setState({ unsaved: 1 });
  const { rerender, unmount } = render(<ProblemBar />);
  expect(asks()).toBe(true);
  useStore.setState({ unsaved: 0 });
  rerender(<ProblemBar />);
  expect(asks()).toBe(false);
  useUploads.setState({ uploads: [upload(1)] });
  rerender(<ProblemBar />);
  expect(asks()).toBe(true);
  unmount();
  expect(asks()).toBe(false);
});

test('files under way are counted for their shoot; refused ones are named until they are read at Gather', () => {
  const refused = { outcome: 'refused', name: '2.jpg', reason: 'damaged', remedy: 'Copy it again.' } as const;
  useUploads.setState({
    uploads: [upload(1), upload(2, { result: refused }), upload(3, { shootId: 9 }), upload(4)],
  });
  const { rerender, container } = render(<UploadsUnderWay shootId={1} />);
  expect(container.textContent).toBe('Importing: 1 of 3, 1 refused (listed at Gather)');
  expect(screen.getByRole('progressbar', { name: 'Import' }).getAttribute('aria-valuenow')).toBe('33');
  useUploads.setState({ uploads: [upload(2, { result: refused })] });
  rerender(<UploadsUnderWay shootId={1} />);
  expect(container.textContent).toBe('Import finished, 1 refused (listed at Gather)');
  expect(screen.queryByRole('progressbar')).toBeNull();
  useUploads.setState({ uploads: [] });
  rerender(<UploadsUnderWay shootId={1} />);
  expect(container.textContent).toBe('');
});
