import { act, fireEvent, render, screen } from '@testing-library/react';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { beforeEach, expect, test } from 'vitest';
import { someFrame } from '../../contract/testing/items.ts';
import { useFrame } from './useFrame.ts';

const frames = Array.from({ length: 30 }, (_, n) => someFrame(n + 1));

function Page() {
  const [frame, choose] = useFrame('extract', frames);
  return (
    <>
      <p>{frame?.name ?? 'none'}</p>
      <input aria-label="Name" />
      <button onClick={() => choose(12)}>twelve</button>
    </>
  );
}

beforeEach(() => window.history.replaceState(null, '', '/'));

function open(): void {
  render(<RouterProvider router={createBrowserRouter([{ path: '/', element: <Page /> }])} />);
}
const press = (key: string, target: Element = document.body): boolean => fireEvent.keyDown(target, { key });

test('the address names the frame; what it does not know is the first', async () => {
  window.history.replaceState(null, '', '/?frame=7');
  open();
  expect(screen.getByText('F7.jpg')).toBeTruthy();
  fireEvent.click(screen.getByText('twelve'));
  expect(await screen.findByText('F12.jpg')).toBeTruthy();
  expect(window.location.search).toBe('?frame=12');
});

test('a frame that is gone gives way to the first', () => {
  window.history.replaceState(null, '', '/?frame=999');
  open();
  expect(screen.getByText('F1.jpg')).toBeTruthy();
});

test('a key held down steps once for every press, however slowly the page follows', async () => {
  open();
  act(() => {
    for (let n = 0; n < 20; n++) press('ArrowDown');
  });
  expect(await screen.findByText('F21.jpg')).toBeTruthy();
  act(() => {
    for (let n = 0; n < 100; n++) press('ArrowDown');
  });
  expect(await screen.findByText('F30.jpg')).toBeTruthy();
  act(() => void press('ArrowUp'));
  expect(await screen.findByText('F29.jpg')).toBeTruthy();
});

test('keys in a field are the field’s', () => {
  open();
  press('ArrowDown', screen.getByLabelText('Name'));
  expect(screen.getByText('F1.jpg')).toBeTruthy();
});
