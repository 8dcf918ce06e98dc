import { fireEvent, render, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { keyTable, useKeys } from './keys.ts';

const next = vi.fn();
const view = vi.fn();
const held = vi.fn();
const released = vi.fn();

function Bench({ on = true }: { on?: boolean }) {
  useKeys('extract', { next, view, before: held }, { enabled: on, onRelease: released });
  return (
    <>
      <input aria-label="words" />
      <input aria-label="slide" type="range" />
      <div role="dialog">
        <button type="button">inside</button>
      </div>
    </>
  );
}

const press = (key: string, target: Element = document.body, more: object = {}): void =>
  void fireEvent.keyDown(target, { key, code: /^\d$/.test(key) ? `Digit${key}` : `Key${key.toUpperCase()}`, ...more });

test('keys do what the table says and tell which one it was', () => {
  render(<Bench />);
  press('n');
  press('3');
  expect(next).toHaveBeenCalledTimes(1);
  expect(view).toHaveBeenCalledWith('3');
});

test('not while somebody types, nor with a modifier, nor behind a dialog; a slider does not type', () => {
  next.mockClear();
  render(<Bench />);
  press('n', screen.getByLabelText('words'));
  press('n', document.body, { ctrlKey: true });
  press('n', screen.getByRole('button', { name: 'inside' }));
  expect(next).not.toHaveBeenCalled();
  press('n', screen.getByLabelText('slide'));
  expect(next).toHaveBeenCalledTimes(1);
});

test('a key that is held is told when it is let go', () => {
  render(<Bench />);
  press('b');
  expect(held).toHaveBeenCalled();
  fireEvent.keyUp(document.body, { key: 'b', code: 'KeyB' });
  expect(released).toHaveBeenCalledWith('before');
});

test('switched off, nothing is heard', () => {
  next.mockClear();
  render(<Bench on={false} />);
  press('n');
  expect(next).not.toHaveBeenCalled();
});

test('no key means two things at one station', () => {
  for (const [place, table] of Object.entries(keyTable)) {
    const keys = Object.values(table).flatMap(({ keys: bound }) => bound.split(' ').filter(Boolean));
    const here = [
      ...keys,
      ...(place === 'everywhere' ? [] : Object.values(keyTable.everywhere).flatMap((k) => k.keys.split(' '))),
    ];
    expect(new Set(here).size, place).toBe(here.length);
  }
});
