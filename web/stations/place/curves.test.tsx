import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { expect, test, vi } from 'vitest';
import type { Curves } from '../../../core/place/index.ts';
import { CurvesPart } from './CurvesPart.tsx';

/** Curves over the whole picture, set by pointer, keys and typing. */

function Held({ heard }: { heard: (next: Curves | null) => void }) {
  const [curves, setCurves] = useState<Curves | null>(null);
  return (
    <CurvesPart
      curves={curves}
      onChange={(next) => {
        setCurves(next);
        heard(next);
      }}
    />
  );
}
function show() {
  const heard = vi.fn<(next: Curves | null) => void>();
  render(<Held heard={heard} />);
  const sheet = screen.getByRole('group', { name: 'Curve of all' });
  sheet.getBoundingClientRect = () => new DOMRect(0, 0, 280, 200);
  sheet.setPointerCapture = () => undefined;
  return { sheet, last: () => heard.mock.lastCall?.[0], heard };
}
const points = () => screen.getAllByRole('slider').map((point) => point.getAttribute('aria-valuetext'));

test('a click sets a point, dragging moves it, and it is kept once when let go', () => {
  const { sheet, last, heard } = show();
  fireEvent.pointerDown(sheet, { clientX: 140, clientY: 100 });
  fireEvent.pointerMove(sheet, { clientX: 140, clientY: 63.2 });
  expect(points()).toEqual(['0 % becomes 0 %', '50 % becomes 70 %', '100 % becomes 100 %']);
  expect(heard).not.toHaveBeenCalled();
  fireEvent.pointerUp(sheet);
  expect(heard).toHaveBeenCalledOnce();
  expect(last()?.all[1].to).toBeCloseTo(0.7, 6);
  // Past its neighbour it does not go.
  fireEvent.pointerDown(screen.getAllByRole('slider')[1]);
  fireEvent.pointerMove(sheet, { clientX: 400, clientY: 100 });
  fireEvent.pointerUp(sheet);
  expect(last()?.all[1]).toEqual({ from: 0.99, to: 0.5 });
});

test('keys nudge and remove; the last two points stay', () => {
  const { last } = show();
  const point = (n: number) => screen.getAllByRole('slider')[n];
  fireEvent.keyDown(point(0), { key: 'ArrowUp' });
  fireEvent.keyDown(point(0), { key: 'ArrowRight' });
  expect(last()?.all[0]).toEqual({ from: 0.01, to: 0.01 });
  fireEvent.keyDown(point(0), { key: 'Delete' });
  expect(points()).toHaveLength(2);
});

test('each channel has its own curve, typed values are kept, and straight ones are none at all', () => {
  const { last } = show();
  fireEvent.click(screen.getByRole('button', { name: 'Blue' }));
  fireEvent.focus(screen.getAllByRole('slider')[1]);
  const to = screen.getByRole('spinbutton', { name: /becomes/ });
  fireEvent.change(to, { target: { value: '90' } });
  fireEvent.blur(to);
  expect(last()?.blue[1]).toEqual({ from: 1, to: 0.9 });
  expect(last()?.all).toEqual([
    { from: 0, to: 0 },
    { from: 1, to: 1 },
  ]);
  fireEvent.keyDown(screen.getAllByRole('slider')[0], { key: 'ArrowUp' });
  expect(last()?.blue[0].to).toBe(0.01);
  fireEvent.click(screen.getByRole('button', { name: 'All straight' }));
  expect(last()).toBeNull();
});
